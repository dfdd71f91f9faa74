import { AGED } from '../model/belief.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { Allowance } from '../numeric/allowance.ts';
import { compile } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { Reading } from '../run/reading/reading.ts';
import { runPlant } from '../run/rundown.ts';
import { ROW } from '../run/account/series.ts';

/** How long the pack holds, by the charge it has when mains goes. */
export interface Hold {
  name: 'new' | 'aged' | 'cold';
  /** state of charge, falling, and [s] from there to the useful end */
  soc: number[];
  seconds: number[];
}

/** What the hold times of a thread may cost together. */
const EFFORT = 200_000;
/** Points of a hold curve. */
const POINTS = 25;

/**
 * Hold times by the charge left, of new cells, of aged ones and in the coldest air: each one run from full, read backwards; what
 * the cells' branches would have behind them differs a little.
 */
export function holdTimes(doc: ThreadDocument, allowance = new Allowance(EFFORT)): Hold[] {
  const { minAir } = surroundingsOf(doc);
  const of = (name: Hold['name'], conditions: Partial<Conditions>): Hold => ({
    name,
    ...heldBy(doc, conditions, allowance),
  });
  return [of('new', {}), of('aged', { ...AGED }), of('cold', { air: minAir })];
}

/** Hold times [s] over the charge when mains goes and over what age has left of the cells. */
export interface HoldField {
  /** state of charge, falling, and charge left of the rated, falling */
  soc: number[];
  left: number[];
  /** by what is left, then by the state of charge */
  seconds: number[][];
}

/** Ages of a field: from new to 60 % of the rated charge. */
const AGES = Array.from({ length: 9 }, (_, k) => 1 - k / 20);

/** The same over the age of the cells: resistance rises with the charge lost, as it has of an aged cell. */
export function* holdField(doc: ThreadDocument): Generator<number, HoldField, undefined> {
  const perLoss = (AGED.resistance - 1) / (1 - AGED.capacity);
  const held: Omit<Hold, 'name'>[] = [];
  for (const capacity of AGES) {
    held.push(heldBy(doc, { capacity, resistance: 1 + perLoss * (1 - capacity) }));
    yield held.length / AGES.length;
  }
  return { soc: held[0]!.soc, left: [...AGES], seconds: held.map((h) => h.seconds) };
}

/** One run from full, read backwards. */
function heldBy(
  doc: ThreadDocument,
  conditions: Partial<Conditions>,
  allowance?: Allowance,
): Omit<Hold, 'name'> {
  const run = runPlant(compile(doc, { startSoc: 1, ...conditions }), {
    rows: 200,
    ...(allowance && { allowance }),
  });
  const reading = new Reading(run.series, Infinity);
  const until = run.usefulEnd.time;
  const soc = Array.from({ length: POINTS }, (_, k) => 1 - k / (POINTS - 1));
  return { soc, seconds: soc.map((s) => Math.max(0, until - timeAt(reading, s))) };
}

/** [s] when so much charge is left, straight between rows. */
function timeAt(reading: Reading, soc: number): number {
  for (let row = 1; row < reading.count; row++) {
    const [a, b] = [reading.at(row - 1, ROW.soc), reading.at(row, ROW.soc)];
    if (b > soc) continue;
    const share = a > b ? Math.min(1, Math.max(0, (a - soc) / (a - b))) : 0;
    return reading.time(row - 1) + share * (reading.time(row) - reading.time(row - 1));
  }
  return reading.time(reading.count - 1);
}

/** Hold time [s] of a curve from a state of charge. */
export function heldFrom({ soc, seconds }: Pick<Hold, 'soc' | 'seconds'>, from: number): number {
  for (let k = 1; k < soc.length; k++) {
    if (soc[k]! > from) continue;
    const share = (soc[k - 1]! - from) / (soc[k - 1]! - soc[k]!);
    return seconds[k - 1]! + share * (seconds[k]! - seconds[k - 1]!);
  }
  return 0;
}
