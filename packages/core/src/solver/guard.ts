import type { PackPlant } from '../plant/pack.ts';
import { PACK_EVENT } from './events.ts';

/** What a protection board opens for. */
export const GUARDED = ['cutoff', 'short', 'trip'] as const;
export type Guarded = (typeof GUARDED)[number];

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

  /** Look at an instant. @param events of the pack, see PACK_EVENT @returns what opens the board there */
  look(events: number, time: number): Guarded | undefined {
    const { since, delays } = this;
    // Nothing is passed and nothing was: as almost always.
    if (!(events & ANY) && !this.running) return undefined;
    this.running = false;
    let opens: Guarded | undefined;
    for (let k = 0; k < GUARDED.length; k++) {
      const g = GUARDED[k]!;
      if (!(events & PACK_EVENT[g])) since[k] = NaN;
      else {
        this.running = true;
        if (Number.isNaN(since[k]!)) since[k] = time;
        if (time >= (since[k]! + delays[k]!) * (1 - NEAR)) opens ??= g;
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

const ANY = PACK_EVENT.cutoff | PACK_EVENT.trip | PACK_EVENT.short;

/** Relative distance in time that is rounding. */
const NEAR = 1e-12;
