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

  constructor({ delays }: Pick<PackPlant, 'delays'>) {
    this.delays = Float64Array.from(GUARDED, (g) => delays[g]);
  }

  reset(): void {
    this.since.fill(NaN);
  }

  /** Whether a timer runs. */
  get runs(): boolean {
    return this.since.some((t) => t >= 0);
  }

  /** Look at an instant. @param events of the pack, see PACK_EVENT @returns what opens the board there */
  look(events: number, time: number): Guarded | undefined {
    GUARDED.forEach((g, k) => {
      if (!(events & PACK_EVENT[g])) this.since[k] = NaN;
      else if (Number.isNaN(this.since[k]!)) this.since[k] = time;
    });
    return GUARDED.find((_, k) => time >= (this.since[k]! + this.delays[k]!) * (1 - NEAR));
  }

  /** [s] when the next timer runs out if nothing changes; Infinity where none runs. */
  due(): number {
    let first = Infinity;
    for (let k = 0; k < this.delays.length; k++) {
      const at = this.since[k]! + this.delays[k]!;
      if (at < first) first = at;
    }
    return first;
  }
}

/** Relative distance in time that is rounding. */
const NEAR = 1e-12;
