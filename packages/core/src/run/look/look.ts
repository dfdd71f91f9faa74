import type { Ground } from '../keepers/ground.ts';
import type { Stop } from '../march/march.ts';
import { drainRate, heldCharge } from '../step/state.ts';
import { hasCome } from '../step/time.ts';
import { alike, LOST, type Faces, type Part, type Point } from './face.ts';
import type { Hour, Hours } from './hours.ts';
import type { Pace } from './pace.ts';
import { Warm } from './warm.ts';
import { Straight } from './straight.ts';

/** Stops in a row at one instant after which the march takes over, and [s] for how long. */
const HUNTS = 8;
const SPELL = 600;
/** Share of the charge by which a change that is not met yet is gone on from, eight times as much each time. */
const HAIR = 1e-7;
/** Demands that going through a part of a face counts for, and a stop, by the time they take. */
const PART_COST = 0.05;
const STOP_COST = 10;
/** [s] Stops nearer to each other are at one instant. */
const AT_ONCE = 1;

/**
 * Carries the cells through years: what they lose is looked up over their charge (`Face`) rather than stepped through, from one change
 * to the next, whatever lies between in hours. Keepers and tracks are those of any run, the account is the same. What it leaves out:
 * branches are settled at once, loads are taken by their mean in each hour, unlike cells side by side are one, no board bleeds. How far off
 * that is, is measured against the march.
 */
export class Look implements Pace {
  /** state of charge at its lowest, and [s] when */
  readonly lowest: { soc: number; time: number };
  /** every point that time was spent around */
  private readonly spent: Point[] = [];
  private readonly course = new Straight();
  private readonly warm: Warm;
  private hour: Hour;
  /** stops at the present instant */
  private stops = 0;
  private stoppedAt = -1;

  constructor(
    private readonly ground: Ground,
    private readonly hours: Hours,
    private readonly faces: Faces,
  ) {
    this.warm = new Warm(ground.plant.pack.warmth);
    this.lowest = { soc: ground.state.soc, time: 0 };
    this.hour = hours.at(0);
    ground.loads.begin(this.hour.draws, true);
  }

  until(edge: number): Stop {
    const { state, plant } = this.ground;
    if (state.time > this.stoppedAt + AT_ONCE) this.stops = 0;
    this.stoppedAt = state.time;
    plant.path.network.effort.spend(STOP_COST);
    const stop = this.go(edge);
    if (plant.path.network.effort.spent) return 'unfinished';
    return stop;
  }

  private go(edge: number): Stop {
    const { state, march, plant } = this.ground;
    if (hasCome(state.time, this.hour.until) && this.turn()) return 'event';
    const { warm } = this;
    warm.take(state.slow[plant.pack.cell.branches]!, this.hour.until - state.time, this.hour.kelvin);
    let { soc, time } = state;
    this.note(soc, time);
    // The cells hunt between two ways of working, or whatever else a face does not show.
    if (this.stops >= HUNTS) return march.until(Math.min(edge, this.hour.until, time + SPELL));
    let face = this.faces.now(warm.kelvin, march.before.watched);
    let part = face.partAt(soc, drainRate(plant.pack, state.charge, state.amps, soc) > 0);
    if (plant.pack.warmth && state.slow[plant.pack.cell.branches] !== warm.kelvin) this.warmTo(part.low);
    // A change is known to a hair: beyond it is within the part.
    soc = Math.min(part.high.soc, Math.max(part.low.soc, soc));
    if (plant.path.network.effort.spent) return 'unfinished';
    const { before } = march;
    if (part.low.event !== before.path || part.low.pack !== before.pack) {
      // With its branches settled something is otherwise; or the change is a hair off, and a little further on it has come.
      const moved = this.further(part, soc, Math.min(edge, this.hour.until) - time, HAIR * 8 ** this.stops);
      this.stops++;
      return this.stopAt(part, moved.soc, time + moved.seconds, 'event');
    }
    const { course } = this;
    for (;;) {
      if (!plant.path.network.effort.spend(PART_COST)) return 'unfinished';
      if (part.low.event === LOST) {
        this.stops++;
        return this.stopAt(part, soc, time, 'event');
      }
      const until = Math.min(edge, this.hour.until);
      const { low, high } = part;
      course.from(soc, low.soc, low.rate, high.soc, high.rate);
      const { goal } = course;
      const need = course.seconds;
      const h = Math.min(need, until - time);
      if (h > 0) {
        course.after(h);
        this.spend(part, h, course.weight);
        warm.follow(h, this.hour.kelvin, low.rise + course.weight * (high.rise - low.rise));
        soc = h === need ? goal : course.to;
        time = h < need ? until : time + h;
        this.note(soc, time);
      }
      if (!(h < need)) {
        const falls = goal === low.soc;
        const next = face.partAt(goal, falls);
        if (!alike(next.low, low)) {
          soc = falls ? next.high.soc : next.low.soc;
          if (time === state.time) this.stops++;
          return this.stopAt(next, soc, time, 'event');
        }
        part = next;
        continue;
      }
      if (hasCome(time, edge)) return this.stopAt(part, soc, edge, 'edge');
      state.time = time;
      if (this.turn()) return this.stopAt(part, soc, time, 'event');
      // The same world, colder or warmer.
      warm.settle(this.hour.until - time, this.hour.kelvin);
      face = this.faces.now(warm.kelvin, march.before.watched);
      const next = face.partAt(soc, goal < soc);
      state.soc = soc;
      this.warmTo(next.low);
      if (!alike(next.low, part.low)) return this.stopAt(next, soc, time, 'event');
      part = next;
    }
  }

