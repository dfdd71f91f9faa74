import { WATCHED, watchedIn } from '../../plant/chargerLayout.ts';
import type { ChargerPlant } from '../../plant/charger.ts';
import type { Plant } from '../../plant/compile.ts';
import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import type { Keeper } from './keeper.ts';
import type { DeadReason } from '../account/result.ts';
import type { CellState } from '../step/state.ts';
import { beginsAnew } from '../../charging/volts.ts';
import type { ChargeEnd } from '../account/chargeResult.ts';

export type ChargeStage = 'precharge' | 'fast' | 'done';

/** Relative distance in time that is rounding. */
const NEAR = 1e-12;
/** Times a charger is set anew within one instant at most. */
const MOST_TURNS = 12;
/** Share of the pack's volts by which they must fall once a charge would have begun anew as it ended. */
const FALLS = 1e-3;

/**
 * Minds a charger: gentle current, fast current, the end. Like holds of stages a state of the simulation: within an
 * operating point nothing switches. The gentle current ends, once and for all, where the volts stand above its threshold
 * with it flowing; the charge ends once its current has been below the limit for the deglitch time without a break.
 */
export class ChargeKeeper implements Keeper {
  readonly most = MOST_TURNS;
  stage: ChargeStage = 'fast';
  /** why the charge has ended */
  why: ChargeEnd | undefined;
  /** [s] since when the current is below the limit; NaN where it is not */
  private since = NaN;
  /** the same in a cycle that is tried */
  private triedSince = NaN;
  private readonly charger: ChargerPlant;

  /** whether there is mains, and [s] since when */
  private fed = true;
  private from = 0;
  /** [V] of the pack below which a charge begins anew, and [s] when the last one ended */
  private again: number;
  private doneAt = NaN;

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
    const { control } = this.charger.charging;
    this.again = this.beginsAnew();
    this.begin(control?.precharge ? 'precharge' : 'fast');
  }

  /** Mains comes or goes: with it the charge begins anew. */
  mains(on: boolean): void {
    const { charger, plant, state } = this;
    this.fed = on;
    this.from = state.time;
    this.since = NaN;
    this.why = undefined;
    this.again = this.beginsAnew();
    if (on) return this.begin(charger.charging.control?.precharge ? 'precharge' : 'fast');
    this.stage = 'done';
    charger.set('no mains', { on: false, amps: 0, mains: false }, {});
    plant.path.fedAnew();
  }

  private beginsAnew(): number {
    const { plant, charger } = this;
    const { series } = plant.pack;
    return this.stays ? series * (beginsAnew(charger.charging, series)?.volts ?? 0) : 0;
  }

  private begin(stage: ChargeStage): void {
    const { charger, plant } = this;
    const { control } = charger.charging;
    if (this.thermistor?.why) {
      this.stage = 'done';
      charger.set('off', { on: false, amps: 0 }, {});
      return plant.path.fedAnew();
    }
    this.stage = stage;
    const gentle = control?.precharge;
    if (stage === 'done') {
      this.doneAt = this.state.time;
      // A threshold that has moved is another state: charts are kept by its name.
      const { again } = this;
      charger.set(`done ${again}`, { on: false, amps: 0 }, { again });
    } else if (stage === 'precharge') {
      const ready = gentle!.below * plant.pack.series;
      charger.set('precharge', { on: true, amps: gentle!.current }, { ready });
    } else {
      const amps = control?.current ?? Infinity;
      charger.set(
        'fast',
        { on: true, amps },
        { tapered: control?.terminate ?? 0, ofBattery: control?.endsBy === 'battery' },
      );
    }
    plant.path.fedAnew();
  }

  /**
   * Look at the present instant, which the path is read at.
   * @returns whether the charger has been set anew: solve it again
   */
  react(): boolean {
    const { plant, state, charger } = this;
    const { path } = plant;
    const { control } = charger.charging;
    if (this.why || !this.fed) return false;
    const watched = watchedIn(path.signature, path.stages.length, path.loads.length);
    if (this.stage === 'done') {
      if (watched !== WATCHED.again) return false;
      if (state.time > this.doneAt) {
        this.begin('fast');
        return true;
      }
      // It has just ended, and nothing has moved since: the volts must fall first.
      this.again = Math.min(this.again, state.volts) * (1 - FALLS);
      this.begin('done');
      return true;
    }
    if (this.stage === 'precharge') {
      if (watched === WATCHED.ready) {
        this.begin('fast');
        return true;
      }
      if (this.passed(control?.precharge?.timer)) this.why = 'prechargeTimer';
    } else if (watched === WATCHED.tapered) {
      if (Number.isNaN(this.since)) this.since = state.time;
      if (state.time >= this.tapersAt() * (1 - NEAR)) {
        if (this.stays) {
          this.begin('done');
          return true;
        }
        this.why = 'terminated';
      }
    } else this.since = NaN;
    if (!this.stays && this.passed(control?.timer)) this.why ??= 'timer';
    return false;
  }

  /** [s] when a timer of it runs out, or it has tapered for as long as it waits. */
  due(): number {
    const timers = this.timersDue();
    const waits = !Number.isNaN(this.since) && this.stage !== 'done' && !this.why;
    return waits ? Math.min(timers, this.tapersAt()) : timers;
  }

  /** Whether it waits for a timer, or for a current that has been low since before a time [s]. */
  waits(before: number): boolean {
    return this.timersDue() < Infinity || this.since <= before;
  }

  private timersDue(): number {
    const { control } = this.charger.charging;
    if (this.why || !this.fed || this.stage === 'done') return Infinity;
    const hours = (h: number | undefined) => (h === undefined ? Infinity : this.from + h * SECONDS_PER_HOUR);
    const gentle = this.stage === 'precharge' ? hours(control?.precharge?.timer) : Infinity;
    return Math.min(this.stays ? Infinity : hours(control?.timer), gentle);
  }

  quietUntil(): number {
    // Whether it has tapered for long enough is seen in the cycles that are tried.
    return this.timersDue();
  }

  tries(): void {
    this.triedSince = this.stage === 'fast' ? this.since : NaN;
  }

  skipped(seconds: number): void {
    this.since += seconds;
  }

  wouldSwitch(): boolean {
    if (this.why || !this.fed) return false;
    const { path } = this.plant;
    const { time } = this.state;
    if (time >= this.triedSince + this.deglitch) return true;
    const watched = watchedIn(path.signature, path.stages.length, path.loads.length);
    if (watched !== WATCHED.tapered) this.triedSince = NaN;
    else if (Number.isNaN(this.triedSince)) this.triedSince = time;
    return watched === WATCHED.tapered ? this.deglitch === 0 : watched !== WATCHED.nothing;
  }

  /** It begins and ends below its limit for as long, or not at all; for the whole of it, it is about to end. */
  underWay(): boolean {
    if (this.stage !== 'fast') return false;
    return Number.isNaN(this.triedSince) !== Number.isNaN(this.since) || this.triedSince === this.since;
  }

  ended(): DeadReason | undefined {
    return this.why && !this.stays ? 'charged' : undefined;
  }

  private tapersAt(): number {
    return this.since + this.deglitch;
  }

  /** [s] for which the current must have been below the limit. */
  private get deglitch(): number {
    return this.charger.charging.control?.deglitch ?? 0;
  }

  private passed(hours: number | undefined): boolean {
    return hours !== undefined && this.state.time - this.from >= hours * SECONDS_PER_HOUR * (1 - NEAR);
  }
}
