import type { Draw } from '../src/model/draw.ts';
import {
  CELL_LIBRARY,
  defaultLinear,
  VERSION,
  type CellRecord,
  type Load,
  type Pack,
  type Stage,
  type ThreadDocument,
} from './core.ts';

/** A thread with everything ideal but what is given; for tests. */
export function thread(parts: {
  cell?: CellRecord;
  pack?: Partial<Pack>;
  stages?: Stage[];
  loads: Load[];
  hours?: number;
}): ThreadDocument {
  const pack: Pack = {
    cell: parts.cell ?? CELL_LIBRARY['18650-energy']!,
    series: 1,
    parallel: 1,
    startSoc: 1,
    leads: [],
    ...parts.pack,
  };
  const { stages = [], loads, hours = 1 } = parts;
  return { format: 'mile-thread', version: VERSION, name: 'test', goals: { hours }, pack, stages, loads };
}

/** A load on the pack that works from `min` volts. */
export function load(draw: Exclude<Draw, 'string'>, value: number, more: Partial<Load> = {}): Load {
  const base = { id: 'load', name: 'Load', from: 'pack', range: { min: 0, max: 1000 }, essential: true };
  return { ...base, draw, [draw]: value, grade: 'assumed', ...more };
}

/** A cell with a straight OCV, one resistance and no branches. */
export function plainCell(capacityAh: number, empty: number, full: number, ohms: number): CellRecord {
  return {
    name: 'plain',
    chemistry: 'other',
    capacityAh,
    fullVolts: full,
    endVolts: empty + 0.01,
    damageVolts: 0,
    ocv: { soc: [0, 1], volts: [empty, full] },
    r0: { soc: [0, 1], ohms: [ohms, ohms] },
    branches: [],
    dischargeRate: 100,
    chargeRate: 1,
    selfDischargePerMonth: 0,
    grade: 'assumed',
  };
}

/** The same cell with all its resistance in series and no branches. */
export function quasiStatic(cell: CellRecord): CellRecord {
  const ohms = cell.r0.ohms.map((r, k) => cell.branches.reduce((sum, b) => sum + b.ohms[k]!, r));
  return { ...cell, r0: { soc: cell.r0.soc, ohms }, branches: [] };
}

/** Protection that never acts, with a resistance. */
export function seriesOhms(resistance: number, cutoffVolts = 0.1): NonNullable<Pack['protection']> {
  return { cutoffVolts, tripCurrent: 2000, resistance, quiescentCurrent: 0, grade: 'assumed' };
}

/** Linear stages each feeding the next and two loads: at the end all drop out at once, each within the others' searches. */
export function chainOf(depth: number): ThreadDocument {
  const stages = Array.from({ length: depth }, (_, k) => ({
    ...defaultLinear(`s${k}`, k === 0 ? 'pack' : `s${k - 1}`, 8.6 - 0.34 * k),
    minInput: 1,
    maxInput: 60,
    dropoutVolts: 0.05,
    dropoutResistance: 1.2,
  }));
  const loads = Array.from({ length: 2 * depth }, (_, k) => {
    const from = `s${k % depth}`;
    return load('current', 2e-3 + 1e-3 * (k % 5), { id: `l${k}`, from, range: { min: 3, max: 9 } });
  });
  return thread({ pack: { series: 3, protection: seriesOhms(0.02, 2.6) }, stages, loads });
}
