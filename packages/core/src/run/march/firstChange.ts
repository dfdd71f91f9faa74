import type { Plant } from '../../plant/compile.ts';
import type { Events } from './events.ts';
import { C1, C2 } from '../step/gauss.ts';
import { cellAmps } from '../step/state.ts';
import type { Step } from '../step/step.ts';

/** Where in the step solved last something changes first, by the step's own course. */
export class FirstChange {
  /** @param before the state of things it has changed from */
  constructor(
    private readonly plant: Plant,
    private readonly step: Step,
    private readonly before: Events,
  ) {}

  /** Whether something has changed at a share of the step. */
  isAt(x: number): boolean {
    const { step, plant } = this;
    const { path, pack } = plant;
    const volts = step.dense.volts.at(x);
    path.evaluate(volts);
    const amps = cellAmps(pack, path.amps);
    return this.before.differs({ event: path.event, volts, amps, soc: step.dense.soc.at(x) });
  }

  /** First share behind `from` at which something has changed, to `within` [s]; 1 where nothing has. */
  first(from: number, within: number): number {
    let low = from;
    let high = 1;
    // A node may have changed where the end has not: look there first.
    for (const x of [C1, C2]) if (x > low && x < high && this.isAt(x)) high = x;
    while ((high - low) * this.step.h > within) {
      const x = (low + high) / 2;
      if (x <= low || x >= high) break;
      if (this.isAt(x)) high = x;
      else low = x;
    }
    return high;
  }
}
