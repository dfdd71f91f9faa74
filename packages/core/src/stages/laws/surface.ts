import { leastSquares } from '../../numeric/leastSquares.ts';
import type { LossPoint } from '../../model/loss.ts';

/** Loss power over input volts and output current, from readings. */
export interface LossSurface {
  /** [W] */
  at(inputVolts: number, outputAmps: number): number;
  outside(inputVolts: number, outputAmps: number): boolean;
  /** [V] of the lines, rising */
  readonly volts: readonly number[];
}

interface Line {
  volts: number;
  amps: Float64Array;
  watts: Float64Array;
  /** [A] smallest current read; below it only the own draw is known */
  readFrom: number;
  /** P0, a, b of the least-squares P0 + a·I + b·I², none negative */
  fit: readonly [number, number, number];
}

/**
 * Interpolate loss power: linear in current along each group of equal input volts, linear in input volts
 * between groups. At no output the loss is the stage's own draw where that is known. Above the largest
 * current of a group, and below the smallest where the own draw is not known, its fit P0 + a·I + b·I²
 * continues, scaled to meet the last reading; beyond the input volts the nearest group holds.
 * Loss is interpolated, not efficiency: efficiency bends sharply at light load where loss is nearly straight.
 *
 * @param points valid readings; at least one group
 * @param setVolts [V] output the readings were taken at
 * @param ownDraw [A] input current at no output; 0 when not known
 */
export function lossSurface(points: readonly LossPoint[], setVolts: number, ownDraw: number): LossSurface {
  const lines = linesOf(points, setVolts, ownDraw);
  const top = lines.length - 1;
  // The solver asks this some ten thousand times a run: no allocation below.
  return {
    volts: lines.map((l) => l.volts),
    at(vin, iout) {
      if (vin <= lines[0]!.volts) return along(lines[0]!, iout);
      if (vin >= lines[top]!.volts) return along(lines[top]!, iout);
      const k = lineAbove(lines, vin);
      const low = lines[k - 1]!;
      const high = lines[k]!;
      const t = (vin - low.volts) / (high.volts - low.volts);
      return (1 - t) * along(low, iout) + t * along(high, iout);
    },
    outside(vin, iout) {
      if (vin < lines[0]!.volts || vin > lines[top]!.volts) return true;
      const k = lineAbove(lines, vin);
      return beyond(lines[Math.max(0, k - 1)]!, iout) || beyond(lines[k]!, iout);
    },
  };
}

/** Lines made of a list of readings, by what else they rest on: fitted once, whoever runs on them. */
const made = new WeakMap<readonly LossPoint[], Map<string, Line[]>>();

function linesOf(points: readonly LossPoint[], setVolts: number, ownDraw: number): Line[] {
  const byUse = made.get(points) ?? new Map<string, Line[]>();
  made.set(points, byUse);
  const key = `${setVolts} ${ownDraw}`;
  const known = byUse.get(key) ?? groupByVolts(points, setVolts, ownDraw);
  byUse.set(key, known);
  return known;
}

/** Index of the first group at or above the input volts; the last one when there is none. */
function lineAbove(lines: readonly Line[], vin: number): number {
  let k = 0;
  while (k < lines.length - 1 && lines[k]!.volts < vin) k++;
  return k;
}

function beyond(line: Line, iout: number): boolean {
  return iout < line.readFrom || iout > line.amps[line.amps.length - 1]!;
}

function groupByVolts(points: readonly LossPoint[], setVolts: number, ownDraw: number): Line[] {
  const groups = new Map<number, Map<number, number>>();
  for (const p of points) {
    const out = setVolts * p.outputAmps;
    const watts = p.inputAmps !== undefined ? p.inputVolts * p.inputAmps - out : out / p.efficiency! - out;
    const group = groups.get(p.inputVolts) ?? new Map<number, number>();
    group.set(p.outputAmps, watts); // a reading repeated at the same place: the later one holds
    groups.set(p.inputVolts, group);
  }
  const sorted = [...groups].sort(([a], [b]) => a - b);
  return sorted.map(([volts, group]) => {
    const readFrom = Math.min(...group.keys());
    if (ownDraw > 0 && readFrom > 0) group.set(0, volts * ownDraw);
    const pairs = [...group].sort(([a], [b]) => a - b);
    const amps = Float64Array.from(pairs, ([i]) => i);
    const watts = Float64Array.from(pairs, ([, p]) => p);
    return { volts, amps, watts, readFrom, fit: fitLoss(amps, watts) };
  });
}

function along(line: Line, i: number): number {
  const { amps, watts } = line;
  const n = amps.length;
  if (i < amps[0]!) return continued(line, i, 0);
  if (i > amps[n - 1]!) return continued(line, i, n - 1);
  let k = 1;
  while (k < n - 1 && amps[k]! < i) k++;
  if (n === 1) return watts[0]!;
  const t = (i - amps[k - 1]!) / (amps[k]! - amps[k - 1]!);
  return watts[k - 1]! + t * (watts[k]! - watts[k - 1]!);
}

function continued(line: Line, i: number, edge: number): number {
  const there = fitted(line, line.amps[edge]!);
  const last = line.watts[edge]!;
  return there > 0 ? (last * fitted(line, i)) / there : last;
}

function fitted({ fit }: Line, i: number): number {
  return fit[0] + i * (fit[1] + i * fit[2]);
}

/** Share of the largest loss below which a coefficient's part is rounding. */
const ROUNDING = 1e-12;

/** Least squares with no negative coefficient: tries the full model and drops terms that come out negative. */
function fitLoss(amps: Float64Array, watts: Float64Array): readonly [number, number, number] {
  const sets = [[0, 1, 2], [0, 2], [0, 1], [1, 2], [2], [1], [0]];
  const [reach, peak] = [Math.max(...amps), Math.max(...watts)];
  for (const terms of sets) {
    if (terms.length > amps.length) continue;
    const rows = Float64Array.from([...amps].flatMap((i) => terms.map((p) => i ** p)));
    const c = leastSquares(rows, terms.length, watts);
    // Where nothing is lost at no current, the sign of what is left there must not choose the model.
    if (c.every((x, k) => x * reach ** terms[k]! >= -ROUNDING * peak)) {
      const full: [number, number, number] = [0, 0, 0];
      terms.forEach((t, k) => (full[t] = Math.max(0, c[k]!)));
      return full;
    }
  }
  return [watts.reduce((s, w) => s + w, 0) / watts.length, 0, 0];
}
