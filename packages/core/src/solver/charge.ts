import type { Source } from '../model/source.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compileCharging, type Plant } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { Balancer, type Balanced } from './balancer.ts';
import { ChargeKeeper, MOST_TURNS } from './chargeKeeper.ts';
import { PhaseLog } from './chargePhases.ts';
import { chargeAnswers, type Filled } from './chargeReading.ts';
import type { ChargeEnd, ChargeResult } from './chargeResult.ts';
import type { Ledger } from './ledger.ts';
import { PACK_EVENT } from './events.ts';
import { Recorder } from './recorder.ts';
import type { DeadEnd, DeadReason } from './result.ts';
import { scheduleOf, type Schedule, type Stretch } from './schedule.ts';
import { SteadyRun, type RunOptions } from './steady.ts';

/** [s] A charge ends here at the latest: thirty days. */
export const CHARGE_LIMIT = 30 * 86400;
/** Rows for a whole charge. */
const ROWS = 120;
/** Cycles of a programme followed one by one; where that is not enough, the loads are held in one mode. */
const MOST_CYCLES = 3000;
/** [s] a charge is reckoned to take when it is judged whether a programme can be followed. */
const RECKONED = 8 * SECONDS_PER_HOUR;
/** Share above full volts that is still full: a charger's own tolerance. Common practice, no source. */
const ABOVE_FULL = 0.005;
/** Share of the charge by which a cycle must move it, for it to be getting anywhere. */
const STILL = 1e-7;

/** The driver of a charge: it minds the charger, and the programme of the loads. It holds no physics. */
export class ChargeRun extends SteadyRun {
  private readonly keeper: ChargeKeeper;
  private readonly phases: PhaseLog;
  private readonly balancer: Balancer | undefined;
  private balanced: Balanced | undefined;
  private why: ChargeEnd = 'unfinished';

  constructor(
    plant: Plant,
    options: RunOptions,
    recorder: Recorder,
    private readonly schedule: Schedule | undefined,
  ) {
    super(plant, options, recorder);
    this.keeper = new ChargeKeeper(plant, this.state);
    this.phases = new PhaseLog(plant, this.state, this.ledger);
    if (plant.pack.groups) this.balancer = new Balancer(plant, this.state, this.ledger);
  }

  /** Charge. @returns everything but the rows */
  toFull(): Filled {
    const answers = this.toEnd();
    const { balanced } = this;
    return { why: this.why, phases: this.phases, answers, ...(balanced ? { balanced } : {}) };
  }

  /** Take up the first instant, for a driver of several. @returns the end where it does not begin */
  start(): DeadEnd | undefined {
    return this.begin();
  }

  /** Go on to a time [s]. @returns the end where it comes before */
  advance(edge: number): DeadEnd | undefined {
    return this.marchTo(edge);
  }

  /** What others take from the source has changed. [A] */
  share(others: number): void {
    this.plant.charger!.share(others);
    this.plant.path.fedAnew();
    this.settle(NaN);
    super.enter();
    this.march.enter(false);
  }

  /** [s] where it stands. */
  get time(): number {
    return this.state.time;
  }

  /** Why it has ended. */
  get reason(): ChargeEnd {
    return this.why;
  }

  /** The account so far. */
  get account(): Ledger {
    return this.ledger.close();
  }

  protected override run(): DeadEnd {
    const never = this.outOfTemperature();
    if (never) {
      this.why = never;
      this.plant.charger!.set('off', { on: false, amps: 0 }, {});
      this.plant.path.fedAnew();
      this.holds.settle(NaN);
      super.enter();
      return { time: 0, reason: 'charged' };
    }
    const { schedule, state } = this;
    if (schedule) this.load(schedule.first[0]!);
    const dead = this.begin() ?? (schedule ? this.cycles(schedule) : this.marchTo(CHARGE_LIMIT));
    this.phases.close();
    this.balanced = this.balancer?.close();
    if (!dead) {
      this.why = 'never';
      return { time: state.time, reason: 'timeLimit' };
    }
    if (dead.reason !== 'charged') this.why = dead.reason === 'unfinished' ? 'unfinished' : 'drained';
    return dead;
  }

