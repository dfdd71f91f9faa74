import { serve } from '@hono/node-server';
import { demoThreads } from '@mile-thread/core';
import { truthOf } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import type { AddressInfo } from 'node:net';
import { connect } from 'node:net';
import type { Server } from 'node:http';
import { afterAll, describe, expect, it } from 'vitest';
import WebSocket, { WebSocketServer } from 'ws';
import { createApp } from '../app.ts';
import { Bench } from './bench.ts';

const doc: ThreadDocument = demoThreads().find((t) => t.name.includes('microscope'))!;
const RAIL = 'rail:camera-rail';

function benchOf(faulty = false) {
  let seconds = 0;
  const bench = new Bench(doc, { seed: 4, faulty }, () => seconds);
  const ask = (role: Parameters<Bench['ask']>[0], line: string) => bench.ask(role, line);
  return { bench, ask, wait: (by: number) => (seconds += by), truth: truthOf(doc, 4, faulty) };
}

describe('stand-ins on the bench', () => {
  it('say who they are, and what was wrong with a line', () => {
    const { ask } = benchOf();
    expect(ask('load', '*idn?')).toBe('Mile Thread,stand-in load,4,1');
    expect(ask('load', 'SOUR:CURR 3000')).toBeUndefined();
    expect(ask('load', 'SYST:ERR?')).toBe('-222,"Data out of range; 0 to 20"');
    ask('load', 'SOUR:CURR many');
    expect(ask('load', 'SYST:ERR?')).toMatch(/^-120/);
    ask('meter', 'LEADS nowhere');
    expect(ask('meter', 'SYST:ERR?')).toMatch(/^-224/);
    expect(ask('meter', 'WHAT?')).toBe('NAN');
    expect(ask('meter', 'SYST:ERR?')).toMatch(/^-113/);
    expect(ask('meter', 'SYST:ERR?')).toBe('0,"No error"');
    expect(ask('meter', '')).toBeUndefined();
  });

  it('keep few errors that nobody asks for, and say that more were lost', () => {
    const { ask } = benchOf();
    for (let k = 0; k < 5000; k++) ask('load', 'SOUR:CURR many');
    const told: string[] = [];
    for (let k = 0; k < 30; k++) told.push(ask('load', 'SYST:ERR?')!);
    expect(told.filter((t) => t.startsWith('-120'))).toHaveLength(19);
    expect(told[19]).toMatch(/^-350/);
    expect(told.slice(20).every((t) => t.startsWith('0,'))).toBe(true);
  });

  it('a set point nobody turned is found before a load hangs on it: by a supply in the place of the pack, and by the pack', () => {
    const { ask, truth } = benchOf(true);
    const { stage, volts } = truth.fault!;
    ask('supply', 'SOUR:VOLT 11.1');
    ask('supply', 'OUTP ON');
    ask('meter', `LEADS rail:${stage}`);
    expect(Number(ask('meter', 'READ?')) / volts).toBeCloseTo(1, 2);
    const planned = doc.stages.find((s) => s.id === stage) as { outputVolts: number };
    expect(volts / planned.outputVolts).toBeCloseTo(1.08, 6);
    ask('meter', 'LEADS pack');
    expect(Number(ask('meter', 'READ?')) / 11.1).toBeCloseTo(1, 2);
    ask('supply', 'OUTP OFF');
    expect(Number(ask('meter', 'READ?'))).toBeGreaterThan(12);
  });

  it('an electronic load: it sags behind its own leads, the rail holds until the module lets go; off when its line is lost', () => {
    const { bench, ask, wait } = benchOf();
    ask('meter', `LEADS ${RAIL}`);
    const open = Number(ask('meter', 'READ?'));
    ask('load', `LEADS ${RAIL}`);
    ask('load', 'SOUR:CURR 0.4');
    ask('load', 'INP ON');
    expect(Number(ask('load', 'MEAS:CURR?'))).toBeCloseTo(0.4, 2);
    const rail = Number(ask('meter', 'READ?'));
    expect(rail / open).toBeCloseTo(1, 2);
    // 35 mΩ of leads: at 1 A it reads 35 mV less of itself than off, beside what the rail gives way; its gain cancels.
    ask('load', 'SOUR:CURR 1');
    const loaded = Number(ask('meter', 'READ?'));
    const own = Number(ask('load', 'MEAS:VOLT?'));
    ask('load', 'INP OFF');
    const bare = Number(ask('load', 'MEAS:VOLT?'));
    const still = Number(ask('meter', 'READ?'));
    expect(Math.abs(bare - own - (still - loaded) - 0.035)).toBeLessThan(0.012);
    ask('load', 'SOUR:CURR 0.4');
    ask('load', 'INP ON');
    ask('meter', 'CONF:CURR');
    ask('meter', 'LEADS pack');
    const drawn = Number(ask('meter', 'READ?'));
    expect(drawn).toBeGreaterThan((0.4 * rail) / 12.6);
    wait(60);
    bench.left('load');
    expect(ask('load', 'INP?')).toBe('0');
    expect(Number(ask('meter', 'READ?'))).toBeLessThan(drawn / 20);
  });

  it('time goes by faster than real where asked: the pack empties, the board opens, filled it is full again', () => {
    const { ask, wait } = benchOf();
    ask('hands', 'LOADS on');
    const full = Number(ask('meter', 'MEAS:VOLT?'));
    expect(ask('hands', 'LOADS:SINCE?')).toBe('0.000');
    wait(3600);
    const [seconds, volts, amps] = ask('meter', 'READ:ALL?')!.split(',').map(Number);
    expect(seconds).toBe(3600);
    expect(volts! / Number(ask('meter', 'MEAS:VOLT?'))).toBeCloseTo(1, 2);
    expect(amps).toBeGreaterThan(0.1);
    const later = Number(ask('meter', 'MEAS:VOLT?'));
    expect(later).toBeLessThan(full - 0.3);
    // Switched off it rests higher, and does not sink on.
    ask('hands', 'LOADS off');
    expect(Number(ask('meter', 'MEAS:VOLT?'))).toBeGreaterThan(later);
    ask('hands', 'LOADS on');
    ask('hands', 'SPEED 100');
    wait(3 * 36);
    expect(Number(ask('hands', 'TIME?'))).toBeCloseTo(3600 + 10_800, 3);
    wait(3600);
    expect(Number(ask('meter', 'MEAS:VOLT?'))).toBe(0);
    ask('hands', 'LOADS off');
    ask('hands', 'PACK:FILL');
    expect(Number(ask('meter', 'MEAS:VOLT?'))).toBeGreaterThan(full);
  });

  it('charges as the thread says: the current in both phases, its end, and the source by itself', () => {
    const charged = demoThreads().find((t) => t.charging?.control?.terminate !== undefined)!;
    let seconds = 0;
    const bench = new Bench(
      { ...charged, pack: { ...charged.pack, startSoc: 0.4 } },
      { seed: 2 },
      () => seconds,
    );
    const ask = (role: Parameters<Bench['ask']>[0], line: string) => bench.ask(role, line);
    ask('meter', 'LEADS source');
    const open = Number(ask('meter', 'MEAS:VOLT?'));
    ask('load', 'LEADS source');
    ask('load', 'SOUR:CURR 0.5');
    ask('load', 'INP ON');
    expect(Number(ask('meter', 'MEAS:VOLT?'))).toBeLessThanOrEqual(open);
    ask('load', 'INP OFF');
    ask('charger', 'OUTP ON');
    const fast = Number(ask('charger', 'MEAS:CURR?'));
    const set = bench.world.truth.doc.charging!.control!;
    expect(fast).toBeGreaterThan(0.5 * set.current);
    let last = fast;
    for (let k = 0; k < 4000 && Number(ask('charger', 'MEAS:CURR?')) > 0; k++) {
      last = Number(ask('charger', 'MEAS:CURR?'));
      seconds += 20;
    }
    expect(last).toBeLessThan(fast);
    expect(last).toBeGreaterThan(0.5 * set.terminate!);
  });
});

