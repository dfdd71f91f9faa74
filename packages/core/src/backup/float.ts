import { agesFull } from '../model/chemistries/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { cellTable } from '../plant/cellTable.ts';
import { heldFrom, type Hold } from './hold.ts';

/** Cells that stand on mains at some volts. */
export interface FloatLevel {
  /** [V] of one cell, at rest */
  volts: number;
  soc: number;
  /** [s] that they then hold, new and aged */
  seconds: number;
  aged: number;
  /** how many times as long they last as at full, by time alone */
  longer: number;
}

/** [V] Steps below full, and how many: further down chargers and gauges are seldom made for it. */
const STEP = 0.05;
const STEPS = 4;
/** [V] less for twice the life. Common practice, no source: makers' figures go from 1.4 to 2.5 times. */
const TWICE = 0.1;

/** How many times as long cells last that stand at some volts as at full ones, by time alone. [V] of one cell */
export function timesLonger(fullVolts: number, volts: number): number {
  return 2 ** ((fullVolts - volts) / TWICE);
}

/**
 * Levels to let cells stand at on mains, from full downwards: what they hold, and how much longer they last; none of cells that
 * hardly age by standing full.
 * @param holds curves of hold times over the charge, see `holdTimes`
 */
export function floatLevels({ pack }: ThreadDocument, holds: readonly Hold[]): FloatLevel[] {
  const { fullVolts } = pack.cell;
  if (!agesFull(pack.cell)) return [];
  const table = cellTable(pack.cell);
  const of = (name: Hold['name'], soc: number) =>
    heldFrom(
      holds.find((h) => h.name === name)!,
      soc,
    );
  return Array.from({ length: STEPS }, (_, k) => Number((fullVolts - k * STEP).toFixed(3))).map((volts) => {
    const soc = table.socAt(volts);
    return {
      volts,
      soc,
      seconds: of('new', soc),
      aged: of('aged', soc),
      longer: timesLonger(fullVolts, volts),
    };
  });
}

/** The lowest level that still holds as long as wanted when aged; undefined where none does, or nothing is wanted. */
export function lowestLevel(
  levels: readonly FloatLevel[],
  wanted: number | undefined,
): FloatLevel | undefined {
  return wanted === undefined ? undefined : levels.filter((l) => l.aged >= wanted).at(-1);
}
