import { isRegulated } from '../model/kinds/registry.ts';
import { modeIndex } from '../stages/point.ts';
import type { CellState } from './cellState.ts';
import type { Found } from './operatingPoint.ts';
import { COLLAPSED, LOCKED_OUT, ON, OVER_INPUT } from './tree.ts';

const COLLAPSED_MODE = modeIndex('collapsed');

/** Starts after which a stage that keeps falling back is left off. A real one would cycle on and off. */
const MOST_STARTS = 3;

/**
 * Switches stages off and on again as their input limits ask: the hysteresis of under-voltage lock-out,
 * over-voltage, and rails that collapsed. Holds are a state of the simulation: within an operating point
 * nothing switches, so that one exists.
 */
export class HoldKeeper {
  /** stages that tried to start and fell back */
  readonly cycling = new Set<number>();
  private readonly starts: Uint8Array;

  constructor(private readonly state: CellState) {
    this.starts = new Uint8Array(state.tree.stages.length);
  }

  /**
   * Hold the stages whose rail collapses even from a stiff supply, leaves first: their load is beyond their
   * limits for good. Without this, searches for an operating point nest in one another to no end.
   */
  holdHopeless(): void {
    const { tree } = this.state;
    const open = this.state.prepareInstant();
    const fed = (k: number): number => {
      const p = tree.parent(k);
      if (p < 0) return open;
      const above = tree.stages[p]!;
      // A boost passes a higher input through; whichever is larger is the stiffest supply there can be.
      return isRegulated(above) ? Math.max(above.outputVolts, above.kind === 'boost' ? fed(p) : 0) : fed(p);
    };
    const depth = (k: number): number => (tree.parent(k) < 0 ? 0 : 1 + depth(tree.parent(k)));
    const leavesFirst = tree.stages.map((_, k) => k).sort((a, b) => depth(b) - depth(a));
    for (const k of leavesFirst) {
      if (tree.probe(k, fed(k)).mode === COLLAPSED_MODE) tree.hold(k, COLLAPSED);
    }
  }

  /**
   * Solve the present instant and apply holds until nothing changes.
   * @returns the last solve; its status is `none` when the pack has collapsed
   */
  settle(near: number): Found {
    const { tree } = this.state;
    let found = this.state.solveInstant(near);
    for (let round = 0; round <= 2 * tree.stages.length && found.status !== 'none'; round++) {
      const changed = this.switchOff() || this.switchOn();
      if (!changed) break;
      found = this.state.solveInstant(NaN);
    }
    return found;
  }

  /** Hold the first working stage that is outside its limits; one at a time, since each changes the rest. */
  private switchOff(): boolean {
    const { tree } = this.state;
    for (let k = 0; k < tree.stages.length; k++) {
      const p = tree.points[k]!;
      if (tree.held[k] !== ON || !(p.inputVolts > 0)) continue;
      const { minInput, maxInput } = tree.limits[k]!;
      if (p.inputVolts > maxInput * (1 + 1e-9)) tree.hold(k, OVER_INPUT);
      else if (p.inputVolts < minInput) tree.hold(k, LOCKED_OUT);
      else if (p.mode === COLLAPSED_MODE) tree.hold(k, COLLAPSED);
      else continue;
      return true;
    }
    return false;
  }

  /** Start a locked-out stage whose input has recovered, if it then stays up. */
  private switchOn(): boolean {
    const { tree } = this.state;
    for (let k = 0; k < tree.stages.length; k++) {
      const stage = tree.stages[k]!;
      if (tree.held[k] !== LOCKED_OUT || !isRegulated(stage) || this.starts[k]! >= MOST_STARTS) continue;
      const { minInput } = tree.limits[k]!;
      if (tree.points[k]!.inputVolts < minInput + stage.hysteresis) continue;
      tree.hold(k, ON);
      const found = this.state.solveInstant(NaN);
      const p = tree.points[k]!;
      const stays = found.status === 'converged' && p.inputVolts >= minInput && p.mode !== COLLAPSED_MODE;
      this.starts[k]!++;
      if (stays) return true;
      tree.hold(k, LOCKED_OUT);
      this.starts[k] = MOST_STARTS;
      this.cycling.add(k);
      this.state.solveInstant(NaN);
    }
    return false;
  }
}
