import type { Plant } from '../../plant/compile.ts';
import { DailyAir } from '../../plant/warmth.ts';
import { Events } from './events.ts';
import { FirstChange } from './firstChange.ts';
import { FIRST_STEP, openingStep, wholeStep } from './reach.ts';
import { Still } from './still.ts';
import { Strain, type Bounds } from './strain.ts';
import type { LedgerSum } from '../account/ledger.ts';
import type { Recorder } from '../account/recorder.ts';
import type { Counts } from '../account/result.ts';
import { heldCharge, drainRate, type CellState } from '../step/state.ts';
import { Step } from '../step/step.ts';
import { hasCome } from '../step/time.ts';
import type { Trace } from '../account/trace.ts';

/**
 * Why a march stopped: at the time it was given, where something changed, where no operating point was left, where what the
 * cells are given is what is drawn.
 */
export type Stop = 'edge' | 'event' | 'lost' | 'still' | 'unfinished';

export interface MarchOptions extends Bounds {
  /** largest share of the charge in one step */
  maxSoc: number;
  /** longest first step behind a jump, as a share of the fastest branch's time, and growth from one to the next */
  first: number;
  growth: number;
}

/** Chosen so that the ends of 500 random designs lie within 1e-5 of steps forty times as short. */
export const USUAL_STEPS: MarchOptions = { maxSoc: 1 / 40, bend: 3e-4, twist: 3e-5, first: 0.2, growth: 3 };

/** [s] and [fraction of the run so far], the larger, to which events are located. */
const EVENT_SECONDS = 1e-6;
const EVENT_FRACTION = 1e-8;
/** Strain below which a step is taken again shorter. */
const TOO_LONG = 0.6;
/** Share of a step to which an event is first looked for; finer once a step ends near it. */
const ROUGH = 1 / 400;
/** Share of the charge in one creep: what it is off by goes with its square. */
const MOST_CREPT = 8e-6;
/** The same between both sides of a jump, where the step is as good as any other. */
const MOST_HUNTED = 1e-3;
/** Demands that one creep counts for, and a step and one of its sweeps, by the time they take. */
const CREEP_COST = 100;
const STEP_COST = 1;
const SWEEP_COST = 0.5;
/** Stages and loads that double it. */
const ELEMENTS = 12;
/** Relative change of the current at a stop that is a jump rather than a bend: the branches are followed anew. */
const JUMP = 1e-3;

/**
 * Carries the cells through a stretch in which nothing is switched from outside: steps as long as the bounds allow,
 * ending at the knots of the cell's curves and at whatever changes the path's state. Knows neither why nor what comes
 * next: a driver gives it an edge in time and decides at every stop.
 */
