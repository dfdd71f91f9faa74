import { findings, simulate, type Finding, type RunResult, type ThreadDocument } from '@mile-thread/core';
import * as Comlink from 'comlink';

/** A run with what the checks say of it. */
export interface Computed {
  run: RunResult;
  findings: Finding[];
}

const api = {
  /** Run a thread down and check it. Values only: an error would lose its class on the way. */
  compute(doc: ThreadDocument): { ok: true; value: Computed } | { ok: false; message: string } {
    try {
      const run = simulate(doc);
      const value = { run, findings: findings(doc, run) };
      return Comlink.transfer({ ok: true as const, value }, [run.series.data.buffer]);
    } catch (error) {
      return { ok: false, message: (error as Error).message };
    }
  },
};

export type ComputeApi = typeof api;
Comlink.expose(api);
