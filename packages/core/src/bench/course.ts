import { readingOf } from '../run/reading/reading.ts';
import type { RunResult } from '../run/account/result.ts';
import { ROW } from '../run/account/series.ts';

/** How a run-down goes where the pack's leads begin; of a programme of many cycles by the mean of each. */
export interface Course {
  /** [s] the dead end */
  end: number;
  /** [V] [A] at a time [s]; before the start as at the start, behind the end as at the end */
  at(seconds: number): { volts: number; amps: number };
}

/** The course of a run. */
export function courseOf(run: RunResult): Course {
  const { envelope, deadEnd } = run;
  const points = envelope && envelope.length > 8 ? ofCycles(run) : ofRows(run);
  const times = points.map((p) => p.time);
  return {
    end: deadEnd.time,
    at(seconds) {
      let [low, high] = [0, times.length - 1];
      while (high - low > 1) {
        const middle = (low + high) >> 1;
        if (times[middle]! <= seconds) low = middle;
        else high = middle;
      }
      const [a, b] = [points[low]!, points[high]!];
      const span = b.time - a.time;
      const f = span > 0 ? Math.min(1, Math.max(0, (seconds - a.time) / span)) : 0;
      return { volts: a.volts + f * (b.volts - a.volts), amps: a.amps + f * (b.amps - a.amps) };
    },
  };
}

interface Point {
  time: number;
  volts: number;
  amps: number;
}

function ofRows(run: RunResult): Point[] {
  const reading = readingOf(run);
  return Array.from({ length: reading.count }, (_, row) => ({
    time: reading.time(row),
    volts: reading.at(row, ROW.packVolts),
    amps: reading.at(row, ROW.packAmps),
  }));
}

function ofCycles({ envelope = [], deadEnd }: RunResult): Point[] {
  // The first ones follow each other; later ones are some of many.
  const cycle = envelope[1]!.time - envelope[0]!.time;
  return envelope.map((row, k) => {
    const next = envelope[k + 1]?.time ?? deadEnd.time;
    // A cycle's mean stands at its middle.
    const time = row.time + Math.min(cycle, next - row.time) / 2;
    return { time, volts: row.mean, amps: row.watts / row.mean };
  });
}
