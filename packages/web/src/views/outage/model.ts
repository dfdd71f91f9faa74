import { goneOf, Reading, type BackupAnswers, type Hold } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';

/** Least state of charge from which it holds so long [s]; undefined where not even a full pack does. */
export function neededFor(
  { soc, seconds }: Pick<Hold, 'soc' | 'seconds'>,
  wanted: number,
): number | undefined {
  if (seconds[0]! < wanted) return undefined;
  for (let k = 1; k < soc.length; k++) {
    if (seconds[k]! >= wanted) continue;
    const share = (seconds[k - 1]! - wanted) / (seconds[k - 1]! - seconds[k]!);
    return soc[k - 1]! + share * (soc[k]! - soc[k - 1]!);
  }
  return 0;
}

/** What a timeline is drawn by. */
export interface LaneColumns {
  /** [h], share of charge, [A] of the adapter, [V] of the first essential load */
  hours: number[];
  soc: number[];
  amps: number[];
  volts: number[];
}

/**
 * Columns of the timeline for its lanes. Where a programme repeats within the hour, by cycles: the mean of the adapter's current
 * in each, and the volts at their least; of cycles that were skipped those before and after stand.
 */
export function lanesOf(doc: ThreadDocument, { result }: Pick<BackupAnswers, 'result'>): LaneColumns {
  const { series } = result;
  const rows = new Reading(series);
  const all = Array.from({ length: rows.count }, (_, k) => k);
  const essential = doc.loads.findIndex((l) => l.essential);
  const found = {
    hours: all.map((k) => rows.at(k, 'time') / SECONDS_PER_HOUR),
    soc: all.map((k) => rows.at(k, 'soc')),
    amps: all.map((k) => rows.of(k, 'sourceAmps')),
    volts: all.map((k) =>
      essential < 0 ? rows.at(k, 'packVolts') : rows.at(k, rows.load(essential, 'volts')),
    ),
  };
  const { cycles } = result;
  if (!cycles || cycles.begins.length === 0) return found;
  const { gone } = goneOf(doc.backup!);
  const edges = gone.flatMap((g) => [g.from, g.to]).map((t) => t / SECONDS_PER_HOUR);
  const hours = cycles.begins.map((t) => t / SECONDS_PER_HOUR);
  return byCycles(found, { begins: hours, period: cycles.period / SECONDS_PER_HOUR }, edges);
}

/** Relative distance of hours that are the same. */
const SAME = 1e-9;

/**
 * Rows laid together by cycles: two points for each stretch of one between edges, which are at once what lies between.
 * @param edges [h] at which mains comes or goes: a cycle is cut there
 */
export function byCycles(
  { hours, soc, amps, volts }: LaneColumns,
  { begins, period }: { begins: readonly number[]; period: number },
  edges: readonly number[],
): LaneColumns {
  const laid: LaneColumns = { hours: [], soc: [], amps: [], volts: [] };
  const add = (hour: number, charge: number, mean: number, least: number) => {
    laid.hours.push(hour);
    laid.soc.push(charge);
    laid.amps.push(mean);
    laid.volts.push(least);
  };
  let row = 0;
  /** What was holds on over cycles that were skipped. */
  const holdOn = (until: number, charge: number) => {
    const before = laid.hours.length - 1;
    if (before < 0 || until <= laid.hours[before]! * (1 + SAME)) return;
    add(until, charge, laid.amps[before]!, laid.volts[before]!);
  };
  for (const begin of begins) {
    const end = begin + period;
    const inside = edges.filter((e) => e > begin * (1 + SAME) && e < end * (1 - SAME));
    const cuts = [begin, ...inside.sort((a, b) => a - b), end];
    for (let k = 1; k < cuts.length; k++) {
      const [from, to] = [cuts[k - 1]!, cuts[k]!];
      const slack = SAME * (1 + to);
      while (row < hours.length && hours[row]! < from - slack) row++;
      let last = row;
      while (last + 1 < hours.length && hours[last + 1]! <= to + slack) last++;
      if (row >= hours.length || hours[row]! > to + slack || !(hours[last]! > hours[row]!)) continue;
      let sum = 0;
      let least = Infinity;
      for (let r = row; r < last; r++) {
        sum += ((amps[r]! + amps[r + 1]!) / 2) * (hours[r + 1]! - hours[r]!);
        // The row at a switch itself belongs to what comes after.
        if (hours[r + 1]! > hours[r]!) least = Math.min(least, volts[r]!);
      }
      const mean = sum / (hours[last]! - hours[row]!);
      holdOn(hours[row]!, soc[row]!);
      add(hours[row]!, soc[row]!, mean, least);
      add(hours[last]!, soc[last]!, mean, least);
      row = last;
    }
  }
  holdOn(hours.at(-1)!, soc.at(-1)!);
  return laid;
}

/** What moving or stretching an outage makes of it, within the timeline and to a quarter of an hour. [h] */
export function dragged(
  { from, hours }: { from: number; hours: number },
  grip: 'whole' | 'begin' | 'end',
  by: number,
  span: number,
): { from: number; hours: number } {
  const round = (h: number) => Math.round(4 * h) / 4;
  if (grip === 'whole') {
    return { from: Math.max(0, Math.min(round(from + by), span - Math.min(hours, span))), hours };
  }
  if (grip === 'end') {
    return { from, hours: Math.max(0.25, Math.min(round(hours + by), span - from)) };
  }
  const end = from + hours;
  const begin = Math.max(0, Math.min(round(from + by), end - 0.25));
  return { from: begin, hours: end - begin };
}

/** Most strikes that are drawn over a timeline: more would be one block. */
const MOST_STRIKES = 110;

/**
 * What heavy moments of the programme add to the adapter's current: upright strokes from its mean, spread evenly over the time in
 * which it carries; how many there are in truth does not show. NaN between them. [h] [A]
 * @param asked [W] of the loads on the rail in the mean and at the heaviest, at [V]
 */
export function strikes(
  hours: readonly number[],
  amps: readonly number[],
  asked: { mean: number; most: number; volts: number },
  span: number,
): { x: number[]; y: number[] } {
  const more = (asked.most - asked.mean) / Math.max(asked.volts, 1);
  const [x, y]: [number[], number[]] = [[], []];
  let row = 0;
  for (let k = 0; k < MOST_STRIKES; k++) {
    const at = ((k + 0.5) * span) / MOST_STRIKES;
    while (row + 1 < hours.length && hours[row + 1]! <= at) row++;
    const base = amps[row]!;
    if (!(base > 0) || amps[Math.min(row + 1, amps.length - 1)] === 0) continue;
    x.push(at, at, NaN);
    y.push(base, base + more, NaN);
  }
  return { x, y };
}

/**
 * Where labels above a lane stand: each on the lowest of some rows on which it does not lie on one before it, none where there is
 * no room; in their order.
 * @param labels where each begins and how wide it is, in one unit
 */
export function labelled(
  labels: readonly { at: number; wide: number }[],
  rows: number,
): (number | undefined)[] {
  const until = Array.from({ length: rows }, () => -Infinity);
  return labels.map(({ at, wide }) => {
    const row = until.findIndex((u) => u <= at);
    if (row < 0) return undefined;
    until[row] = at + wide;
    return row;
  });
}