export class March {
  readonly step: Step;
  /** the state of things since the last stop */
  readonly before: Events;
  private readonly change: FirstChange;
  private h = FIRST_STEP;
  /** [s] of a step before it was shortened towards the event ahead */
  private usual = 0;
  /** [A] of one cell before whatever stopped it */
  private stoppedAt = 0;
  /** [s] before which a step is known to meet no solution */
  private lostAt = Infinity;
  private readonly strain: Strain;
  private readonly still: Still;
  /** whether the next step is the first behind a jump that hardly moves the branches */
  private sudden = false;
  private creeps = 0;
  /** [s] of the stretch marched through: events in a short one are located within it */
  private stretch = Infinity;
  /** [s] not passed, also where it creeps */
  private edge = Infinity;
  private creptTo = -Infinity;
  /** how many times the usual a step costs: rows of many columns, groups or cells that differ, warmth */
  private readonly price: number;
  /** sweeps that have been paid for */
  private paid = 0;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly ledger: LedgerSum,
    private readonly trace: Trace,
    private readonly recorder: Recorder | undefined,
    private readonly counts: Counts,
    private readonly options: MarchOptions,
  ) {
    this.step = new Step(plant, state);
    this.strain = new Strain(plant, state, this.step, options);
    this.still = new Still(plant, state);
    const { path, pack } = plant;
    this.price =
      (pack.groups || pack.sharing ? 2 : 1) *
      (pack.warmth ? 1.5 : 1) *
      (1 + (path.stages.length + path.loads.length) / ELEMENTS);
    this.before = new Events(plant);
    this.change = new FirstChange(plant, this.step, this.before);
  }

  /** Go on from where `until` stopped, with what has been switched since. */
  resume(): void {
    this.enter(Math.abs(this.state.amps - this.stoppedAt) > JUMP * Math.abs(this.stoppedAt));
  }

  /** Begin anew at the present instant, which the path is read at. @param jumped whether the current did */
  enter(jumped: boolean): void {
    const { state } = this;
    this.before.take(state.volts, state.amps, state.soc);
    this.strain.take();
    this.step.forget();
    this.lostAt = Infinity;
    if (jumped) this.h = openingStep(this.plant.pack, state, this.options.first);
    this.sudden = jumped && this.h === Infinity;
  }

  /** March until something stops it. @param edge [s] not passed */
  until(edge: number): Stop {
    const stop = this.march(edge);
    const { step, state } = this;
    // A step across a jump bends too much, unless it is as short as that.
    this.stoppedAt = stop === 'event' && step.h <= 2 * FIRST_STEP ? step.startAmps : state.amps;
    return stop;
  }

  private march(edge: number): Stop {
    const { state, counts } = this;
    const { pack, path } = this.plant;
    this.stretch = edge - state.time;
    this.edge = edge;
    for (;;) {
      if (path.network.effort.spent) return 'unfinished';
      if (hasCome(state.time, edge)) return 'edge';
      this.pay();
      const least = this.least();
      const h = Math.min(
        this.h,
        this.options.maxSoc / Math.abs(drainRate(pack, state.charge, state.amps, state.soc)),
        edge - state.time,
        pack.warmth?.daily ? DailyAir.STEP : Infinity,
      );
      let length = wholeStep(pack, state, h, edge - state.time);
      if (state.time + length >= this.lostAt) length = (this.lostAt - state.time) / 2;
      // A step that moves the clock by nothing would be taken for ever.
      if (!(state.time + length > state.time) || this.lostAt - state.time <= 2 * least) return 'lost';
      if (!this.solve(length)) {
        this.lostAt = Math.min(this.lostAt, state.time + length);
        counts.rejected++;
        continue;
      }
      if (this.changed()) {
        this.h = h;
        this.usual = Math.max(this.usual, h);
        if (!this.meetEvent(length)) continue;
        // Short steps towards an event say nothing against longer ones behind it.
        this.h = this.usual;
        this.usual = 0;
        return 'event';
      }
      const grow = this.strain.growth();
      if (this.tooLong(length, grow)) continue;
      this.accept();
      if (this.lostAt <= state.time) this.lostAt = Infinity;
      if (this.still.isSince(this.step.startAmps)) return 'still';
      // A step cut short by a knot says nothing against the longer one.
      this.h = Math.max(length * Math.min(this.options.growth, grow), length < h && grow > 1 ? h : 0);
    }
  }

  /**
   * No step, however short, could be solved: the demand jumps just ahead, or there is none that the pack can meet. Go
   * on by the present current, a little further each time in a row. The end is left for the driver to solve.
   */
  creep(): void {
    const { state, step, ledger, plant } = this;
    this.counts.crept++;
    // Some twenty steps have failed before it.
    plant.path.network.effort.spend(CREEP_COST);
    this.creeps = state.time <= this.creptTo ? this.creeps + 1 : 0;
    const h = Math.min(2 * this.least() * 2 ** this.creeps, Math.max(this.least(), this.edge - state.time));
    if (step.aside.hunt(h, MOST_HUNTED) === undefined) {
      const rate = Math.abs(drainRate(plant.pack, state.charge, state.amps, state.soc));
      step.aside.creep(Math.min(h, MOST_CREPT / rate));
    }
    if (!ledger.book(step)) return;
    state.time += step.h;
    state.soc = step.end.soc;
    ledger.warm(heldCharge(plant.pack, step.end.slow));
    state.put(step.end.slow);
    this.creptTo = state.time;
    this.lostAt = Infinity;
    this.counts.steps++;
  }

  /** The cells stay as they are until then, at the volts at which they are given no more than drains away by itself. */
  stand(until: number): void {
    const { step, state, ledger, plant, recorder, still } = this;
    const volts = still.volts()!;
    const amps = -still.drain();
    step.aside.stand(until - state.time, volts, amps);
    if (!ledger.book(step)) return;
    state.time = until;
    this.counts.steps++;
    plant.path.read(volts);
    recorder?.keep(until, { soc: state.soc, volts, amps, ocv: step.nodes[0].ocv });
  }

  /** Count a step and the sweeps since the last. */
  private pay(): void {
    const { step } = this;
    const sweeps = step.sweeps - this.paid;
    this.paid = step.sweeps;
    this.plant.path.network.effort.spend(this.price * (STEP_COST + SWEEP_COST * sweeps));
  }

  /** [s] to which events are located. */
  private least(): number {
    return Math.max(EVENT_SECONDS, EVENT_FRACTION * Math.min(this.state.time, this.stretch));
  }

  private solve(length: number): boolean {
    const { step, plant } = this;
    let met = step.solve(length);
    if (!met && step.guesses) {
      // Perhaps only the guess was bad.
      step.forget();
      met = step.solve(length);
    }
    // What the last demands said once all was spent is not what the path draws.
    return met && !plant.path.network.effort.spent;
  }

  /** Whether the state of things differs at a node or at the end of the step solved last. */
  private changed(): boolean {
    const { step, before } = this;
    return before.differs(step.end) || before.differs(step.nodes[0]) || before.differs(step.nodes[1]);
  }

  /**
   * The step solved last holds an event: step up to just behind the first one. The dense output of a step that ends
   * near an event is better there than that of one across it, so the last word is a step's own end.
   * @returns false where a step fell short of it, or could not be solved: then there is more to march
   */
  private meetEvent(length: number): boolean {
    const { step, state, before } = this;
    this.counts.located++;
    const least = this.least();
    let within = Math.max(least, ROUGH * length);
    let from = 0;
    let h = length;
    for (let round = 0; round < 12; round++) {
      h *= this.change.first(from, within);
      if (!this.solve(h)) {
        this.lostAt = Math.min(this.lostAt, state.time + h);
        return false;
      }
      if (!before.differs(step.end)) {
        if (this.tooLong(h, this.strain.growth())) return false;
        this.accept();
        this.h = Math.max(8 * least, 4 * within);
        return false;
      }
      if (h <= 2 * least) break;
      from = Math.max(0, 1 - (4 * within) / h);
      if (from > 0 && this.change.isAt(from)) from = 0;
      else if (within <= least) break;
      within = Math.max(least, within * ROUGH);
    }
    if (step.end.bridge && !this.shortenToBridge(h, least)) return false;
    if (this.tooLong(step.h, this.strain.growth())) return false;
    this.accept();
    return true;
  }

  /**
   * On the bridge of a jump the volts stand almost still: how long the step has been there does not show in its own
   * course. Halved by real steps. @returns false where one was not solved
   */
  private shortenToBridge(length: number, least: number): boolean {
    let low = 0;
    let high = length;
    while (high - low > least) {
      const middle = (low + high) / 2;
      if (!this.solve(middle)) return false;
      if (this.before.differs(this.step.end)) high = middle;
      else low = middle;
    }
    return this.solve(high);
  }

  /** Whether the step solved last bends by more than allowed; the next is then shorter. */
  private tooLong(length: number, grow: number): boolean {
    if (grow >= TOO_LONG || length <= 2 * FIRST_STEP) return false;
    this.h = length * grow;
    this.counts.rejected++;
    return true;
  }

  /** Book the step solved last, keep its rows, move to its end, where the path is left evaluated. */
  private accept(): void {
    const { step, state, ledger, recorder, plant, counts } = this;
    if (!ledger.book(step, this.sudden)) return;
    this.sudden = false;
    recorder?.keepStep(step, state);
    step.accept();
    // Booking, recording and the search for an event look elsewhere.
    plant.path.evaluate(state.volts);
    this.strain.take();
    this.trace.look(state.time, state.amps, state.volts, ledger.mode);
    counts.steps++;
    counts.sweeps = step.sweeps;
  }
}
