import { isRegulated } from '../../model/kinds/registry.ts';
import type { Plant } from '../../plant/compile.ts';
import { stageAt, STAGE_COLUMN } from '../../plant/layout.ts';
import { HELD } from '../../plant/network.ts';
import { SLACK } from '../../plant/rails.ts';
import { MODE } from '../../stages/modes.ts';
import { highestOutput } from '../../stages/traits.ts';
import type { Found, Instant } from '../step/instant.ts';
import type { Keeper } from './keeper.ts';
import type { Counts } from '../account/result.ts';
import type { CellState } from '../step/state.ts';

/**
 * Share of the charge by which a restarted stage must be away from where it started before a lock-out of it counts as a new one rather than as
 * chatter. Bounds the restarts of a run by its reciprocal, however long its programme.
 */
const CHATTER = 1e-3;

/** Demands of rails a stage may take to be found from a stiff supply; past that its load counts as beyond its limits. */
const PROBE_EFFORT = 40_000;

/** Relative rise of a stage's input above the volts at which a start failed, before it is tried again. */
const RETRY = 1e-3;

/** Relative distance below an instant without an operating point at which the stages are looked at. */
const BELOW = 1e-7;

/** Count how an instant was solved, where that is worth a count. */
export function countFound(counts: Counts, { status }: Found): void {
  if (status === 'jump') counts.jumps++;
  else if (status === 'none') counts.none++;
  else if (status === 'unfinished') counts.unconverged++;
}

/**
 * Switches stages off and on again as their input limits ask: the hysteresis of under-voltage lock-out,
 * over-voltage, and rails that collapsed. Holds are a state of the simulation: within an operating point
 * nothing switches, so that one exists.
 */
export class HoldKeeper implements Keeper {
  readonly most: number;
  /** stages that tried to start and fell back */
  readonly cycling = new Set<number>();
  /** stages held since no operating point was found for them in reasonable time */
  readonly abandoned = new Set<number>();
  /** [fraction] charge at which each stage started again; 2: never */
  private readonly startedAt: Float64Array;
  /** [V] at its input when a start failed last */
  private readonly failedAt: Float64Array;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly instant: Instant,
    private readonly counts: Counts,
  ) {
    const n = plant.path.stages.length;
    this.most = 2 * n + 1;
    this.startedAt = new Float64Array(n).fill(2);
    this.failedAt = new Float64Array(n);
  }

  /**
   * Hold the stages whose rail collapses even from a stiff supply, or is not found there in reasonable time, leaves
   * first: their load is beyond their limits for good. Without this, searches for an operating point nest in one another
   * to no end.
   */
  prepare(): void {
    const { path } = this.plant;
    const { stages, network } = path;
    this.instant.prepare(this.state.soc, this.state.slow);
    const supply = (rail: number): number =>
      rail === 0
        ? this.instant.open
        : highestOutput(stages[rail - 1]!, supply(network.rails.ofStage[rail - 1]!));
    const depth = (rail: number): number => (rail === 0 ? 0 : 1 + depth(network.rails.ofStage[rail - 1]!));
    const leavesFirst = stages.map((_, k) => k).sort((a, b) => depth(b + 1) - depth(a + 1));
    const { effort } = network;
    for (const k of leavesFirst) {
      effort.aside(PROBE_EFFORT, () => {
        const { mode } = network.probe(k, supply(network.rails.ofStage[k]!));
        if (effort.spent) this.abandoned.add(k);
        if (effort.spent || mode === MODE.collapsed) path.hold(k, HELD.collapsed);
      });
    }
  }

  react(): boolean {
    return this.switchOff() || this.switchOn();
  }

  /** What gave up is seen just below: at a jump itself either side may answer. */
  pastLoss(): boolean {
    const { path } = this.plant;
    path.readExactly(this.state.volts * (1 - BELOW));
    const failed = path.stages.flatMap((_, k) =>
      path.modeOf(k) === MODE.collapsed && path.network.held[k] === HELD.on ? [k] : [],
    );
    for (const k of failed) path.hold(k, HELD.collapsed);
    return failed.length > 0;
  }

  /** Whether something would be switched at the instant the path is read at; nothing is switched. */
  wouldSwitch(): boolean {
    const { path } = this.plant;
    const { held } = path.network;
    const { limits } = path.network.rails;
    return path.stages.some((stage, k) => {
      const vin = this.inputOf(k);
      const { minInput, maxInput } = limits[k]!;
      if (held[k] === HELD.on) {
        const outside = vin > maxInput * (1 + SLACK) || vin < minInput || path.modeOf(k) === MODE.collapsed;
        return vin > 0 && outside;
      }
      if (held[k] !== HELD.lockedOut || !isRegulated(stage)) return false;
      return vin >= minInput + stage.hysteresis && vin >= this.failedAt[k]! * (1 + RETRY);
    });
  }

  /** Mains came or went: what failed before may be tried again. */
  mains(): void {
    this.startedAt.fill(2);
    this.failedAt.fill(0);
  }

  private solve(near: number): Found {
    const found = this.instant.solve(this.state, near);
    countFound(this.counts, found);
    this.plant.path.read(this.state.volts);
    return found;
  }

  private inputOf(k: number): number {
    return this.plant.path.columns[stageAt(k) + STAGE_COLUMN.inputVolts]!;
  }

  /** Hold the first working stage that is outside its limits; one at a time, since each changes the rest. */
  private switchOff(): boolean {
    const { path } = this.plant;
    const { held } = path.network;
    const { limits } = path.network.rails;
    for (let k = 0; k < path.stages.length; k++) {
      const vin = this.inputOf(k);
      if (held[k] !== HELD.on || !(vin > 0)) continue;
      const { minInput, maxInput } = limits[k]!;
      if (vin > maxInput * (1 + SLACK)) path.hold(k, HELD.overInput);
      else if (vin < minInput) {
        path.hold(k, HELD.lockedOut);
        if (Math.abs(this.startedAt[k]! - this.state.soc) < CHATTER) this.givesUp(k, Infinity);
      } else if (path.modeOf(k) === MODE.collapsed) path.hold(k, HELD.collapsed);
      else continue;
      return true;
    }
    return false;
  }

  /** Start a locked-out stage whose input has recovered, if it then stays up. */
  private switchOn(): boolean {
    const { path } = this.plant;
    const { held } = path.network;
    const { limits } = path.network.rails;
    for (let k = 0; k < path.stages.length; k++) {
      const stage = path.stages[k]!;
      if (held[k] !== HELD.lockedOut || !isRegulated(stage)) continue;
      const before = this.inputOf(k);
      const { minInput } = limits[k]!;
      if (before < minInput + stage.hysteresis || before < this.failedAt[k]! * (1 + RETRY)) continue;
      path.hold(k, HELD.on);
      const { status } = this.solve(NaN);
      const stays =
        status === 'converged' && this.inputOf(k) >= minInput && path.modeOf(k) !== MODE.collapsed;
      if (stays) {
        this.startedAt[k] = this.state.soc;
        return true;
      }
      path.hold(k, HELD.lockedOut);
      this.givesUp(k, before);
      this.solve(NaN);
    }
    return false;
  }

  /** A start of a stage has come to nothing. @param volts [V] above which the next is worth it */
  private givesUp(k: number, volts: number): void {
    this.cycling.add(k);
    this.failedAt[k] = volts;
  }
}
