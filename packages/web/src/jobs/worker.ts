import * as Comlink from 'comlink';
import type { Answer, Question } from './job.ts';
import { compute } from './questions/compute.ts';

/** What a first picture waits for, by its name. */
const first = { compute };

/** What follows it, or what the shelf asks. */
type Afterwards = typeof import('./afterwards.ts').afterwards;
const AFTERWARDS: readonly string[] = ['card', 'checks', 'shelfFile', 'warm'] satisfies (keyof Afterwards)[];

/** What is asked when it is wanted; it comes then. */
type Seldom = typeof import('./seldom.ts').seldom;
export type Questions = typeof first & Afterwards & Seldom;

async function questionNamed(name: keyof Questions): Promise<Question> {
  if (Object.hasOwn(first, name)) return first[name as keyof typeof first] as unknown as Question;
  if (AFTERWARDS.includes(name)) {
    const { afterwards } = await import('./afterwards.ts');
    return afterwards[name as keyof Afterwards] as unknown as Question;
  }
  const { seldom } = await import('./seldom.ts');
  return seldom[name as keyof Seldom] as unknown as Question;
}

/** [ms] How far it is need not be told more often. */
const TOLD = 100;

const stopped = new Set<number>();

/** A turn of the event loop: what was sent meanwhile is heard. */
function breathe(): Promise<void> {
  return new Promise((done) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      done();
    };
    port2.postMessage(null);
  });
}

const api = {
  async ask(
    ticket: number,
    name: keyof Questions,
    args: unknown[],
    progress?: (share: number) => void,
  ): Promise<Answer<unknown>> {
    const began = performance.now();
    const took = () => performance.now() - began;
    try {
      const question = await questionNamed(name);
      const work = question(...(args as never[]));
      let told = performance.now();
      if (!isGenerator(work)) return { ok: true, value: work, took: took() };
      for (;;) {
        const { done, value } = work.next();
        if (done) return { ok: true, value, took: took() };
        if (performance.now() - told > TOLD) {
          progress?.(value);
          told = performance.now();
        }
        await breathe();
        if (stopped.has(ticket)) return { ok: false, message: 'stopped', stopped: true };
      }
    } catch (error) {
      return { ok: false, message: (error as Error).message };
    } finally {
      stopped.delete(ticket);
    }
  },
  /** Whether it hears: it does between two yields. */
  hears(): true {
    return true;
  },
  stop(ticket: number): void {
    stopped.add(ticket);
  },
};

function isGenerator(work: unknown): work is Generator<number, unknown, undefined> {
  return typeof (work as { next?: unknown } | null)?.next === 'function';
}

export type WorkerApi = typeof api;
Comlink.expose(api);
