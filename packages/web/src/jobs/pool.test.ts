import { MessageChannel } from 'node:worker_threads';
import * as Comlink from 'comlink';
// @ts-expect-error -- the adapter comes without types
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { expect, it, vi } from 'vitest';
import type { Answer } from './job.ts';
import { keyOf } from './client.ts';
import { Pool } from './pool.ts';
import { demoThreads } from '@mile-thread/core';

/** A worker whose questions are answered by hand. */
function byHand() {
  const asked: { name: string; args: unknown[]; done(answer: Answer<unknown>): void }[] = [];
  const stopped: number[] = [];
  const apis: object[] = [];
  const deaf = new Set<object>();
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    const api = {
      ask: (_: number, name: string, args: unknown[]) =>
        new Promise<Answer<unknown>>((done) => asked.push({ name, args, done })),
      stop: (ticket: number) => void stopped.push(ticket),
      hears: () => (deaf.has(api) ? new Promise(() => undefined) : true),
    };
    apis.push(api);
    Comlink.expose(api, nodeEndpoint(port2));
    const worker = Object.assign(nodeEndpoint(port1), { terminate: () => port1.close(), onerror: null });
    made.push(port1);
    return worker as unknown as Worker;
  };
  const made: { close(): void }[] = [];
  const next = async (name: string) => {
    await vi.waitFor(() => expect(asked.some((a) => a.name === name)).toBe(true));
    return asked.splice(
      asked.findIndex((a) => a.name === name),
      1,
    )[0]!;
  };
  return { make, next, asked, stopped, apis, deaf, end: () => made.forEach((p) => p.close()) };
}

it('asks the most urgent first, stops what nobody waits for, and says what went wrong', async () => {
  const hand = byHand();
  const pool = new Pool(hand.make);
  const first = pool.ask('library', []);
  const soon = pool.ask('lossTable', [[], 1], { priority: 1 });
  const gone = new AbortController();
  const given_up = pool.ask('records', ['', false], { signal: gone.signal });
  const sight = pool.ask('lossTable', [[], 2]);
  gone.abort();
  await expect(given_up).rejects.toThrow('stopped');
  (await hand.next('library')).done({ ok: true, value: ['a'] });
  expect(await first).toEqual(['a']);
  // What is in sight before what is wanted soon, nothing of what was given up.
  const urgent = await hand.next('lossTable');
  expect(urgent.args).toEqual([[], 2]);
  urgent.done({ ok: false, message: 'no such table' });
  await expect(sight).rejects.toThrow('no such table');
  (await hand.next('lossTable')).done({ ok: true, value: 7 });
  expect(await soon).toBe(7);
  expect(hand.asked.every((a) => a.name === 'warm')).toBe(true);
  hand.end();
});

it('a worker that is silent for too long is replaced: its question is told, the others are asked anew', async () => {
  const hand = byHand();
  const pool = new Pool(hand.make, 2);
  const stuck = pool.ask('library', []);
  const other = pool.ask('lossTable', [[], 1]);
  await hand.next('library');
  // One that hears, however long it takes, is left alone.
  await new Promise((done) => setTimeout(done, 200));
  expect(hand.apis).toHaveLength(1);
  hand.deaf.add(hand.apis[0]!);
  await expect(stuck).rejects.toThrow('too long');
  expect(hand.apis.length).toBeGreaterThan(1);
  (await hand.next('lossTable')).done({ ok: true, value: 7 });
  expect(await other).toBe(7);
  hand.end();
});

it('a browser that starts no workers gets words', async () => {
  const pool = new Pool(() => {
    throw new DOMException('not allowed', 'SecurityError');
  });
  await expect(pool.ask('library', [])).rejects.toThrow('does not let the page work in the background');
});

it('a question is named by every argument; a thread by what matters to its answers', () => {
  const [doc] = demoThreads();
  const key = JSON.stringify(keyOf('size', [doc, 'lamp-rail']));
  expect(JSON.stringify(keyOf('size', [{ ...doc!, name: 'Other', notes: 'x' }, 'lamp-rail']))).toBe(key);
  expect(JSON.stringify(keyOf('size', [{ ...doc!, goals: { hours: 9 } }, 'lamp-rail']))).not.toBe(key);
  expect(JSON.stringify(keyOf('size', [doc, 'camera-rail']))).not.toBe(key);
  expect(JSON.stringify(keyOf('map', [doc, {}, 20]))).not.toBe(JSON.stringify(keyOf('map', [doc, {}, 25])));
});
