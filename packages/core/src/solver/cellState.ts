import { climb } from '../numeric/root.ts';
import type { PackSource } from '../pack/source.ts';
import type { Tree } from './tree.ts';
import { branchEnd, branchHeat, branchStored, prepareBranch, type BranchStep } from './branchStep.ts';
import { EVENT_TOLERANCE, MEAN_TOLERANCE, operatingPoint, type Found } from './operatingPoint.ts';

/** State of charge change [fraction] below which the mean OCV over a step is taken at its middle. */
const TINY_STEP = 1e-7;

/**
 * Cells, series resistance and tree solved together, at an instant or as the mean over a step.
 *
 * The step is solved with its mean values: V̄ = mean OCV − mean branch volts − R0·I, I = I(V̄), where the
 * mean OCV is the exact integral of the OCV over the charge that leaves. Every energy of the step then
 * follows from the same V̄ and I, so the ledger closes to the tolerance of the root, whatever the step.
 * It is second order in the step (a discrete-gradient mid-point scheme).
 */
export class CellState {
  /** state of charge 0…1 */
  soc: number;
  /** [V] of each branch, one cell */
  readonly branchVolts: Float64Array;
  /** [A] out of one cell, from the last solve */
  cellAmps = 0;
  /** [V] at the start of the tree, from the last solve; NaN before the first */
  volts = NaN;
  /** [Ω] R0 used in the last step */
  stepR0 = 0;
  /** the branches over the last step */
  readonly steps: BranchStep[];
  private readonly instantHint = { slope: -1 };
  private readonly meanHint = { slope: -1 };
  private readonly meanAt: (volts: number) => number;
  private readonly instantAt: (volts: number) => number;
  // Constants of the solve in progress, kept as fields so that solving allocates nothing.
  private duration = 0;
  private branchOffset = 0;
  private branchOhms = 0;
  private chargeAtStart = 0;
  private openVolts = 0;
  private sourceOhms = 0;

  constructor(
    readonly source: PackSource,
    readonly tree: Tree,
    soc: number,
  ) {
    this.soc = soc;
    this.branchVolts = new Float64Array(source.branches.length);
    this.steps = source.branches.map(() => ({ ohms: 0, farads: 0, v0: 0, decay: 0, mean: 0 }));
    this.meanAt = (volts) => this.meanResidual(volts);
    this.instantAt = (volts) => this.openVolts - this.sourceOhms * tree.amps(volts) - volts;
  }

  /** [V·fraction] integral of the OCV of one cell from empty; continued below empty at the OCV there. */
  ocvIntegral(soc: number): number {
    const { ocv } = this.source;
    return soc < 0 ? soc * ocv.at(0) : ocv.integral(soc);
  }

  /** [V] of one cell at its terminals, from the last solve. */
  cellVolts(): number {
    return (this.volts + this.source.seriesOhms * this.packAmps()) / this.source.series;
  }

  /** [A] into the path, without the protection board's own draw. */
  packAmps(): number {
    return this.cellAmps * this.source.parallel - this.source.quiescent;
  }

  /** Set the source of an instant: no current limit, only E and R. @returns [V] open voltage */
  prepareInstant(): number {
    const { source } = this;
    const r0 = source.r0.at(this.soc);
    let cell = source.ocv.at(this.soc) - (r0 * source.quiescent) / source.parallel;
    for (let k = 0; k < this.branchVolts.length; k++) cell -= this.branchVolts[k]!;
    this.openVolts = source.series * cell;
    this.sourceOhms = (source.series * r0) / source.parallel + source.seriesOhms;
    return this.openVolts;
  }

  /** Solve this instant. @param near [V] where to start; NaN searches from the top @param tolerance relative */
  solveInstant(near: number, tolerance = EVENT_TOLERANCE): Found {
    const open = this.prepareInstant();
    const found = operatingPoint(this.instantAt, Math.max(open, 1e-6), near, this.instantHint, tolerance);
    this.volts = found.volts;
    this.cellAmps = this.drawn();
    return found;
  }

  /** Open voltage [V] and resistance [Ω] of the pack as a source at this instant, for the nose point. */
  thevenin(): { volts: number; ohms: number } {
    this.prepareInstant();
    return { volts: this.openVolts, ohms: this.sourceOhms };
  }

  /** [V] where source less demand is largest in a bracket, at this instant; the tree is left evaluated there. */
  crest(low: number, high: number, width: number): number {
    this.prepareInstant();
    const { x } = climb(this.instantAt, low, high, width);
    this.tree.amps(x);
    return x;
  }

  /** Solve the mean of a step of `h` seconds from the present state, which stays as it is. */
  solveMean(h: number, near: number): Found {
    const { source } = this;
    this.duration = h;
    // R0 and the branches at the charge expected at mid-step, from the current known so far.
    const middle = this.soc - (this.cellAmps * h) / source.charge / 2;
    this.stepR0 = source.r0.at(middle);
    this.branchOffset = 0;
    this.branchOhms = 0;
    for (let k = 0; k < this.steps.length; k++) {
      const step = this.steps[k]!;
      const { ohms, farads } = source.branches[k]!;
      prepareBranch(step, ohms.at(middle), farads.at(middle), this.branchVolts[k]!, h);
      this.branchOffset += step.v0 * step.mean;
      this.branchOhms += step.ohms * (1 - step.mean);
    }
    this.chargeAtStart = this.ocvIntegral(this.soc);
    const open = source.series * (source.ocv.at(this.soc) - this.branchOffset);
    const found = operatingPoint(this.meanAt, Math.max(open, 1e-6), near, this.meanHint, MEAN_TOLERANCE);
    this.volts = found.volts;
    this.cellAmps = this.drawn();
    return found;
  }

  /** Move to the end of the step solved last. */
  advance(): void {
    this.soc -= (this.cellAmps * this.duration) / this.source.charge;
    for (let k = 0; k < this.steps.length; k++) {
      this.branchVolts[k] = branchEnd(this.steps[k]!, this.cellAmps);
    }
  }

  /** [J] heat of one branch of one cell over the step solved last. */
  branchHeat(k: number): number {
    return branchHeat(this.steps[k]!, this.cellAmps, this.duration);
  }

  /** [J] stored in one branch of one cell over the step solved last. */
  branchStored(k: number): number {
    return branchStored(this.steps[k]!, this.cellAmps);
  }

  private drawn(): number {
    // `operatingPoint` evaluates the tree last at the voltage it returns.
    return (this.tree.lastAmps + this.source.quiescent) / this.source.parallel;
  }

  private meanResidual(volts: number): number {
    const { source } = this;
    const pack = this.tree.amps(volts);
    const amps = (pack + source.quiescent) / source.parallel;
    const used = (amps * this.duration) / source.charge;
    const ocv =
      Math.abs(used) < TINY_STEP
        ? source.ocv.at(this.soc - used / 2)
        : (this.chargeAtStart - this.ocvIntegral(this.soc - used)) / used;
    const cell = ocv - this.branchOffset - (this.branchOhms + this.stepR0) * amps;
    return source.series * cell - source.seriesOhms * pack - volts;
  }
}
