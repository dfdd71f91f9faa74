import { ROW, readingOf, type Reading } from '@mile-thread/core/solve';
import { cycleSeconds, type Mode, type ThreadDocument } from '@mile-thread/core/model';
import type { RunResult } from '@mile-thread/core/solve';
import type { Flows } from './ribbon.ts';

/** Everything at one instant of a run, read for the screen. */
export interface Instant {
  /** [s] */
  time: number;
  soc: number;
  /** [V] [A] */
  cellVolts: number;
  restVolts: number;
  cellAmps: number;
  packVolts: number;
  packAmps: number;
  stages: Map<string, StageInstant>;
  loads: Map<string, { volts: number; amps: number; state: 'in' | 'low' | 'high' }>;
  flows: Flows;
}

export interface StageInstant {
  inputVolts: number;
  inputAmps: number;
  outputVolts: number;
  outputAmps: number;
  mode: Mode;
}

/**
 * The run at a time: values straight between rows, modes those of the row before.
 * @param time [s], held within the run
 */
export function sampleRun(doc: ThreadDocument, run: RunResult, time: number): Instant {
  const reading = readingOf(run);
  const last = reading.rowAt(time);
  const shown = inKeptCycle(doc, reading, last, time);
  const a = shown === time ? last : reading.rowAt(shown);
  const b = Math.min(a + 1, reading.count - 1);
  const span = reading.time(b) - reading.time(a);
  const f = span > 0 ? Math.min(1, Math.max(0, (shown - reading.time(a)) / span)) : 0;
  const at = (column: number) => {
    const value = reading.at(a, column);
    return value + f * (reading.at(b, column) - value);
  };
  const cellVolts = at(ROW.cellVolts);
  const packAmps = at(ROW.packAmps);
  const packVolts = at(ROW.packVolts);
  const { series, parallel } = doc.pack;
  const stages: Instant['stages'] = new Map();
  const flows: Flows = {
    pack: {
      inside: series * parallel * at(ROW.restVolts) * at(ROW.cellAmps),
      terminals: series * cellVolts * packAmps,
      path: packVolts * packAmps,
    },
    stages: new Map(),
    loads: new Map(),
  };
  doc.stages.forEach((s, k) => {
    const point = {
      inputVolts: at(reading.stage(k, 'inputVolts')),
      inputAmps: at(reading.stage(k, 'inputAmps')),
      outputVolts: at(reading.stage(k, 'outputVolts')),
      outputAmps: at(reading.stage(k, 'outputAmps')),
      mode: reading.stageReading(a, k).mode,
    };
    stages.set(s.id, point);
    flows.stages.set(s.id, {
      into: point.inputVolts * point.inputAmps,
      out: point.outputVolts * point.outputAmps,
    });
  });
  const loads: Instant['loads'] = new Map();
  doc.loads.forEach((l, n) => {
    const volts = at(reading.load(n, 'volts'));
    const amps = at(reading.load(n, 'amps'));
    const { min, max } = l.range;
    const state = volts < min * (1 - 1e-9) ? 'low' : volts > max * (1 + 1e-9) ? 'high' : 'in';
    loads.set(l.id, { volts, amps, state });
    flows.loads.set(l.id, volts * amps);
  });
  return {
    time: shown === time ? Math.max(reading.time(a), Math.min(time, reading.time(b))) : time,
    soc: shown === time ? at(ROW.soc) : socAt(reading, last, time),
    cellVolts,
    restVolts: at(ROW.restVolts),
    cellAmps: at(ROW.cellAmps),
    packVolts,
    packAmps,
    stages,
    loads,
    flows,
  };
}

/**
 * Rows hold one cycle of a programme here and there: a time in a skipped one is shown as the same time of the last cycle
 * kept before it. @returns [s] the time to read at
 */
function inKeptCycle({ programme }: ThreadDocument, reading: Reading, row: number, time: number): number {
  if (programme?.after !== 'repeat' || row + 1 >= reading.count) return time;
  const period = cycleSeconds(programme);
  const from = reading.time(row);
  if (reading.time(row + 1) - from < period * (1 - 1e-9)) return time;
  return time - Math.max(0, Math.ceil((time - from) / period - 1e-9)) * period;
}

/** State of charge between two rows, straight. */
function socAt(reading: Reading, row: number, time: number): number {
  const [t0, t1] = [reading.time(row), reading.time(row + 1)];
  const [s0, s1] = [reading.at(row, ROW.soc), reading.at(row + 1, ROW.soc)];
  return s0 + ((time - t0) / (t1 - t0)) * (s1 - s0);
}

/** [W] the largest power of the trunk and of any one row over the useful run, for the ribbon's scale. */
export function largestFlows(doc: ThreadDocument, run: RunResult): { trunk: number; branch: number } {
  const reading = readingOf(run);
  const cells = doc.pack.series * doc.pack.parallel;
  let trunk = 0;
  let branch = 0;
  for (let row = 0; row <= reading.last; row += Math.max(1, reading.count >> 6)) {
    trunk = Math.max(trunk, cells * reading.at(row, ROW.restVolts) * reading.at(row, ROW.cellAmps));
    doc.loads.forEach((_, n) => (branch = Math.max(branch, reading.loadWatts(row, n))));
  }
  return { trunk, branch };
}
