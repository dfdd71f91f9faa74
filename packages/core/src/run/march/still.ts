import type { Plant } from '../../plant/compile.ts';
import { pathAmps, type CellState } from '../step/state.ts';

/** Share of what a charger is set to below which a net current is rounding, and to which it is then balanced in so many tries. */
const STILL = 2e-5;
const BALANCED = 1e-12;
const BALANCING = 12;

/** Cells that a charger gives no more than is drawn: nothing moves any more but by rounding. */
export class Still {
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
  ) {}

  /** Whether they are so, from one end of a step to the other. @param startAmps [A] of one cell at its start */
  isSince(startAmps: number): boolean {
    const { charger, pack } = this.plant;
    if (!charger || pack.sharing) return false;
    const most = (STILL * charger.amps) / pack.parallel;
    return Math.abs(this.state.amps) < most && Math.abs(startAmps) < most && this.volts() !== undefined;
  }

  /** [V] at which the cells are given no more than drains away by itself; none near here. */
  volts(): number | undefined {
    const { state, plant } = this;
    const { path, pack } = plant;
    const wanted = pathAmps(pack, -this.drain());
    let volts = state.volts;
    for (let n = 0; n < BALANCING; n++) {
      path.evaluate(volts);
      const off = path.amps - wanted;
      if (Math.abs(off) <= BALANCED * plant.charger!.amps) return volts;
      if (!(path.slope > 0)) return undefined;
      volts = path.onTheWay(volts, volts - off / path.slope);
    }
    return undefined;
  }

  /** [A] that drains away by itself of one cell. */
  drain(): number {
    const { state, plant } = this;
    return plant.pack.selfDischarge * state.charge * Math.max(0, state.soc);
  }
}
