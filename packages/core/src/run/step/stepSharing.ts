import { LOOK } from '../../plant/cellTable.ts';
import type { PackPlant } from '../../plant/pack.ts';
import type { Sharing } from '../../plant/sharing.ts';
import { weigh, WEIGHTS } from './gauss.ts';
import type { Node } from './node.ts';
import { fullerAt, type CellState } from './state.ts';

/**
 * By how much odd cells are fuller than those beside them over one step: exactly for a drive that is a parabola over it,
 * as the branches are, with the time in which they come level as it is in the middle.
 */
export class StepSharing {
  /** at both nodes */
  first = 0;
  second = 0;
  private readonly w = new Float64Array(WEIGHTS);
  private readonly room: Float64Array;
  private from = 0;
  private tau = 1;
  private g0 = 0;
  private g1 = 0;
  private g2 = 0;

  constructor(
    private readonly pack: PackPlant,
    private readonly sharing: Sharing,
  ) {
    this.room = pack.cell.room();
  }

  /** Begin a step of h seconds. @param middle state of charge there @param holds, warm factors on charge and resistance */
  begin(h: number, state: CellState, amps: number, middle: number, holds: number, warm: number): void {
    const { sharing, room } = this;
    this.from = state.slow[fullerAt(this.pack)]!;
    sharing.look(middle, this.from, room, warm);
    this.tau = 1 / sharing.rate(room[LOOK.slope]!, holds);
    weigh(this.w, 0, h, this.tau);
    sharing.look(state.soc, this.from, room, warm);
    this.g0 = this.drive(this.from, amps, holds);
    this.solve(this.g0, this.g0);
  }

  /** Look up a node where it is now, and keep what drives it there. */
  look(node: Node, soc: number, amps: number, second: boolean, holds: number, warm: number): void {
    const at = second ? this.second : this.first;
    this.sharing.look(soc, at, node.looked, warm);
    node.between = this.sharing.between;
    node.leak = this.sharing.leak;
    const drive = this.drive(at, amps, holds);
    if (second) this.g2 = drive;
    else this.g1 = drive;
  }

  /** Take up what drives both nodes now. */
  follow(): void {
    this.solve(this.g1, this.g2);
  }

  /** What the odd ones would come to be fuller by: d′ = (g − d)/τ. */
  private drive(fuller: number, amps: number, holds: number): number {
    return fuller + this.tau * this.sharing.change(amps, holds);
  }

  private solve(g1: number, g2: number): void {
    const { w, from, g0 } = this;
    this.g1 = g1;
    this.g2 = g2;
    this.first = from * w[0]! + w[3]! * g0 + w[4]! * g1 + w[5]! * g2;
    this.second = from * w[1]! + w[6]! * g0 + w[7]! * g1 + w[8]! * g2;
  }

  /** At the end. */
  end(): number {
    const { w, from, g0, g1, g2 } = this;
    return from * w[2]! + w[9]! * g0 + w[10]! * g1 + w[11]! * g2;
  }
}
