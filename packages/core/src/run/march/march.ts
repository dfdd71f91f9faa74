import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import { DailyAir } from '../../plant/warmth.ts';
import { Events } from './events.ts';
import { FirstChange } from './firstChange.ts';
import type { LedgerSum } from '../account/ledger.ts';
import type { Recorder } from '../account/recorder.ts';
import type { Counts } from '../account/result.ts';
import { heldCharge, drainRate, fullerAt, pathAmps, resistanceAt, type CellState } from '../step/state.ts';
import { C1, D } from '../step/gauss.ts';
import { deliveredAt } from '../step/node.ts';
import { Step } from '../step/step.ts';
import type { Trace } from '../account/trace.ts';

/**
 * Why a march stopped: at the time it was given, where something changed, where no operating point was left, where what the
 * cells are given is what is drawn.
 */
export type Stop = 'edge' | 'event' | 'lost' | 'still' | 'unfinished';

export interface MarchOptions {
  /** largest share of the charge in one step */
  maxSoc: number;
  /** bounds on the second and third differences of volts and amps over a step, relative */
  bend: number;
  twist: number;
  /** longest first step behind a jump, as a share of the fastest branch's time, and growth from one to the next */
  first: number;
  growth: number;
}

/** Chosen so that the ends of 500 random designs lie within 1e-5 of steps forty times as short. */
export const USUAL_STEPS: MarchOptions = { maxSoc: 1 / 40, bend: 3e-4, twist: 3e-5, first: 0.2, growth: 3 };

