import type { Pack } from '../model/pack.ts';
import type { CellState } from './cellState.ts';
import { ON } from './tree.ts';

/** Relative room in comparisons with limits that equal a set point: a 9 V rail is in range from 9 V on. */
const SLACK = 1e-9;

/**
 * Everything about an instant that is not continuous: modes of the stages, loads in or out of range, limits
 * crossed. Two instants with equal signatures have no event between them (or an even number of the same).
 */
export class Signature {
  /** mode of each stage */
  readonly modes: Uint8Array;
  /** 1 where a working stage's input is below its lock-out, 2 above its maximum */
  readonly inputs: Uint8Array;
  /** 1 in range, 0 low, 2 high */
  readonly ranges: Uint8Array;
  cutoff = false;
  trip = false;
  empty = false;
  private readonly least: Float64Array;
  private readonly most: Float64Array;

  constructor(
    private readonly state: CellState,
    private readonly pack: Pack,
  ) {
    const { stages, loads, limits } = state.tree;
    this.modes = new Uint8Array(stages.length);
    this.inputs = new Uint8Array(stages.length);
    this.ranges = new Uint8Array(loads.length);
    this.least = Float64Array.from(limits, (l) => l.minInput);
    this.most = Float64Array.from(limits, (l) => l.maxInput * (1 + SLACK));
  }

  /** Read the instant solved last. */
  read(): this {
    const { tree } = this.state;
    for (let k = 0; k < this.modes.length; k++) {
      const p = tree.points[k]!;
      this.modes[k] = p.mode;
      const working = tree.held[k] === ON && p.inputVolts > 0;
      this.inputs[k] = !working
        ? 0
        : p.inputVolts < this.least[k]!
          ? 1
          : p.inputVolts > this.most[k]!
            ? 2
            : 0;
    }
    for (let l = 0; l < this.ranges.length; l++) {
      const v = tree.loadVolts[l]!;
      const { min, max } = tree.loads[l]!.range;
      this.ranges[l] = v < min * (1 - SLACK) ? 0 : v > max * (1 + SLACK) ? 2 : 1;
    }
    const { protection } = this.pack;
    this.cutoff = protection !== undefined && this.state.cellVolts() < protection.cutoffVolts;
    this.trip = protection !== undefined && this.state.packAmps() > protection.tripCurrent;
    this.empty = this.state.soc <= 0;
    return this;
  }

  /** Whether this instant differs from another. */
  differs(other: Signature): boolean {
    if (this.cutoff !== other.cutoff || this.trip !== other.trip || this.empty !== other.empty) return true;
    for (let k = 0; k < this.modes.length; k++) {
      if (this.modes[k] !== other.modes[k] || this.inputs[k] !== other.inputs[k]) return true;
    }
    for (let l = 0; l < this.ranges.length; l++) if (this.ranges[l] !== other.ranges[l]) return true;
    return false;
  }
}
