import type { Outcome } from '../model/issue.ts';
import type { CHEMISTRIES } from '../model/cell.ts';
import { pchip } from '../numeric/pchip.ts';
import { refuse, sumOf, type Log } from './log.ts';

/** A cell's open-circuit voltage and resistance over its charge, as two discharges at two currents tell them. */
export interface CellCurves {
  /** [Ah] of the whole cell */
  capacityAh: number;
  /** state of charge, rising from 0 to 1, and there [V] and [Ω] */
  soc: number[];
  ocv: number[];
  ohms: number[];
  /** lowest state of charge both logs reach: below it the resistance is that found last */
  both: number;
  /** [A] mean of the slower and of the faster log */
  amps: [number, number];
  /** [V] of what the curves say of both logs from what was read: root of the mean square, and at most */
  residual: { rms: number; most: number };
}

/** State of charge at which curves are told. */
const SOC = [0, 0.005, 0.01, 0.02, 0.035, 0.05, 0.075, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4, 0.45].concat([
  0.5, 0.55, 0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 0.98, 1,
]);
/** Share of the charge to either side within which readings are taken together. */
const SIDE = 0.012;
/** The faster log draws at least so many times what the slower does. */
const APART = 1.5;
/** Share of the capacity that both logs have to cover. */
const COVERED = 0.5;
/** [V] by which a curve may fall towards a higher charge by noise; more is another fault. */
const FALLS = 0.004;

/** [V] within which a cell of a chemistry rests. Common practice, no source. */
export const REST_VOLTS: Record<(typeof CHEMISTRIES)[number], [number, number]> = {
  NMC: [2.0, 4.4],
  NCA: [2.0, 4.4],
  LCO: [2.0, 4.5],
  LFP: [1.8, 3.7],
  LTO: [1.2, 2.9],
  other: [0.5, 6],
};

interface Options {
  chemistry: (typeof CHEMISTRIES)[number];
  /** [Ah] where it is known; else what the slower discharge gave */
  capacityAh?: number;
}

/**
 * Open-circuit voltage and resistance from two discharges of one cell, both from full: at the same charge taken what
 * differs between the volts is the resistance times what differs between the currents.
 * Elementary; quasi-static: what the branches hold is part of the resistance.
 */
export function fromTwoCurves(logs: readonly Log[], { chemistry, capacityAh }: Options): Outcome<CellCurves> {
  if (logs.length < 2) {
    return refuse(
      'logs',
      `${logs.length}`,
      'two discharges of the same cell from full, at two currents: one alone cannot tell resistance from open-circuit voltage',
    );
  }
  const sums = logs.map((log) => ({ log, sum: sumOf(log) }));
  const empty = sums.findIndex(({ sum }) => !(sum.charge > 0));
  if (empty >= 0)
    return refuse(`log ${empty + 1}`, 'no charge taken', 'a discharge: a current other than zero');
  sums.sort((a, b) => a.sum.charge / a.sum.seconds - b.sum.charge / b.sum.seconds);
  const [slow, fast] = [sums[0]!, sums.at(-1)!];
  const amps: [number, number] = [slow.sum.charge / slow.sum.seconds, fast.sum.charge / fast.sum.seconds];
  if (amps[1] < APART * amps[0]) {
    return refuse(
      'logs',
      `${short(amps[0])} A and ${short(amps[1])} A`,
      `currents that differ by a factor of ${APART} or more, such as 0.2 C and 1 C`,
    );
  }
  const capacity = 3600 * (capacityAh ?? slow.sum.charge / 3600);
  const covered = Math.min(slow.sum.charge, fast.sum.charge) / capacity;
  if (covered < COVERED) {
    return refuse(
      'logs',
      `${Math.round(100 * covered)} % of the charge in both`,
      `discharges over at least ${100 * COVERED} % of ${short(capacity / 3600)} Ah`,
    );
  }
  const [a, b] = [courseOf(slow.log, capacity), courseOf(fast.log, capacity)];
  const both = Math.max(0, 1 - covered);
  let last: number | undefined;
  const ohms: number[] = [];
  const ocv: number[] = [];
  // From full down: what only the slower log reaches goes on with the resistance found last.
  for (const z of [...SOC].reverse()) {
    const one = at(a, Math.min(1 - z, a.most));
    const two = 1 - z <= b.most ? at(b, 1 - z) : undefined;
    if (two) last = (one.volts - two.volts) / (two.amps - one.amps);
    if (last === undefined || !(last > 0)) {
      return refuse(
        'logs',
        `more volts at ${short(amps[1])} A than at ${short(amps[0])} A near ${Math.round(100 * z)} % charge`,
        'two logs of the same cell, both from full',
      );
    }
    ohms.unshift(last);
    // Beyond the slower log the curve goes on as steeply as it ended.
    const beyond = 1 - z - a.most;
    ocv.unshift(one.volts + one.amps * last + (beyond > 0 ? beyond * one.slope : 0));
  }
  const [low, high] = REST_VOLTS[chemistry];
  const outside = ocv.find((v, k) => (k > 1 || k === SOC.length - 1) && !(v >= low && v <= high));
  if (outside !== undefined) {
    return refuse(
      'logs',
      `${short(outside)} V at rest`,
      `${low} to ${high} V for ${chemistry}: perhaps another chemistry, a pack of several cells, or another column`,
    );
  }
  for (let k = 1; k < ocv.length; k++) {
    if (ocv[k]! < ocv[k - 1]! - FALLS) {
      return refuse(
        'logs',
        `volts at rest that fall from ${short(ocv[k - 1]!)} to ${short(ocv[k]!)} V as the charge rises to ${Math.round(100 * SOC[k]!)} %`,
        'one discharge from full to empty in each log',
      );
    }
    ocv[k] = Math.max(ocv[k]!, ocv[k - 1]!);
  }
  const curves = { capacityAh: capacity / 3600, soc: [...SOC], ocv, ohms, both, amps };
  return { ok: true, value: { ...curves, residual: residualOf(curves, [a, b]) } };
}

