import type { Outcome } from '../model/issue.ts';
import { pchip } from '../numeric/pchip.ts';
import { logCourse } from './course.ts';
import { inverseOf } from './fits.ts';
import { refuse, type Log } from './log.ts';

/** [°C] at which the figures of a record hold. */
export const REFERENCE = 25;

/** A discharge from full, and how warm the cell was. */
export interface Discharge extends Log {
  /** [°C]; that of a room where it was not said */
  celsius?: number;
}

/** Factors at other temperatures, rising, where logs tell them; 1 in a room. */
export interface WarmthFactors {
  celsius: number[];
  resistance: number[];
  capacity: number[];
}

/** Turns in which resistance and charge of another temperature are found from each other. */
const TURNS = 6;
/** States of charge between which its resistance is compared. */
const BETWEEN = [0.3, 0.9] as const;

/**
 * Factors at other temperatures: of the resistance, what volts are missing over those that would be in a room; of the
 * charge, what was taken up to the end over what a cell in a room gives down to the same volts at rest.
 */
export function warmthOf(
  curves: { soc: readonly number[]; ocv: readonly number[]; ohms: readonly number[] },
  logs: readonly Discharge[],
  capacity: number,
): Outcome<WarmthFactors> {
  const [rest, inner] = [pchip(curves.soc, curves.ocv), pchip(curves.soc, curves.ohms)];
  const told = new Map<number, { resistance: number; capacity: number }[]>([
    [REFERENCE, [{ resistance: 1, capacity: 1 }]],
  ]);
  for (const log of logs) {
    const celsius = log.celsius!;
    let [holds, times] = [1, 1];
    for (let turn = 0; turn < TURNS; turn++) {
      const course = logCourse(log, capacity * holds);
      const ratios: number[] = [];
      for (let k = 0; k < course.taken.length; k++) {
        const z = 1 - course.taken[k]!;
        const should = log.amps[k]! * inner.at(z);
        if (z >= BETWEEN[0] && z <= BETWEEN[1] && should > 0)
          ratios.push((rest.at(z) - log.volts[k]!) / should);
      }
      if (ratios.length === 0) {
        return refuse(
          `log at ${celsius} °C`,
          'no readings between 30 and 90 % charge',
          'a discharge from full down to its end',
        );
      }
      times = ratios.sort((x, y) => x - y)[ratios.length >> 1]!;
      if (!(times > 0)) {
        return refuse(
          `log at ${celsius} °C`,
          'more volts than the cell has at rest',
          'a log of the same cell, from full',
        );
      }
      // Where it ended: the volts it would have had at rest, and what a cell in a room has then given.
      const last = log.volts.length - 1;
      const end = log.volts[last]! + log.amps[last]! * times * inner.at(Math.max(0, 1 - course.most));
      holds = Math.max(0.05, (course.most * holds) / (1 - Math.min(ENDED, inverseOf(rest, end))));
    }
    told.set(celsius, [...(told.get(celsius) ?? []), { resistance: times, capacity: holds }]);
  }
  const celsius = [...told.keys()].sort((x, y) => x - y);
  const mean = (of: 'resistance' | 'capacity') =>
    celsius.map((t) => told.get(t)!.reduce((sum, f) => sum + f[of], 0) / told.get(t)!.length);
  return { ok: true, value: { celsius, resistance: mean('resistance'), capacity: mean('capacity') } };
}

/** State of charge up to which one that a log ended at is believed. */
const ENDED = 0.95;
