import { firstPhase, PHASES, type PhaseName } from '../../charging/phases.ts';
import { beginsAnew } from '../../charging/volts.ts';
import type { ChargerPlant } from '../../plant/charger.ts';
import { watchedIn } from '../../plant/chargerLayout.ts';
import type { Plant } from '../../plant/compile.ts';
import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import type { ChargeEnd } from '../account/chargeResult.ts';
import type { DeadReason } from '../account/result.ts';
import type { CellState } from '../step/state.ts';
import { hasCome } from '../step/time.ts';
import type { Keeper } from './keeper.ts';

/** Times a charger is set anew within one instant at most. */
const MOST_TURNS = 12;
/** Share of the pack's volts by which they must fall once a charge would have begun anew as it ended. */
const FALLS = 1e-3;

/**
 * Minds a charger: takes it from one phase of the table to the next. Like holds of stages a state of the simulation: within an
 * operating point nothing switches. A phase is over, once and for all, where what it waits for has come with its current
 * flowing, and has stayed for as long as it must without a break.
 */
export class ChargeKeeper implements Keeper {
  readonly most = MOST_TURNS;
  phase: PhaseName;
  /** why the charge has ended */
  why: ChargeEnd | undefined;
  /** [s] since when what the phase waits for has come; NaN where it has not */
  private since = NaN;
  /** the same in a cycle that is tried */
  private triedSince = NaN;
  private readonly charger: ChargerPlant;
  /** [s] since when there is mains, and when the phase began */
  private from = 0;
  private beganAt = NaN;
  /** [V] of the pack below which a charge begins anew */
  private again: number;

  /**
   * @param stays whether it goes on minding once the pack is full: it begins anew below the volts for that
   * @param thermistor that may keep it from charging at all
   */
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly stays = false,
    private readonly thermistor?: { why: 'cold' | 'hot' | undefined },
  ) {
    this.charger = plant.charger!;
    this.again = this.beginsAnew();
    this.phase = this.begin(firstPhase(this.control));
  }

  private get control() {
    return this.charger.charging.control;
  }

  private get row() {
    return PHASES[this.phase];
  }

  /** Mains comes or goes: with it the charge begins anew. */
  mains(on: boolean): void {
    this.from = this.state.time;
    this.since = NaN;
    this.why = undefined;
    this.again = this.beginsAnew();
    this.begin(on ? firstPhase(this.control) : 'noMains');
  }

  private beginsAnew(): number {
    const { plant, charger } = this;
    const { series } = plant.pack;
    return this.stays ? series * (beginsAnew(charger.charging, series)?.volts ?? 0) : 0;
  }

  private begin(asked: PhaseName): PhaseName {
    const { charger, plant, control, again } = this;
    const phase = asked !== 'noMains' && this.thermistor?.why ? 'held' : asked;
    const row = PHASES[phase];
    this.phase = phase;
    this.beganAt = this.state.time;
    const watched = row.watches?.(control, { series: plant.pack.series, again }) ?? {};
    // A threshold that has moved is another state: charts are kept by its name.
    const name = watched.again === undefined ? phase : `${phase} ${watched.again}`;
    charger.set(name, row.set(control), watched);
    plant.path.fedAnew();
    return phase;
  }

  /**
   * Look at the present instant, which the path is read at.
   * @returns whether the charger has been set anew: solve it again
   */
  react(): boolean {
    if (this.why) return false;
    const { waits, late } = this.row;
    if (this.hasCome()) {
      if (Number.isNaN(this.since)) this.since = this.state.time;
      if (hasCome(this.state.time, this.overAt())) {
        if (!waits!.ends || this.stays) return this.goOn(waits!.then);
        this.why = waits!.ends;
      }
    } else this.since = NaN;
    if (late && this.passed(late.after(this.control))) this.why ??= late.why;
    if (this.row.charges && !this.stays && this.passed(this.control?.timer)) this.why ??= 'timer';
    return false;
  }

  private goOn(then: PhaseName): true {
    this.since = NaN;
    if (this.phase === 'done' && !(this.state.time > this.beganAt)) {
      // It has just ended, and nothing has moved since: the volts must fall first.
      this.again = Math.min(this.again, this.state.volts) * (1 - FALLS);
      this.begin('done');
    } else this.begin(then);
    return true;
  }

  /** Whether what the phase waits for has come at the present instant. */
  private hasCome(): boolean {
    const { path } = this.plant;
    const { waits } = this.row;
    return (
      waits !== undefined && watchedIn(path.signature, path.stages.length, path.loads.length) === waits.for
    );
  }

  /** [s] when a timer of it runs out, or what it waits for has been there for as long as it must. */
  due(): number {
    const timers = this.timersDue();
    return Number.isNaN(this.since) || this.why ? timers : Math.min(timers, this.overAt());
  }

  /** Whether it waits for a timer, or for a current that has been low since before a time [s]. */
  waits(before: number): boolean {
    return this.timersDue() < Infinity || this.since <= before;
  }

  private timersDue(): number {
    const { row, control } = this;
    if (this.why) return Infinity;
    const hours = (h: number | undefined) => (h === undefined ? Infinity : this.from + h * SECONDS_PER_HOUR);
    const whole = row.charges && !this.stays ? control?.timer : undefined;
    return Math.min(hours(row.late?.after(control)), hours(whole));
  }

  quietUntil(): number {
    // Whether it has tapered for long enough is seen in the cycles that are tried.
    return this.timersDue();
  }

  tries(): void {
    this.triedSince = this.since;
  }

  skipped(seconds: number): void {
    this.since += seconds;
  }

  wouldSwitch(): boolean {
    if (this.why) return false;
    const { time } = this.state;
    if (time >= this.triedSince + this.unbroken) return true;
    if (!this.hasCome()) {
      this.triedSince = NaN;
      return false;
    }
    if (Number.isNaN(this.triedSince)) this.triedSince = time;
    return this.unbroken === 0;
  }

  /** It begins and ends below its limit for as long, or not at all; for the whole of it, it is about to end. */
  underWay(): boolean {
    if (this.unbroken === 0) return false;
    return Number.isNaN(this.triedSince) !== Number.isNaN(this.since) || this.triedSince === this.since;
  }

  ended(): DeadReason | undefined {
    return this.why && !this.stays ? 'charged' : undefined;
  }

  /** [s] when what it waits for has been there for as long as it must. */
  private overAt(): number {
    return this.since + this.unbroken;
  }

  private get unbroken(): number {
    return this.row.waits?.without?.(this.control) ?? 0;
  }

  private passed(hours: number | undefined): boolean {
    return hours !== undefined && hasCome(this.state.time, this.from + hours * SECONDS_PER_HOUR);
  }
}