/** [s] Shortest step behind a jump. */
const FIRST_STEP = 0.1;
/** [s] and [fraction of the run so far], the larger, to which events are located. */
const EVENT_SECONDS = 1e-6;
const EVENT_FRACTION = 1e-8;
/** Strain below which a step is taken again shorter. */
const TOO_LONG = 0.6;
/** Share of the volts that the branches may have to follow behind a jump for steps to be as long as if there were none. */
const SLIGHT = 1e-4;
/** Share of a step to which an event is first looked for; finer once a step ends near it. */
const ROUGH = 1 / 400;
/** Share of the charge against which it is measured at least how much fuller odd cells are. */
const LEAST_HELD = 0.01;
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
/** Share of a step by which one may be longer, rather than one more be taken before a knot. */
const STRETCH = 0.25;
/** Share of the charge below which nothing lies between here and a knot. */
const SLIVER = 1e-12;
/** Share of what a charger is set to below which a net current is rounding, and to which it is then balanced in so many tries. */
const STILL = 2e-5;
const BALANCED = 1e-12;
const BALANCING = 12;
/** Share of what a charger is set to below which a current counts as none. */
const NOTHING = 0.02;
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
  /** [W] to the loads at the present instant */
  private delivered = 0;
  /** largest strains of the step solved last, see `strain` */
  private bend = 0;
  private twist = 0;
  /** whether the next step is the first behind a jump that hardly moves the branches */
  private sudden = false;
  private creeps = 0;
  /** [s] of the stretch marched through: events in a short one are located within it */
  private stretch = Infinity;
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
    this.delivered = this.plant.path.delivered(state.volts);
    this.step.forget();
    this.lostAt = Infinity;
    this.sudden = false;
    if (jumped) this.h = this.opening();
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
    for (;;) {
      if (path.network.spent) return 'unfinished';
      if (!(state.time < edge * (1 - 1e-12))) return 'edge';
      this.pay();
      const least = this.least();
      const h = Math.min(
        this.h,
        this.options.maxSoc / Math.abs(drainRate(pack, state.charge, state.amps, state.soc)),
        edge - state.time,
        pack.warmth?.daily ? DailyAir.STEP : Infinity,
      );
      let length = this.whole(h, edge - state.time);
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
      const grow = this.growth();
      if (this.tooLong(length, grow)) continue;
      this.accept();
      if (this.lostAt <= state.time) this.lostAt = Infinity;
      if (this.isStill()) return 'still';
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
    plant.path.network.spend(CREEP_COST);
    this.creeps = state.time <= this.creptTo ? this.creeps + 1 : 0;
    const h = 2 * this.least() * 2 ** this.creeps;
    if (step.hunt(h, MOST_HUNTED) === undefined) {
      const rate = Math.abs(drainRate(plant.pack, state.charge, state.amps, state.soc));
      step.creep(Math.min(h, MOST_CREPT / rate));
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

  /** Whether a charger and what is drawn balance each other: nothing moves any more but by rounding. */
  private isStill(): boolean {
    const { charger, pack } = this.plant;
    if (!charger || pack.sharing) return false;
    const most = (STILL * charger.amps) / pack.parallel;
    return (
      Math.abs(this.state.amps) < most && Math.abs(this.step.startAmps) < most && this.balance() !== undefined
    );
  }

  /** [V] at which the cells are given no more than drains away by itself; none near here. */
  private balance(): number | undefined {
    const { state, plant } = this;
    const { path, pack } = plant;
    const wanted = pathAmps(pack, -this.drain());
    let volts = state.volts;
    for (let n = 0; n < BALANCING; n++) {
      path.evaluate(volts);
      const off = path.amps - wanted;
      if (Math.abs(off) <= BALANCED * plant.charger!.amps) return volts;
      if (!(path.slope > 0)) return undefined;
      volts = path.onTheWay(volts, volts - off / path.slope);
    }
    return undefined;
  }

  /** [A] that drains away by itself of one cell. */
  private drain(): number {
    const { state, plant } = this;
    return plant.pack.selfDischarge * state.charge * Math.max(0, state.soc);
  }

  /** The cells stay as they are until then, at the volts at which they are given no more than drains away by itself. */
  stand(until: number): void {
    const { step, state, ledger, plant, recorder } = this;
    const volts = this.balance()!;
    const amps = -this.drain();
    step.stand(until - state.time, volts, amps);
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
    this.plant.path.network.spend(this.price * (STEP_COST + SWEEP_COST * sweeps));
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
    return met && !plant.path.network.spent;
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
        if (this.tooLong(h, this.growth())) return false;
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
    if (this.tooLong(step.h, this.growth())) return false;
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
    this.delivered = plant.path.delivered(state.volts);
    this.trace.look(state.time, state.amps, state.volts, ledger.mode);
    counts.steps++;
    counts.sweeps = step.sweeps;
  }

  /** How much the next step may grow; below TOO_LONG this one was too long. */
  private growth(): number {
    const { step, plant, options } = this;
    const [a, b] = step.nodes;
    const { end } = step;
    this.bend = this.twist = 0;
    // While a charger is on the same rail, what it gives may be all that is drawn: next to it, that is nothing.
    const { charger, pack, path } = plant;
    const floor = charger ? (NOTHING * charger.amps) / pack.parallel : 0;
    this.strain(step.startAmps, a.amps, b.amps, end.amps, Math.max(Math.abs(a.amps), floor));
    this.strain(step.startVolts, a.volts, b.volts, end.volts, a.volts);
    // What reaches the loads may bend where what is drawn does not: behind a limit.
    this.strain(
      this.delivered,
      deliveredAt(a, plant),
      deliveredAt(b, plant),
      path.delivered(end.volts),
      charger ? charger.scale : end.volts * pathAmps(pack, end.amps),
    );
    const { fuller } = step;
    if (fuller) {
      const k = fullerAt(pack);
      this.strain(
        this.state.slow[k]!,
        fuller.first,
        fuller.second,
        end.slow[k]!,
        Math.min(1, Math.max(LEAST_HELD, this.state.soc)),
      );
    }
    const worst = Math.max(Math.sqrt(this.bend / options.bend), Math.cbrt(this.twist / options.twist));
    return 0.9 / Math.max(worst, 0.1);
  }

  /** Note how far four values over a step are from a straight line and from a parabola, as shares of `scale`. */
  private strain(y0: number, y1: number, y2: number, y3: number, scale: number): void {
    const slope = (y2 - y1) / D;
    const atEnd = y3 - (y1 + slope * (1 - C1));
    const atStart = y0 - (y1 - slope * C1);
    const bent = Math.max(Math.abs(atEnd), Math.abs(atStart));
    // What is nothing at all stands still, however little it is measured against.
    if (!(bent > 0)) return;
    const per = 1 / Math.abs(scale);
    this.bend = Math.max(this.bend, bent * per);
    this.twist = Math.max(this.twist, Math.abs(atEnd - atStart) * per);
  }

  /** [s] a first step behind a jump: a part of the fastest branch, unless the branches have next to nothing to follow. */
  private opening(): number {
    const { state } = this;
    const { pack } = this.plant;
    const { cell } = pack;
    const looked = cell.room();
    cell.look(state.soc, looked);
    const warm = resistanceAt(pack, state.slow);
    let least = Infinity;
    let behind = 0;
    for (let k = 0; k < cell.branches; k++) {
      const ohms = looked[LOOK.branches + k]!;
      const tau = ohms * looked[LOOK.branches + cell.branches + k]!;
      if (tau > 0.5) least = Math.min(least, tau);
      behind += Math.abs(ohms * warm * state.amps - state.slow[k]!);
    }
    this.sudden = behind * pack.series < SLIGHT * state.volts;
    if (this.sudden) return Infinity;
    return Math.max(FIRST_STEP, this.options.first * (least < Infinity ? least : 600));
  }

  /** A step of about h, of which a whole number reach the next knot of the curves, or the edge where that is nearer. */
  private whole(h: number, toEdge: number): number {
    const reach = Math.min(toEdge, this.toKnot(h));
    return reach / Math.max(1, Math.ceil(reach / h - STRETCH));
  }

  /** [s] to the next knot of the curves; h where there is none. */
  private toKnot(h: number): number {
    const { pack } = this.plant;
    const { knots } = pack.cell;
    const { soc, amps, charge } = this.state;
    const rate = drainRate(pack, charge, amps, soc);
    // Nothing flows: nothing is reached.
    if (rate === 0) return Infinity;
    let k = pack.cell.interval(soc);
    if (rate < 0) return this.toKnotAbove(k, -rate, h);
    // the next knot that is clearly below: a step never ends on a sliver
    const near = Math.max(0.04 * h * rate, SLIVER);
    while (k > 0 && soc - knots[k]! < near) k--;
    // Nothing but rounding left above the lowest: step across, and meet the end as any other event.
    if (!(soc - knots[k]! > SLIVER)) return h;
    return (soc - knots[k]!) / rate;
  }

  /** The same while the cells fill. @param k interval they are in @param rate [1/s] */
  private toKnotAbove(k: number, rate: number, h: number): number {
    const { knots } = this.plant.pack.cell;
    const { soc } = this.state;
    const near = Math.max(0.04 * h * rate, SLIVER);
    const last = knots.length - 1;
    let above = k + 1;
    while (above < last && knots[above]! - soc < near) above++;
    return knots[above]! - soc > SLIVER ? (knots[above]! - soc) / rate : h;
  }
}