/** Volts and current over the share of the charge taken. */
interface Course {
  taken: Float64Array;
  log: Log;
  most: number;
}

function courseOf(log: Log, capacity: number): Course {
  const { seconds, amps } = log;
  const taken = new Float64Array(seconds.length);
  for (let k = 1; k < seconds.length; k++) {
    taken[k] = taken[k - 1]! + ((seconds[k]! - seconds[k - 1]!) * (amps[k]! + amps[k - 1]!)) / 2 / capacity;
  }
  return { taken, log, most: taken[seconds.length - 1]! };
}

/** Volts, their slope and current at a share of the charge taken, by a straight line through the readings around it. */
function at({ taken, log, most }: Course, x: number): { volts: number; amps: number; slope: number } {
  const [from, to] = [Math.max(0, x - SIDE), Math.min(most, x + SIDE)];
  let k = lowerBound(taken, from);
  // Few readings: at least the two around it.
  if (k > 0 && !(taken[k + 1]! <= to)) k--;
  let [n, sx, sv, sa, sxx, sxv] = [0, 0, 0, 0, 0, 0];
  for (; k < taken.length && (taken[k]! <= to || n < 2); k++) {
    const d = taken[k]! - x;
    n++;
    sx += d;
    sv += log.volts[k]!;
    sa += log.amps[k]!;
    sxx += d * d;
    sxv += d * log.volts[k]!;
  }
  const spread = n * sxx - sx * sx;
  const slope = spread > 0 ? (n * sxv - sx * sv) / spread : 0;
  return { volts: (sv - slope * sx) / n, amps: sa / n, slope };
}

/** First place in a rising list that is not below x. */
function lowerBound(list: Float64Array, x: number): number {
  let [low, high] = [0, list.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]! < x) low = middle + 1;
    else high = middle;
  }
  return low;
}

function residualOf(
  { soc, ocv, ohms }: Pick<CellCurves, 'soc' | 'ocv' | 'ohms'>,
  courses: readonly Course[],
): CellCurves['residual'] {
  const [rest, inner] = [pchip(soc, ocv), pchip(soc, ohms)];
  let [sum, most, n] = [0, 0, 0];
  for (const { taken, log } of courses) {
    for (let k = 0; k < taken.length; k++) {
      const z = 1 - taken[k]!;
      if (!(z >= 0)) continue;
      const miss = Math.abs(rest.at(z) - log.amps[k]! * inner.at(z) - log.volts[k]!);
      sum += miss * miss;
      most = Math.max(most, miss);
      n++;
    }
  }
  return { rms: Math.sqrt(sum / n), most };
}

const short = (v: number) => Number(v.toPrecision(3));