/** [ms] after which a silent bench goes off, here. */
const DEAD_MAN = 400;

describe('over sockets', () => {
  const sockets = new WebSocketServer({ noServer: true });
  const server = serve({
    fetch: createApp('nowhere', { deadMan: DEAD_MAN }).fetch,
    port: 0,
    hostname: '127.0.0.1',
    websocket: { server: sockets },
  }) as Server;
  const base = () => `http://127.0.0.1:${(server.address() as AddressInfo).port}/standins`;
  afterAll(() => {
    for (const s of sockets.clients) s.terminate();
    server.close();
  });
  const make = (body: unknown, headers: Record<string, string> = {}) =>
    fetch(base(), { method: 'POST', body: JSON.stringify(body), headers });
  const line = (id: string, role: string, origin?: string) =>
    new WebSocket(`${base().replace('http', 'ws')}/${id}/${role}`, origin ? { origin } : {});
  const opened = (socket: WebSocket) =>
    new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
  const answer = (socket: WebSocket, text: string) => {
    const got = new Promise<string>((resolve) => socket.once('message', (m) => resolve(String(m))));
    socket.send(text);
    return got;
  };

  it('a bench is made of a thread; a line may come in parts; a lost connection takes the output off', async () => {
    const { id } = (await (await make({ thread: doc, seed: 4, speed: 60 })).json()) as { id: string };
    const [load, other] = [line(id, 'load'), line(id, 'load')];
    await Promise.all([opened(load), opened(other)]);
    load.send('SOUR:CURR 0.3\nINP ');
    load.send('ON\nLEA');
    expect(await answer(load, `DS ${RAIL}\nINP?\n`)).toBe('1\n');
    const closed = new Promise((resolve) => load.once('close', resolve));
    load.terminate();
    await closed;
    await expect.poll(() => answer(other, 'INP?\n')).toBe('0\n');
    other.close();
  });

  it('a page that is frozen, its line half-open, leaves nothing on; one that goes on asking does', async () => {
    const { id } = (await (await make({ thread: doc })).json()) as { id: string };
    const [load, hands] = [line(id, 'load'), line(id, 'hands')];
    await Promise.all([opened(load), opened(hands)]);
    expect(await answer(load, 'SOUR:CURR 0.3\nINP ON\nINP?\n')).toBe('1\n');
    await answer(hands, 'LOADS on\nSPEED?\n');
    // Whoever is at the bench is heard of by any of its lines.
    for (const until = Date.now() + 2 * DEAD_MAN; Date.now() < until;)
      expect(await answer(hands, 'SPEED?\n')).toBeTruthy();
    expect(await answer(load, 'INP?\n')).toBe('1\n');
    const gone = Promise.all([load, hands].map((s) => new Promise((resolve) => s.once('close', resolve))));
    await gone;
    const again = line(id, 'load');
    await opened(again);
    expect(await answer(again, 'INP?\n')).toBe('0\n');
    again.close();
  });

  it('bears a seed beyond all numbers and a Host that is none', async () => {
    expect((await make({ thread: doc, seed: 1e308 })).status).toBe(200);
    const { port } = server.address() as AddressInfo;
    for (const host of ['[', 'a b', '::::', 'localhost:99999999', '%', '\u00e9'.repeat(200)]) {
      const said = await new Promise<string>((resolve) => {
        const raw = connect(port, '127.0.0.1', () =>
          raw.write(`GET /standins/b1/load HTTP/1.1\r\nHost: ${host}\r\nConnection: close\r\n\r\n`),
        );
        let text = '';
        raw.on('data', (data) => (text += String(data)));
        raw.on('close', () => resolve(text));
        raw.on('error', () => resolve(text));
      });
      expect(said, host).toMatch(/^HTTP\/1.1 4\d\d/);
      // Upgrades take another way through the server.
      const upgrade = new WebSocket(`ws://127.0.0.1:${port}/standins/b1/load`, { headers: { host } });
      await expect(opened(upgrade)).rejects.toThrow();
    }
    expect((await make({ thread: doc })).status).toBe(200);
  });

  it('says why a bench is not made, and lets nobody else in', async () => {
    expect((await make({ thread: { format: 'mile-thread' } })).status).toBe(400);
    expect((await make({ thread: doc }, { origin: 'http://evil.example' })).status).toBe(403);
    // A page of this machine, but of another server on it.
    expect((await make({ thread: doc }, { origin: 'http://127.0.0.1:5' })).status).toBe(403);
    expect((await make({ thread: doc }, { origin: new URL(base()).origin })).status).toBe(200);
    const { id } = (await (await make({ thread: doc })).json()) as { id: string };
    await expect(opened(line(id, 'load', 'http://evil.example'))).rejects.toThrow('403');
    await expect(opened(line('none', 'load'))).rejects.toThrow('404');
    await expect(opened(line(id, 'oven'))).rejects.toThrow('404');
  });
});
