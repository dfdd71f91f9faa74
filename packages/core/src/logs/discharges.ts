import type { Outcome } from '../model/issue.ts';
import { chemistryOf, type ChemistryName } from '../model/chemistries/registry.ts';
import { Line } from '../numeric/line.ts';
import { pchip } from '../numeric/pchip.ts';
import { courseAt, logCourse, type Course } from './course.ts';
import { refuse, sumOf } from './log.ts';
import { REFERENCE, warmthOf, type Discharge, type WarmthFactors } from './warmth.ts';

export type { Discharge } from './warmth.ts';

/** A cell's open-circuit voltage and resistance over its charge, as discharges at several currents tell them. */
export interface CellCurves {
  /** [Ah] of the whole cell */
  capacityAh: number;
  /** state of charge, rising from 0 to 1, and there [V] and [Ω] */
  soc: number[];
  ocv: number[];
  ohms: number[];
  /** lowest state of charge two logs reach: below it the resistance is that found last */
  both: number;
  /** [A] mean of each log in a room, the slowest first */
  amps: number[];
  /** [V] of what the curves say of these logs from what was read: root of the mean square, and at most */
  residual: { rms: number; most: number };
  /** the same over the charge, for each log in a room: what was read less what the curves say [V] */
  misses: { amps: number; soc: number[]; volts: number[] }[];
  warmth?: WarmthFactors;
}

/** State of charge at which curves are told. */
const SOC = [0, 0.005, 0.01, 0.02, 0.035, 0.05, 0.075, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4, 0.45].concat([
  0.5, 0.55, 0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 0.98, 1,
]);
/** [°C] within which a log was taken in a room. The figures of a record hold at 25 °C. */
const ROOM = [18, 32] as const;
/** The fastest log draws at least so many times what the slower does. */
const APART = 1.5;
/** Share of the capacity that two logs have to cover. */
const COVERED = 0.5;
/** [V] by which a curve may fall towards a higher charge by noise; more is another fault. */
const FALLS = 0.004;

interface Options {
  chemistry: ChemistryName;
  /** [Ah] where it is known; else what the slower discharge gave */
  capacityAh?: number;
}

/**
 * Open-circuit voltage and resistance from discharges of one cell, all from full: at the same charge taken the volts lie on
 * a straight line over the currents, whose slope is the resistance; by least squares where there are more than two.
 * Elementary; quasi-static: what the branches hold is part of the resistance. Logs taken colder or warmer than in a room
 * tell by what factor resistance and charge differ there, the resistance taken out of the charge.
 */
export function fromDischarges(
  all: readonly Discharge[],
  { chemistry, capacityAh }: Options,
): Outcome<CellCurves> {
  const inRoom = ({ celsius = REFERENCE }: Discharge) => celsius >= ROOM[0] && celsius <= ROOM[1];
  const logs = all.filter(inRoom);
  if (logs.length < 2) {
    const where = logs.length < all.length ? ' in a room, 18 to 32 °C' : '';
    return refuse(
      'logs',
      `${logs.length}`,
      `two discharges of the same cell from full${where}, at two currents: one alone cannot tell resistance from open-circuit voltage`,
    );
  }
  const sums = logs.map((log) => ({ log, sum: sumOf(log) }));
  const empty = sums.findIndex(({ sum }) => !(sum.charge > 0));
  if (empty >= 0)
    return refuse(`log ${empty + 1}`, 'no charge taken', 'a discharge: a current other than zero');
  sums.sort((a, b) => a.sum.charge / a.sum.seconds - b.sum.charge / b.sum.seconds);
  const slow = sums[0]!;
  const amps = sums.map(({ sum }) => sum.charge / sum.seconds);
  const [least, most] = [amps[0]!, amps.at(-1)!];
  if (most < APART * least) {
    return refuse(
      'logs',
      `${short(least)} A and ${short(most)} A`,
      `currents that differ by a factor of ${APART} or more, such as 0.2 C and 1 C`,
    );
  }
  const capacity = 3600 * (capacityAh ?? slow.sum.charge / 3600);
  // By the second of them that reaches furthest.
  const charges = sums.map(({ sum }) => sum.charge).sort((x, y) => y - x);
  const covered = charges[1]! / capacity;
  if (covered < COVERED) {
    return refuse(
      'logs',
      `${Math.round(100 * covered)} % of the charge in two`,
      `discharges over at least ${100 * COVERED} % of ${short(capacity / 3600)} Ah`,
    );
  }
  const courses = sums.map(({ log }) => logCourse(log, capacity));
  // The slower a log the longer it goes on: where all others have ended it is the one that tells.
  const a = courses.reduce((far, c) => (c.most > far.most ? c : far));
  const both = Math.max(0, 1 - covered);
  let last: number | undefined;
  const ohms: number[] = [];
  const ocv: number[] = [];
  // From full down: what only the slower log reaches goes on with the resistance found last.
  for (const z of [...SOC].reverse()) {
    const one = courseAt(a, Math.min(1 - z, a.most));
    const here = courses.filter((c) => 1 - z <= c.most).map((c) => courseAt(c, 1 - z));
    const line = new Line();
    for (const { amps, volts } of here) line.add(amps, volts);
    if (line.tells) last = -line.slope;
    if (last === undefined || !(last > 0)) {
      return refuse(
        'logs',
        `more volts at ${short(most)} A than at ${short(least)} A near ${Math.round(100 * z)} % charge`,
        'two logs of the same cell, both from full',
      );
    }
    ohms.unshift(last);
    // Beyond the slower log the curve goes on as steeply as it ended.
    const beyond = 1 - z - a.most;
    ocv.unshift(
      line.tells ? line.at(0) : one.volts + one.amps * last + (beyond > 0 ? beyond * one.slope : 0),
    );
  }
  const [low, high] = chemistryOf(chemistry).rests;
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
  const found = { ...curves, residual: residualOf(curves, courses), misses: missesOf(curves, courses, amps) };
  const others = all.filter((log) => !inRoom(log));
  if (others.length === 0) return { ok: true, value: found };
  const warmth = warmthOf(curves, others, capacity);
  return warmth.ok ? { ok: true, value: { ...found, warmth: warmth.value } } : warmth;
}

type Curves = Pick<CellCurves, 'soc' | 'ocv' | 'ohms'>;

/** Bins over the charge in which misses are told. */
const BINS = 80;

function missesOf(
  { soc, ocv, ohms }: Curves,
  courses: readonly Course[],
  amps: readonly number[],
): CellCurves['misses'] {
  const [rest, inner] = [pchip(soc, ocv), pchip(soc, ohms)];
  return courses.map(({ taken, log }, n) => {
    const sums = Array.from({ length: BINS }, () => ({ z: 0, v: 0, n: 0 }));
    for (let k = 0; k < taken.length; k++) {
      const z = 1 - taken[k]!;
      const bin = sums[Math.min(BINS - 1, Math.max(0, Math.floor(z * BINS)))]!;
      bin.z += z;
      bin.v += log.volts[k]! - (rest.at(z) - log.amps[k]! * inner.at(z));
      bin.n++;
    }
    const some = sums.filter((b) => b.n > 0);
    return { amps: amps[n]!, soc: some.map((b) => b.z / b.n), volts: some.map((b) => b.v / b.n) };
  });
}

function residualOf({ soc, ocv, ohms }: Curves, courses: readonly Course[]): CellCurves['residual'] {
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
