import type { DeadReason } from '../account/result.ts';
import type { Events } from '../march/events.ts';
import type { PackWatch } from '../march/watch.ts';

/**
 * One thing that switches by itself, or notes what happens: a hold, a load, a board, a charger, a balancer, a log. A run asks its
 * keepers in order at every stop of the march, each after those before it have come to rest; every part is optional. What a
 * keeper sets is a state of the simulation: within an operating point nothing switches, so that one exists.
 */
export interface Keeper {
  /** What of the pack itself it wants to know of: the march stops where one of these begins or ends. */
  readonly watches?: readonly PackWatch[];
  /** Before the first instant is solved, as the cells stand. */
  prepare?(): void;
  /** [s] when it next does something if nothing changes; Infinity: not by time. */
  due?(): number;
  /** Before an instant is solved. @returns whether the cells are other ones than they were: look from the top */
  look?(): boolean;
  /** times it switches within one instant at most, then it is left as it is; 0: it never does */
  readonly most?: number;
  /**
   * Look at the present instant, which the path is read at.
   * @param before to be called before a load is switched: how things stood is kept
   * @returns whether something was switched: the instant is solved again
   */
  react?(before: () => void): boolean;
  /** The pack cannot meet what is on: let something go. @returns the load that went, by its place; undefined: nothing to let go */
  giveWay?(): number | undefined;
  /** No step reaches past the present instant: hold what gave up there. @returns whether something did */
  pastLoss?(): boolean;
  /** The instant is taken up: nothing switches any more, the path is read there. */
  enter?(): void;
  /** @returns why the run ends at the present instant */
  ended?(): DeadReason | undefined;
  /**
   * Whether cycles of a programme may be skipped from the present instant on.
   * @returns [s] up to when nothing of it happens by time; 0: something is under way that reaches beyond a cycle
   */
  quietUntil?(): number;
  /** A cycle is tried from here, apart from the run. */
  tries?(): void;
  /**
   * In a cycle that is tried, at an instant the path is read at; nothing is switched.
   * @param now what is watched, there @param loads which the cycle that is tried has switched off by itself
   * @returns whether it would switch something, or note what skipping would miss
   */
  wouldSwitch?(now: Pick<Events, 'has'>, loads: { isOff(load: number): boolean }): boolean;
  /** Whether something is under way at the end of a cycle that is tried, which reaches into the next. */
  underWay?(): boolean;
  /** Cycles were skipped: what runs by a clock of its own is moved by so many seconds. */
  skipped?(seconds: number): void;
  /** Mains came or went. */
  mains?(on: boolean): void;
  /** The pack gives nothing more; it rests until what is given from outside changes that. */
  dark?(): void;
  /** The run is over, or the pack has rested: what is under way is no longer. */
  close?(): void;
}
