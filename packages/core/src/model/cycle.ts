import type { Load } from './load.ts';
import { cycleSeconds, turned, type TurnedSegment } from './programme.ts';
import type { ThreadDocument } from './thread.ts';

/** A while of a cycle in which no draw changes. */
export interface Slice {
  /** id of the mode; undefined in a thread without modes */
  mode: string | undefined;
  /** the segment it is part of; 0 where there are none */
  segment: number;
  /** peaks that last through it: load and its peak, by their places */
  peaks: readonly (readonly [load: number, peak: number])[];
  /** [s] */
  seconds: number;
}

/** Most slices that stretches and peaks together may cut a cycle into. */
export const MOST_SLICES = 2000;

/** [s] Shortest slice: edges nearer to each other are one. */
const SHORTEST = 1e-9;

/** What a thread without a programme does in all: it is on. */
const ALWAYS: readonly TurnedSegment[] = [{ mode: '', seconds: 1e9, segment: 0 }];

/**
 * A thread's cycle cut where a mode or a peak begins or ends. Peaks of one entry begin together, the worst they can do.
 * A thread without a programme is on for good; one that has peaks time and again has the longest `every` as its cycle.
 * @param most slices after which no more are made: the list is then one longer
 * @param tooLong told of a peak that outlasts its stretch [s]
 * @param fresh whether this is the first cycle of a run, in which everything is switched on
 */
export function unfold(
  doc: ThreadDocument,
  most = Infinity,
  tooLong?: (load: number, peak: number, seconds: number) => void,
  fresh = false,
): Slice[] {
  const { programme, loads } = doc;
  const segments = programme ? turned(programme) : steady(loads);
  const repeats = programme ? programme.after === 'repeat' : segments !== ALWAYS;
  const slices: Slice[] = [];
  for (let k = 0; k < segments.length && slices.length <= most;) {
    const { mode } = segments[k]!;
    let end = k;
    let seconds = 0;
    while (end < segments.length && segments[end]!.mode === mode) seconds += segments[end++]!.seconds;
    const before =
      k > 0 ? segments[k - 1]!.mode : repeats && !fresh && programme ? segments.at(-1)!.mode : undefined;
    const spans = loads.flatMap((load, l) =>
      beginnings(load, programme ? mode : undefined, before, seconds, most).flatMap(({ peak, at }) => {
        const to = at + load.peaks![peak]!.seconds;
        if (to > seconds) tooLong?.(l, peak, seconds);
        return to > seconds ? [] : [{ l, peak, at, to }];
      }),
    );
    let from = 0;
    for (let s = k; s < end; s++) {
      const to = from + segments[s]!.seconds;
      const inside = spans.filter((x) => x.at < to && x.to > from);
      const edges = [...new Set([from, to, ...inside.flatMap((x) => [x.at, x.to])])]
        .filter((t) => t >= from && t <= to)
        .sort((a, b) => a - b);
      for (let e = 1; e < edges.length && slices.length <= most; e++) {
        const [low, high] = [edges[e - 1]!, edges[e]!];
        if (high - low < SHORTEST) continue;
        const peaks = inside
          .filter((x) => x.at <= low && x.to >= high)
          .map((x): [number, number] => [x.l, x.peak]);
        slices.push({
          mode: programme ? mode : undefined,
          segment: segments[s]!.segment,
          peaks,
          seconds: high - low,
        });
      }
      from = to;
    }
    k = end;
  }
  return slices;
}

/** The cycle of a thread that is always on. */
function steady(loads: readonly Load[]): readonly TurnedSegment[] {
  const every = Math.max(0, ...loads.flatMap((l) => l.peaks?.map((p) => p.every ?? 0) ?? []));
  return every > 0 ? [{ mode: '', seconds: every, segment: 0 }] : ALWAYS;
}

/** When peaks of a load begin in a stay of a mode. @param before the mode it is entered from; none at the start of a run */
function beginnings(
  load: Load,
  mode: string | undefined,
  before: string | undefined,
  seconds: number,
  most: number,
): { peak: number; at: number }[] {
  const { peaks = [] } = load;
  if (!isOn(load, mode)) return [];
  return peaks.flatMap(({ mode: own, every, seconds: lasts }, peak) => {
    const enters = own === undefined ? before === undefined || !isOn(load, before) : own === mode;
    const again = every !== undefined && (own === undefined || own === mode);
    if (!enters && !again) return [];
    const found = [{ peak, at: 0 }];
    if (!again) return found;
    for (let at = every; at + lasts <= seconds && found.length <= most; at += every) found.push({ peak, at });
    return found;
  });
}

function isOn(load: Load, mode: string | undefined): boolean {
  return (load.draws?.find((d) => d.mode === mode)?.value ?? load[load.draw]!) > 0;
}

/** Whether what the loads do comes again and again. */
export function repeats({ programme, loads }: Pick<ThreadDocument, 'programme' | 'loads'>): boolean {
  return programme ? programme.after === 'repeat' : loads.some((l) => l.peaks?.some((p) => p.every));
}

/** The same, and a cycle of it is shorter than so many seconds. */
export function repeatsWithin(doc: Pick<ThreadDocument, 'programme' | 'loads'>, seconds: number): boolean {
  if (!repeats(doc)) return false;
  const { programme, loads } = doc;
  const period = programme ? cycleSeconds(programme) : steady(loads).reduce((sum, s) => sum + s.seconds, 0);
  return period < seconds;
}
