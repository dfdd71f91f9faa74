import { Line } from '../numeric/line.ts';
import { chargeTaken, type Log } from './log.ts';

/** Share of the charge to either side within which readings are taken together. */
const SIDE = 0.012;

/** Volts and current over the share of the charge taken. */
export interface Course {
  taken: Float64Array;
  log: Log;
  most: number;
}

/** A log over the share of a charge [C]. */
export function logCourse(log: Log, capacity: number): Course {
  const taken = chargeTaken(log).map((q) => q / capacity);
  return { taken, log, most: taken.at(-1)! };
}

/** Volts, their slope and current at a share of the charge taken, by a straight line through the readings around it. */
export function courseAt(
  { taken, log, most }: Course,
  x: number,
): { volts: number; amps: number; slope: number } {
  const [from, to] = [Math.max(0, x - SIDE), Math.min(most, x + SIDE)];
  let k = lowerBound(taken, from);
  // Few readings: at least the two around it.
  if (k > 0 && !(taken[k + 1]! <= to)) k--;
  const line = new Line(x);
  let [n, sum] = [0, 0];
  for (; k < taken.length && (taken[k]! <= to || n < 2); k++, n++) {
    line.add(taken[k]!, log.volts[k]!);
    sum += log.amps[k]!;
  }
  return { volts: line.at(x), amps: sum / n, slope: line.slope };
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
