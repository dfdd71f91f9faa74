import type { ThreadDocument } from '../model/thread.ts';
import { startAgain, type Plant } from '../plant/compile.ts';
import { compileCharging } from '../plant/compileCharging.ts';
import type { Conditions } from '../plant/conditions.ts';
import type { Gone, OutageResult } from './account/outageResult.ts';
import type { RunOptions } from './keepers/ground.ts';
import { Faces } from './look/face.ts';
import { onTimeline } from './onTimeline.ts';

/**
 * Timelines of mains for years: by a look rather than by steps, many on one thread. What it leaves out is said at `Look`; a board that
 * bleeds does not.
 */
export class LongLook {
  private readonly plant: Plant;
  private readonly faces: Faces;

  /** @param doc a thread that says how it is charged; a programmer's error otherwise */
  constructor(doc: ThreadDocument, conditions: Partial<Conditions> = {}) {
    this.plant = compileCharging(doc, { startSoc: 1, ...conditions }, true);
    this.plant.path.remembers = true;
    this.faces = new Faces(this.plant);
  }

  /** The same as `outage`. */
  over(gone: readonly Gone[], horizon: number, options: RunOptions = {}): OutageResult {
    startAgain(this.plant);
    return onTimeline(this.plant, gone, horizon, options, { byMean: true, bleeds: false, faces: this.faces });
  }
}
