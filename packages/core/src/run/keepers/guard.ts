import type { Plant } from '../../plant/compile.ts';
import type { PackPlant } from '../../plant/pack.ts';
import type { Events } from '../march/events.ts';
import type { PackWatch } from '../march/watch.ts';
import type { Keeper } from './keeper.ts';
import type { DeadReason } from '../account/result.ts';
import type { CellState } from '../step/state.ts';
import { hasCome } from '../step/time.ts';

/** What a protection board opens for. */
export const GUARDED = ['cutoff', 'short', 'trip'] as const;
export type Guarded = (typeof GUARDED)[number];

/** What a board measures of each, and that the cells are empty. */
export const GUARDS: Readonly<Record<Guarded, PackWatch>> = {
  cutoff: { of: ({ pack: { cutoff } }) => (cutoff > -Infinity ? (p) => p.lowest < cutoff : undefined) },
  short: { of: ({ pack: { short } }) => (short < Infinity ? (p) => p.into > short : undefined) },
  trip: { of: ({ pack: { trip } }) => (trip < Infinity ? (p) => p.into > trip : undefined) },
};
export const EMPTY: PackWatch = { of: () => (p) => p.soc <= 0 };

/**
 * The timers of a protection board: each runs while its limit is passed, is at nothing at once when it is not, and opens
 * the board when its delay is over.
 */
export class Guard {
  /** [s] since when each limit is passed; NaN where it is not */
  private readonly since = new Float64Array(GUARDED.length).fill(NaN);
  private readonly delays: Float64Array;
  private running = false;

  constructor({ delays }: Pick<PackPlant, 'delays'>) {
    this.delays = Float64Array.from(GUARDED, (g) => delays[g]);
  }

  reset(): void {
    this.running = false;
    this.since.fill(NaN);
  }

  /** Whether a timer runs. */
  get runs(): boolean {
    return this.running;
  }

  /** Look at an instant. @returns what opens the board there */
  look(now: Pick<Events, 'has'>, time: number): Guarded | undefined {
    const { since, delays } = this;
    this.running = false;
    let opens: Guarded | undefined;
    for (let k = 0; k < GUARDED.length; k++) {
      const g = GUARDED[k]!;
      if (!now.has(GUARDS[g])) since[k] = NaN;
      else {
        this.running = true;
        if (Number.isNaN(since[k]!)) since[k] = time;
        if (hasCome(time, since[k]! + delays[k]!)) opens ??= g;
      }
    }
    return opens;
  }

  /** [s] when the next timer runs out if nothing changes; Infinity where none runs. */
  due(): number {
    let first = Infinity;
    if (!this.running) return first;
    for (let k = 0; k < this.delays.length; k++) {
      const at = this.since[k]! + this.delays[k]!;
      if (at < first) first = at;
    }
    return first;
  }
}

/** What ends a run at the pack itself: its protection board opens, or it is empty. Neither while the cells are filled. */
export class Board implements Keeper {
  readonly watches = [...GUARDED.map((g) => GUARDS[g]), EMPTY];
  private readonly guard: Guard;

  /** @param now what is watched of the pack, at the present instant */
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly now: Pick<Events, 'has'>,
  ) {
    this.guard = new Guard(plant.pack);
  }

  due(): number {
    return this.guard.due();
  }

  /** Whether a timer of it runs. */
  get runs(): boolean {
    return this.guard.runs;
  }

  ended(): DeadReason | undefined {
    const { guard, state, now, plant } = this;
    // A board that is open on low volts lets a charger in.
    if (plant.charger && !(state.amps > 0)) {
      guard.reset();
      return undefined;
    }
    return guard.look(now, state.time) ?? (now.has(EMPTY) ? 'empty' : undefined);
  }

  dark(): void {
    this.guard.reset();
  }
}

/** Ends a run in which nothing draws any more and nothing is to change that. */
export class NothingDraws implements Keeper {
  constructor(private readonly state: CellState) {}

  ended(): DeadReason | undefined {
    return this.state.amps > 0 ? undefined : 'nothingDraws';
  }
}