  /** A little way on within a part, booked; nowhere where nothing flows. @param most [s] @param by share of the charge */
  private further(part: Part, from: number, most: number, by: number): { soc: number; seconds: number } {
    const { low, high } = part;
    const course = this.course.from(from, low.soc, low.rate, high.soc, high.rate);
    const wanted = course.by(by);
    const seconds = Math.min(most, course.seconds / 2, wanted, SPELL);
    if (!(seconds > 0 && wanted < Infinity)) return { soc: from, seconds: 0 };
    course.after(seconds);
    this.spend(part, seconds, course.weight);
    return { soc: course.to, seconds };
  }

  /** The cells stay as they are; what flows is nothing. */
  stand(until: number): void {
    this.ground.march.stand(until);
  }

  enter(jumped: boolean): void {
    this.ground.march.enter(jumped);
  }

  resume(): void {
    this.ground.march.enter(false);
  }

  creep(): void {
    this.ground.march.creep();
  }

  /** Book what was spent around each instant. */
  close(): void {
    const { ledger } = this.ground;
    for (const point of this.spent) {
      ledger.bookInstant(point, point.charge, point.seconds, point.exactly);
      point.seconds = 0;
    }
    this.spent.length = 0;
  }

  /** The next hour begins. @returns whether other things are drawn in it */
  private turn(): boolean {
    const { draws } = this.hour;
    this.hour = this.hours.at(this.ground.state.time);
    const { loads } = this.ground;
    // A programme switches on again in its next cycle what has stopped.
    if (this.hour.draws === draws && !(this.hour.switches && loads.down)) return false;
    loads.begin(this.hour.draws, true);
    return true;
  }

  /** @param weight share of it around the higher end */
  private spend({ low, high }: Part, seconds: number, weight: number): void {
    if (low.seconds === 0) this.spent.push(low);
    if (high.seconds === 0) this.spent.push(high);
    low.seconds += seconds * (1 - weight);
    high.seconds += seconds * weight;
  }

  /** Leave the state there. */
  private stopAt({ low, high }: Part, soc: number, time: number, why: Stop): Stop {
    const { state, plant, ledger } = this.ground;
    const x = high.soc > low.soc ? (soc - low.soc) / (high.soc - low.soc) : 0;
    const slow = low.slow.map((v, k) => v + x * (high.slow[k]! - v));
    state.soc = soc;
    ledger.warm(heldCharge(plant.pack, slow));
    state.put(slow);
    state.time = time;
    state.volts = low.volts + x * (high.volts - low.volts);
    state.amps = low.amps + x * (high.amps - low.amps);
    return why;
  }

  /** The cells are as warm as at a point from here on. */
  private warmTo({ slow }: Point): void {
    const { state, plant, ledger } = this.ground;
    ledger.warm(heldCharge(plant.pack, slow));
    state.put(slow);
  }

  private note(soc: number, time: number): void {
    if (!(soc < this.lowest.soc)) return;
    this.lowest.soc = soc;
    this.lowest.time = time;
  }
}
