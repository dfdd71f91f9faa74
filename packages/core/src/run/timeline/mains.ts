import type { Gone } from '../account/outageResult.ts';
import { hasCome } from '../step/time.ts';
import type { Keeper } from '../keepers/keeper.ts';
import type { Track, Turned } from './track.ts';
import type { CellState } from '../step/state.ts';

/** Mains as a track: it comes and goes, and whoever minds is told. */
export class Mains implements Track {
  next = Infinity;
  on = true;
  /** outages that are over */
  private passed = 0;

  /** @param gone in order, apart from each other @param told keepers that mind mains */
  constructor(
    private readonly state: CellState,
    private readonly gone: readonly Gone[],
    private readonly told: readonly Keeper[],
  ) {}

  begin(): void {
    this.look();
    this.tell();
  }

  turn(): Turned {
    const { on } = this;
    this.look();
    if (on === this.on) return 'nothing';
    this.tell();
    return 'source';
  }

  private look(): void {
    const { gone, state } = this;
    const { time } = state;
    while (this.passed < gone.length && hasCome(time, gone[this.passed]!.to)) this.passed++;
    const now = gone[this.passed];
    this.on = !(now && hasCome(time, now.from));
    this.next = now ? (this.on ? now.from : now.to) : Infinity;
  }

  private tell(): void {
    for (const k of this.told) k.mains?.(this.on);
  }
}
