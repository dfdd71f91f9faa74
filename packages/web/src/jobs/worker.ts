import * as Comlink from 'comlink';
import type { Answer, Question } from './job.ts';
import { card } from './questions/card.ts';
import { checks, compute } from './questions/compute.ts';
import { budget, cycle, worst } from './questions/doings.ts';
import { dividers } from './questions/dividers.ts';
import { records, threadFiles } from './questions/files.ts';
import { filter } from './questions/filter.ts';
import { held, rowsCsv } from './questions/held.ts';
import { inductors } from './questions/inductors.ts';
import { library } from './questions/library.ts';
import { lossTable } from './questions/lossTable.ts';
import { map } from './questions/map.ts';
import { circuit, pathCircuit } from './questions/netlists.ts';
import { parts } from './questions/parts.ts';
import { shelfFile } from './questions/shelfFile.ts';
import { size } from './questions/size.ts';
import { warm } from './questions/warm.ts';

/** Every question, by its name. */
const questions = {
  budget,
  card,
  checks,
  circuit,
  compute,
  cycle,
  dividers,
  filter,
  held,
  inductors,
  library,
  lossTable,
  map,
  parts,
  pathCircuit,
  records,
  rowsCsv,
  shelfFile,
  size,
  threadFiles,
  warm,
  worst,
};
export type Questions = typeof questions;

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
    try {
      const work = (questions[name] as unknown as Question)(...(args as never[]));
      let told = performance.now();
      if (!isGenerator(work)) return { ok: true, value: work };
      for (;;) {
        const { done, value } = work.next();
        if (done) return { ok: true, value };
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
  stop(ticket: number): void {
    stopped.add(ticket);
  },
};

function isGenerator(work: unknown): work is Generator<number, unknown, undefined> {
  return typeof (work as { next?: unknown } | null)?.next === 'function';
}

export type WorkerApi = typeof api;
Comlink.expose(api);
