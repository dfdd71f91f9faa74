import type { ThreadDocument } from '@mile-thread/core/model';
import {
  cycleAt,
  idleBudget,
  Reading,
  ROW,
  worstInstants,
  type IdleBudget,
  type WorstInstant,
} from '@mile-thread/core/solve';
import { runOf } from './runs.ts';

/** One cycle for the screen: rows as columns. */
export interface CyclePicture {
  /** state of charge it began at */
  soc: number;
  through: boolean;
  /** [s] from its beginning, [V] where the path begins, [W] into it */
  seconds: number[];
  volts: number[];
  watts: number[];
}

/** One cycle of a thread's programme at a state of charge; none of a thread without. */
export function cycle(doc: ThreadDocument, soc: number): CyclePicture | null {
  const found = cycleAt(doc, soc);
  if (!found) return null;
  const reading = new Reading(found.series, Infinity);
  const column = (at: number) => Array.from(reading.column(at));
  const volts = column(ROW.packVolts);
  const amps = column(ROW.packAmps);
  return {
    soc,
    through: found.through,
    seconds: column(ROW.time),
    volts,
    watts: volts.map((v, k) => v * amps[k]!),
  };
}

/** Worst instants of a run: of the cells and of every load. */
export function worst(doc: ThreadDocument): WorstInstant[] {
  return worstInstants(doc, runOf(doc));
}

/** What flows asleep, and where it could be cut. */
export function budget(doc: ThreadDocument): IdleBudget {
  return idleBudget(doc);
}
