import {
  LOAD_ROW,
  loadColumn,
  MODES,
  ROW,
  rowAt,
  rowStride,
  stageColumn,
  STAGE_ROW,
} from '@mile-thread/core';
import type { Mode, RunResult, ThreadDocument } from '@mile-thread/core';
import type { Flows } from '../../drawing/ribbon.ts';

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
  const { data, count, stages, loads } = run.series;
  const stride = rowStride(stages, loads);
  const k = rowAt(run.series, time);
  const a = k * stride;
  const b = Math.min(k + 1, count - 1) * stride;
  const span = data[b]! - data[a]!;
  const f = span > 0 ? Math.min(1, Math.max(0, (time - data[a]!) / span)) : 0;
  const at = (c: number) => data[a + c]! + f * (data[b + c]! - data[a + c]!);
  const now = Math.max(data[a]!, Math.min(time, data[b]!));

  const cellVolts = at(ROW.cellVolts);
  const packAmps = at(ROW.packAmps);
  const packVolts = at(ROW.packVolts);
  const { series, parallel } = doc.pack;
  const stageMap: Instant['stages'] = new Map();
  const flows: Flows = {
    pack: {
      inside: series * parallel * at(ROW.restVolts) * at(ROW.cellAmps),
      terminals: series * cellVolts * packAmps,
      path: packVolts * packAmps,
    },
    stages: new Map(),
    loads: new Map(),
  };
  doc.stages.forEach((s, n) => {
    const c = stageColumn(n);
    const point = {
      inputVolts: at(c + STAGE_ROW.inputVolts),
      inputAmps: at(c + STAGE_ROW.inputAmps),
      outputVolts: at(c + STAGE_ROW.outputVolts),
      outputAmps: at(c + STAGE_ROW.outputAmps),
      mode: MODES[data[a + c + STAGE_ROW.mode]!] ?? 'unfed',
    };
    stageMap.set(s.id, point);
    flows.stages.set(s.id, {
      into: point.inputVolts * point.inputAmps,
      out: point.outputVolts * point.outputAmps,
    });
  });
  const loadMap: Instant['loads'] = new Map();
  doc.loads.forEach((l, n) => {
    const c = loadColumn(stages, n);
    const volts = at(c + LOAD_ROW.volts);
    const amps = at(c + LOAD_ROW.amps);
    const { min, max } = l.range;
    const state = volts < min * (1 - 1e-9) ? 'low' : volts > max * (1 + 1e-9) ? 'high' : 'in';
    loadMap.set(l.id, { volts, amps, state });
    flows.loads.set(l.id, volts * amps);
  });
  return {
    time: now,
    soc: at(ROW.soc),
    cellVolts,
    restVolts: at(ROW.restVolts),
    cellAmps: at(ROW.cellAmps),
    packVolts,
    packAmps,
    stages: stageMap,
    loads: loadMap,
    flows,
  };
}

/** [W] the largest power of the trunk and of any one row over the useful run, for the ribbon's scale. */
export function largestFlows(doc: ThreadDocument, run: RunResult): { trunk: number; branch: number } {
  const { data, count, stages, loads } = run.series;
  const stride = rowStride(stages, loads);
  let trunk = 0;
  let branch = 0;
  for (let k = 0; k < count && data[k * stride]! <= run.usefulEnd.time; k += Math.max(1, count >> 6)) {
    const row = k * stride;
    const cells = doc.pack.series * doc.pack.parallel;
    trunk = Math.max(trunk, cells * data[row + ROW.restVolts]! * data[row + ROW.cellAmps]!);
    doc.loads.forEach((_, n) => {
      const c = row + loadColumn(stages, n);
      branch = Math.max(branch, data[c]! * data[c + 1]!);
    });
  }
  return { trunk, branch };
}