  /** Cycles of the loads one after the other. @returns the end; none where it gets nowhere any more */
  private cycles(schedule: Schedule): DeadEnd | undefined {
    const { state } = this;
    let of = schedule.first;
    for (let n = 0; state.time < CHARGE_LIMIT && n < 2 * MOST_CYCLES; n++) {
      const { soc } = state;
      let edge = state.time;
      for (const [k, stretch] of of.entries()) {
        if (k > 0 || n > 0) {
          const dead = this.switchTo(stretch);
          if (dead) return dead;
        }
        edge = Math.min(edge + stretch.seconds, CHARGE_LIMIT);
        const dead = this.marchTo(edge);
        if (dead) return dead;
      }
      if (!schedule.repeats) return this.marchTo(CHARGE_LIMIT);
      // With a timer it is waited for.
      if (Math.abs(state.soc - soc) < STILL && this.keeper.due() === Infinity) return undefined;
      of = schedule.stretches;
    }
    return state.time < CHARGE_LIMIT ? { time: state.time, reason: 'unfinished' } : undefined;
  }

  private switchTo(stretch: Stretch): DeadEnd | undefined {
    this.load(stretch);
    if (!this.settle(this.state.volts)) return this.collapse();
    this.enter();
    this.march.enter(true);
    return undefined;
  }

  private load(stretch: Stretch): void {
    this.ledger.mode = stretch.mode;
    this.loads.begin(stretch.draws, stretch.enters);
  }

  /** Whether the cells stand within their full volts, held there by a control. */
  private withinFull(): boolean {
    const { plant, state } = this;
    const { cell } = plant.doc.pack;
    const { set, through } = plant.charger!.held;
    const most = cell.fullVolts * (1 + ABOVE_FULL);
    return set / plant.pack.series <= most && through <= most * plant.pack.series && state.volts > 0;
  }

  /** Whether its thermistor keeps it from beginning. */
  private outOfTemperature(): 'cold' | 'hot' | undefined {
    const { charger, conditions } = this.plant;
    const { coldest = -Infinity, hottest = Infinity } = charger!.charging.control ?? {};
    if (conditions.air < coldest) return 'cold';
    return conditions.air > hottest ? 'hot' : undefined;
  }

  protected override due(): number {
    return Math.min(super.due(), this.keeper.due(), this.balancer?.due() ?? Infinity);
  }

  protected override settle(near: number): boolean {
    let at = this.balancer?.look() ? NaN : near;
    // Gentle to fast, and back to nothing: it is set anew a few times at most.
    for (let turn = 0; turn < MOST_TURNS; turn++) {
      if (!super.settle(at)) return false;
      if (!this.keeper.react()) return true;
      at = NaN;
    }
    return true;
  }

  protected override enter(): void {
    super.enter();
    this.phases.enter(this.keeper.stage);
    this.balancer?.note();
  }

  protected override ended(): DeadReason | undefined {
    const { keeper, state, march } = this;
    if (keeper.ended) {
      this.why = keeper.ended;
      return 'charged';
    }
    const { pack } = march.before;
    if (pack & PACK_EVENT.over) {
      this.why = this.withinFull() ? 'recordFull' : 'overCharged';
      return 'charged';
    }
    if (pack & PACK_EVENT.opens) {
      this.why = 'overVoltage';
      return 'charged';
    }
    // A board that is open on low volts lets a charger in.
    const why = state.amps > 0 ? super.ended() : undefined;
    return why === 'nothingDraws' ? undefined : why;
  }
}

/**
 * Charge a thread's pack as it says.
 * @param doc a valid document that says something of charging; a programmer's error otherwise
 * @param source another source in the place of its own
 * @returns a whole charge; never NaN, always ends: after thirty days at the latest
 */
export function charge(
  doc: ThreadDocument,
  source?: Source,
  conditions: Partial<Conditions> = {},
  options: RunOptions = {},
): ChargeResult {
  const asked = { ...conditions, ...(source ? { charge: { source } } : {}) };
  let plant = compileCharging(doc, asked);
  let schedule = plant.conditions.mode === undefined ? scheduleOf(plant.doc) : undefined;
  let heldIn: string | undefined;
  if (schedule?.repeats && RECKONED / schedule.period > MOST_CYCLES) {
    heldIn = longestMode(plant.doc, schedule);
    schedule = undefined;
    if (heldIn !== undefined) plant = compileCharging(doc, { ...asked, mode: heldIn });
  }
  const recorder = new Recorder(plant, options.rows ?? ROWS);
  const run = new ChargeRun(plant, options, recorder, schedule);
  const held = heldIn === undefined ? {} : { heldIn };
  return { ...chargeAnswers(plant, run.toFull(), recorder.finish()), ...held };
}

/** Id of the mode that the loads are in for the longest. */
function longestMode(doc: ThreadDocument, { stretches }: Schedule): string | undefined {
  const { modes = [] } = doc;
  const seconds = modes.map((_, k) => stretches.reduce((s, of) => s + (of.mode === k ? of.seconds : 0), 0));
  return modes[seconds.indexOf(Math.max(...seconds))]?.id;
}
