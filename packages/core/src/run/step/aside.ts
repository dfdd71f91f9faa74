import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import type { Collocation } from './collocation.ts';
import type { Instant } from './instant.ts';
import { sidesAt } from './jump.ts';
import { cellAmps, cellVolts, drainRate, fullerAt, pathAmps, type CellState } from './state.ts';

/** Share of the charge that is none. */
const SLIVER = 1e-12;
/** Tries, each shorter, of a step between both sides of a jump. */
const SHORTENED = 8;

/** Steps that are not met as others are: where none is, between both sides of a jump, at rest. */
export class Aside {
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    readonly step: Collocation,
    private readonly instant: Instant,
  ) {}

  /**
   * A step by the present current alone, where none could be met: both nodes stand at the state. Its end is not solved.
   * @param h [s] very short
   */
  creep(h: number): void {
    const { state, plant, step } = this;
    const { end, branches } = step;
    const { selfDischarge } = plant.pack;
    step.standAt(h, state.volts, state.amps);
    const { looked } = step.nodes[0];
    branches.begin(h, state.slow, looked, state.amps, looked);
    branches.solve(state.slow, looked, looked, state.amps, state.amps);
    branches.end(state.slow, end.slow);
    const { sharing } = plant.pack;
    if (sharing)
      end.slow[fullerAt(plant.pack)]! += sharing.comes(looked[LOOK.slope]!, state.amps, step.holds, h);
    end.soc = state.soc - h * (state.amps / state.charge + selfDischarge * state.soc);
  }

  /**
   * A step at standing volts, between both sides of the jump of the demand that the state stands at: what the cells give there
   * flows, and the path is on either side for its share of the time. Its end is not solved.
   * @param h [s] @param share of the charge that may leave
   * @returns [s] of it, less than h where the hunting would end within it; none where the volts are no jump's
   */
  hunt(h: number, share: number): number | undefined {
    const { state, plant, step } = this;
    const { nodes } = step;
    const { pack } = plant;
    const sides = sidesAt(plant, state, this.instant);
    if (!sides) return undefined;
    const amps = cellAmps(pack, sides.amps);
    let length = Math.min(h, share / Math.abs(drainRate(pack, state.charge, amps, state.soc)));
    const [one, two] = nodes;
    for (let n = 0; n < SHORTENED; n++) {
      for (const node of nodes)
        Object.assign(node, { amps, volts: state.volts, event: -1, piece: undefined });
      // It flows from the very beginning: what flowed on one side, before, drives no branch any more.
      step.begin(length, amps);
      const shares = step.meet(length, true)
        ? nodes.map((node) => sides.shareOf(pathAmps(pack, node.amps)))
        : [NaN];
      if (!shares.every((s) => s >= 0 && s <= 1)) {
        length /= 4;
        continue;
      }
      step.carry(length);
      if (state.soc > SLIVER && step.end.soc < -SLIVER) {
        // Not past the last of the charge, which ends it.
        length *= state.soc / (state.soc - step.end.soc);
        continue;
      }
      [one.volts, two.volts] = sides.volts;
      two.share = shares[0]! + shares[1]!;
      one.share = 2 - two.share;
      return length;
    }
    return undefined;
  }

  /**
   * A step in which the cells stay as they are: what they are given is what drains away by itself.
   * @param h [s] however long @param volts [V] where the path begins @param amps [A] of one cell
   */
  stand(h: number, volts: number, amps: number): void {
    const { state, plant, step } = this;
    const { nodes, end } = step;
    step.standAt(h, volts, amps);
    const own = cellVolts(plant.pack, volts, amps);
    for (const node of nodes) {
      node.branches.fill(0);
      // What is given there is what drains: the cells rest at just these volts.
      node.ocv = own + node.looked[LOOK.r0]! * amps;
    }
    end.soc = state.soc;
  }
}
