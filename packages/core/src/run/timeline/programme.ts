import type { Ground } from '../keepers/ground.ts';
import type { EnvelopeSum } from '../account/envelope.ts';
import type { Track, Turned } from './track.ts';
import type { DeadReason, Worked } from '../account/result.ts';
import { edgesOf, placeIn, type Schedule, type Stretch } from './schedule.ts';

/** Cycles taken one by one before the first skip, and after one that could not be. */
const ONE_BY_ONE = 12;
/** The most of them where skips fail time and again. */
const MOST_PATIENCE = 96;
/** [s] and relative, by which the present may lie past a change that is only now looked at. */
const LATE = 1e-6;

/** What skips cycles alike. */
export interface Skips {
  /** times each load has started anew in skipped cycles, by its place */
  readonly resets: ArrayLike<number>;
  /** @returns whether cycles that take such a share of the charge, or give it, are ever skipped */
  mayBe(took: number): boolean;
  /** @param until [s] not passed @returns cycles skipped; 0 where they are to be taken one by one */
  skip(until: number): number;
}

/** How a programme is followed. */
export interface Following {
  /** skips cycles alike; none: every one is taken */
  skip?: Skips | undefined;
  /** keeps what the volts did in them */
  envelope?: EnvelopeSum | undefined;
  /** cycles taken one by one in all before the run is given up */
  most: number;
  /** why the run ends behind a cycle that took so much of the charge in so many seconds, where it does */
  still?: (took: number, seconds: number) => DeadReason | undefined;
  /** [s] not passed by a skip: something else changes then */
  until: () => number;
}

/**
 * The programme of the loads as a track: it switches them from stretch to stretch. Of many cycles alike most are skipped; those at
 * the start, around every change and at the end are taken one by one.
 */
export class Programme implements Track {
  next = 0;
  /** cycles done, and [s] where those that were taken one by one began */
  done = 0;
  readonly begins: number[] = [];
  private now: Stretch;
  private of: readonly Stretch[];
  /** the place of the present stretch, and whether its cycle is still to be noted */
  private at = 0;
  private open = false;
  private begun = { time: 0, soc: 0 };
  private single = ONE_BY_ONE;
  /** the same after a skip that could not be */
  private patience = ONE_BY_ONE;

  constructor(
    private readonly ground: Ground,
    private readonly schedule: Schedule,
    private readonly following: Following,
  ) {
    this.of = schedule.first;
    this.now = this.of[0]!;
  }

  begin(): void {
    this.beginCycle(this.schedule.first);
  }

  turn(): Turned {
    const { schedule, ground } = this;
    const { time } = ground.state;
    // The pack has rested meanwhile.
    if (time > this.next * (1 + LATE) + LATE) {
      this.catchUp(time);
      return 'loads';
    }
    if (this.at + 1 < this.of.length) {
      this.set(this.at + 1, this.next);
      return 'loads';
    }
    this.done++;
    this.note(false);
    const over = this.over();
    if (over) return { ends: over };
    if (!schedule.repeats) {
      this.next = Infinity;
      return 'nothing';
    }
    this.beginCycle(schedule.stretches);
    return 'loads';
  }

  /** The run ended within a cycle. */
  close(): void {
    this.note(true);
  }

  /** What the modes had of it so far. */
  worked(): Worked {
    const { ledger, trace, plant } = this.ground;
    const { modes = [] } = plant.doc;
    const endsIn = modes[this.now.mode]?.id;
    return {
      cycles: this.done,
      ...(endsIn === undefined ? {} : { endsIn }),
      resets: this.resets(),
      modes: ledger.byMode().map((sums, k) => {
        const lowest = trace.lowestVolts()[k]!;
        return { mode: modes[k]!.id, ...sums, ...(sums.seconds > 0 ? { lowest } : {}) };
      }),
    };
  }

  private resets(): Record<string, number> {
    const { plant, loads } = this.ground;
    const skipped = this.following.skip?.resets;
    const all = Array.from(loads.resets, (own, l) => own + (skipped?.[l] ?? 0));
    return Object.fromEntries(all.flatMap((n, l) => (n > 0 ? [[plant.path.loads[l]!.id, n]] : [])));
  }

  private beginCycle(of: readonly Stretch[]): void {
    const { state, trace } = this.ground;
    this.of = of;
    this.begun = { time: state.time, soc: state.soc };
    this.open = true;
    this.begins.push(state.time);
    trace.begin();
    this.following.envelope?.begin();
    this.set(0, state.time);
  }

  /** @param from [s] where the stretch begins */
  private set(at: number, from: number): void {
    const { ledger, loads } = this.ground;
    this.at = at;
    this.now = this.of[at]!;
    this.next = from + this.now.seconds;
    ledger.mode = this.now.mode;
    loads.begin(this.now.draws, this.now.enters);
  }

  /** The cycle is over, or cut short. */
  private note(cut: boolean): void {
    if (!this.open) return;
    this.open = false;
    const { state, trace } = this.ground;
    const { time, soc } = this.begun;
    const took = soc - state.soc;
    this.following.envelope?.keep({ time, soc, took, trace, seconds: state.time - time, weight: 1, cut });
  }

  /** Behind a cycle: skip what is alike. @returns why the run ends here, where it does */
  private over(): DeadReason | undefined {
    const { schedule, following, ground } = this;
    const { counts, state, options, plant } = ground;
    if (!schedule.repeats) return undefined;
    const took = this.begun.soc - state.soc;
    const still = following.still?.(took, state.time - this.begun.time);
    if (still) return still;
    if (++counts.cycles > following.most && !options.everyCycle) return 'unfinished';
    const { skip } = following;
    if (--this.single > 0 || options.everyCycle || !skip?.mayBe(took)) return undefined;
    const skipped = skip.skip(following.until());
    counts.skipped += skipped;
    this.done += skipped;
    // On mains it may be on its way to where nothing moves any more: to find that out each time costs more than the cycles.
    this.patience = skipped > 0 || !plant.charger ? ONE_BY_ONE : Math.min(MOST_PATIENCE, 2 * this.patience);
    this.single = skipped > 0 ? 1 : this.patience;
    return undefined;
  }

  /** To the stretch that a time lies in. */
  private catchUp(time: number): void {
    const { schedule } = this;
    this.open = false;
    let from = this.begun.time;
    const length = edgesOf(this.of).at(-1)!;
    if (time >= from + length - LATE) {
      if (!schedule.repeats) {
        this.set(this.of.length - 1, from);
        this.next = Infinity;
        return;
      }
      from += length;
      this.of = schedule.stretches;
      from += Math.floor((time - from) / schedule.period + LATE) * schedule.period;
      this.begun = { time: from, soc: this.ground.state.soc };
    }
    const at = placeIn(this.of, time - from, LATE);
    this.set(at, from + (edgesOf(this.of)[at - 1] ?? 0));
    // Whatever stopped meanwhile is switched on again with what comes next.
    this.ground.loads.begin(this.now.draws, true);
  }
}
