import { drawsOf, lawAtPeak, lawIn, type Draws } from '../../loads/draws.ts';
import { repeats, unfold, type Slice } from '../../model/cycle.ts';
import type { ThreadDocument } from '../../model/thread.ts';

/** A stretch of a programme as numbers. */
export interface Stretch {
  /** index into the thread's modes; 0 where it has none */
  mode: number;
  draws: Draws;
  /** loads that are at a peak, by their places */
  peaks: readonly number[];
  /** whether the loads are switched here, rather than a peak begin or end */
  enters: boolean;
  /** [s] */
  seconds: number;
}

/** A programme as numbers. */
export interface Schedule {
  stretches: readonly Stretch[];
  /** those of the first cycle, in which everything is switched on */
  first: readonly Stretch[];
  /** [s] of all stretches together */
  period: number;
  repeats: boolean;
}

/** The programme of a thread; undefined where every load is on all the time and has no peaks. */
export function scheduleOf(doc: ThreadDocument): Schedule | undefined {
  const { programme, loads } = doc;
  if (!programme && !loads.some((l) => l.peaks?.length)) return undefined;
  const made = new Map<string, Draws>();
  const stretches = stretchesOf(doc, unfold(doc), made, false);
  const opening = unfold(doc, Infinity, undefined, true);
  return {
    stretches,
    first: stretchesOf(doc, opening, made, true),
    period: stretches.reduce((sum, s) => sum + s.seconds, 0),
    repeats: repeats(doc),
  };
}

/** @param fresh whether everything is switched on at its beginning */
function stretchesOf(
  doc: ThreadDocument,
  slices: readonly Slice[],
  made: Map<string, Draws>,
  fresh: boolean,
): Stretch[] {
  const { modes = [], loads } = doc;
  return slices.map(({ mode, peaks, seconds, segment }, k) => {
    const name = `${mode} ${peaks.join(' ')}`;
    let draws = made.get(name);
    if (!draws) {
      const laws = loads.map((load, l) => {
        // Where several of its peaks meet, the one stated last counts.
        const at = peaks.findLast(([of]) => of === l);
        const law = lawIn(load, mode);
        return at ? lawAtPeak(load, load.peaks![at[1]]!, law) : law;
      });
      made.set(name, (draws = drawsOf(laws)));
    }
    return {
      mode: Math.max(
        0,
        modes.findIndex((m) => m.id === mode),
      ),
      draws,
      peaks: peaks.map(([l]) => l),
      enters: slices.at(k - 1)!.segment !== segment || (k === 0 && (fresh || slices.length === 1)),
      seconds,
    };
  });
}

/**
 * The stretch a run is in at a time, of a schedule that no cycle of was cut short.
 * @param time [s] @param before the one that ends there, where one begins there
 */
export function stretchAt(
  { stretches, first, period, repeats }: Schedule,
  time: number,
  before = false,
): Stretch {
  const cycle = repeats ? Math.floor((time + (before ? -1 : 1) * NEAR * (1 + time)) / period) : 0;
  const of = cycle <= 0 ? first : stretches;
  const at = time - Math.max(0, cycle) * period;
  return of[placeIn(of, at, NEAR * (1 + time), before)]!;
}

/**
 * Place of the stretch that so many seconds from the beginning of the first lie in.
 * @param slack [s] by which two instants are one @param before the one that ends there, where one begins there
 */
export function placeIn(of: readonly Stretch[], at: number, slack: number, before = false): number {
  const edges = edgesOf(of);
  let [low, high] = [0, of.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    const left = at - edges[middle]!;
    if (before ? left <= slack : left < -slack) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** How long each stretch lasts between two times [s]; whole cycles of a repeated one are counted at once. */
export function stretchesBetween(
  { stretches, first, period, repeats }: Schedule,
  from: number,
  to: number,
): { seconds: number; draws: Draws }[] {
  const opening = edgesOf(first).at(-1)!;
  // [s] of a stretch up to a time
  const within = (of: readonly Stretch[], time: number) => {
    let left = Math.max(0, time);
    return of.map((s) => {
      const seconds = Math.min(left, s.seconds);
      left -= seconds;
      return seconds;
    });
  };
  const upTo = (time: number) => {
    const cycles = repeats ? Math.floor(Math.max(0, time - opening) / period) : 0;
    const open = within(first, time);
    const last = within(stretches, repeats ? time - opening - cycles * period : 0);
    // One that ends stays as it is.
    if (!repeats) open[open.length - 1]! += Math.max(0, time - opening);
    return [...open, ...last.map((seconds, k) => seconds + cycles * stretches[k]!.seconds)];
  };
  const before = upTo(from);
  return upTo(to)
    .map((seconds, k) => ({ seconds: seconds - before[k]!, draws: [...first, ...stretches][k]!.draws }))
    .filter(({ seconds }) => seconds > 0);
}

const known = new WeakMap<readonly Stretch[], Float64Array>();

/** [s] from the beginning of a cycle to the end of each of its stretches. */
export function edgesOf(stretches: readonly Stretch[]): Float64Array {
  let edges = known.get(stretches);
  if (!edges) {
    let sum = 0;
    known.set(stretches, (edges = Float64Array.from(stretches, (s) => (sum += s.seconds))));
  }
  return edges;
}

/** Relative distance in time below which two instants are one. */
const NEAR = 1e-11;
