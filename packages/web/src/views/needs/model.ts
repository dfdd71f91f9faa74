import type { Crossing, RailHeld } from '@mile-thread/core';
import {
  isRegulated,
  MODE_TABLE,
  STAGE_KINDS,
  lawAtPeak,
  lawIn,
  loadAmps,
  modeName,
  MOST_SLICES,
  PACK,
  unfold,
  type Draw,
  type Load,
  type LoadLaw,
  type Peak,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { formatApart, formatQuantity } from '@mile-thread/core/units';
import { railVolts } from '../../document/commands.ts';
import { drawIn, stretchShares } from '../../document/programme.ts';

/** A stretch on the score. Pixels. */
export interface Column {
  mode: string;
  name: string;
  /** [s] */
  seconds: number;
  x: number;
  width: number;
}

/** One load over the columns. */
export interface Lane {
  load: Load;
  /** [W] and in its own unit, one for each column */
  blocks: { watts: number; value: number; draw: Draw }[];
  peaks: Spike[];
}

/** A peak of a load where it comes first. */
export interface Spike {
  /** its place in the load's list, and the column at whose beginning it stands */
  peak: number;
  column: number;
  watts: number;
}

export interface Score {
  columns: Column[];
  lanes: Lane[];
  /** [W] of all loads, one for each column */
  sum: number[];
  /** [W] most in each column, its peaks included */
  most: number[];
  /** [W] over a cycle, and the most with the number of its column */
  mean: number;
  worst: { watts: number; column: number; peaks: string[] };
  /** [s] */
  period: number;
}

/** The name of the only stretch of a thread without a programme. */
const ALWAYS = 'all the time';

/** Least width of a stretch that has words on it [px], and the width of one ten times as long as the shortest. */
const NARROWEST = 92;

/**
 * What the loads do over one cycle. Milliseconds and hours stand side by side: a stretch is the wider the longer it
 * lasts, by the logarithm of its time.
 * @param width px of all stretches together
 */
export function scoreOf(doc: ThreadDocument, width: number): Score {
  const { programme } = doc;
  const segments = programme?.segments ?? [{ mode: '', seconds: 3600 * doc.goals.hours || 3600 }];
  const shares = stretchShares(segments.map((s) => s.seconds));
  const least = Math.min(NARROWEST, width / segments.length);
  const spare = width - least * segments.length;
  let x = 0;
  const columns = segments.map(({ mode, seconds }, k): Column => {
    const column = {
      mode,
      name: programme ? modeName(doc, mode) : ALWAYS,
      seconds,
      x,
      width: least + spare * shares[k]!,
    };
    x += column.width;
    return column;
  });
  const slices = unfold(doc, MOST_SLICES);
  const lanes = doc.loads.map((load, l): Lane => {
    const volts = railVolts(doc, load.from);
    const blocks = segments.map(({ mode }) => {
      const { value, draw } = programme ? drawIn(load, mode) : { value: load[load.draw]!, draw: load.draw };
      return { value, draw, watts: wattsOf(lawIn(load, mode), volts) };
    });
    const peaks = (load.peaks ?? []).flatMap((peak, p): Spike[] => {
      const at =
        slices.find((s) => s.peaks.some(([of, k]) => of === l && k === p)) ?? firstOf(peak, segments);
      if (!at) return [];
      const law = lawAtPeak(load, peak, lawIn(load, segments[at.segment]!.mode));
      return [{ peak: p, column: at.segment, watts: wattsOf(law, volts) }];
    });
    return { load, blocks, peaks };
  });
  const sum = segments.map((_, k) => lanes.reduce((total, l) => total + l.blocks[k]!.watts, 0));
  const period = segments.reduce((total, s) => total + s.seconds, 0);
  const drawn = slices.map((slice) => {
    const more = slice.peaks.reduce((total, [l, p]) => {
      const lane = lanes[l]!;
      const spike = lane.peaks.find((x) => x.peak === p)!;
      return total + spike.watts - lane.blocks[slice.segment]!.watts;
    }, 0);
    return { slice, watts: sum[slice.segment]! + more };
  });
  const cycle = slices.reduce((total, s) => total + s.seconds, 0);
  const mean = drawn.reduce((total, d) => total + d.slice.seconds * d.watts, 0) / cycle;
  const worst = drawn.reduce((most, d) => (d.watts > most.watts ? d : most), drawn[0]!);
  const most = segments.map((_, k) =>
    Math.max(...drawn.filter((d) => d.slice.segment === k).map((d) => d.watts)),
  );
  const names = worst.slice.peaks.map(([l]) => doc.loads[l]!.name);
  return {
    columns,
    lanes,
    sum,
    most,
    mean,
    worst: { watts: worst.watts, column: worst.slice.segment, peaks: names },
    period,
  };
}

/** A peak that never comes in a cycle that is under way stands where its mode is, or at the start. */
function firstOf(peak: Peak, segments: readonly { mode: string }[]): { segment: number } | undefined {
  const segment = peak.mode === undefined ? 0 : segments.findIndex((s) => s.mode === peak.mode);
  return segment < 0 ? undefined : { segment };
}

/** [W] a load takes by a law at its rail's usual volts; 0 where it is off. */
export function wattsOf({ law, value, slope, factor }: LoadLaw, volts: number): number {
  return factor === 0 ? 0 : factor * volts * loadAmps(law, value, slope, volts);
}

/** What a rail wants. */
export interface RailWish {
  /** [V] it is held at where a stage holds it */
  volts: number;
  /** [V] what hangs on it stands */
  min: number;
  max: number;
  /** [W] it takes at the most */
  watts: number;
}

/** A rail with what it wants: a stage on the pack with all that hangs below it, or loads on the pack itself. */
export interface NamedRail extends RailWish {
  /** id of the stage; of a load on the pack that one's */
  id: string;
  name: string;
  /** kind of the stage at present; none for a load on the pack */
  kind: string | undefined;
}

/** [W] most a load takes in a column, its peaks included. */
function mostIn({ blocks, peaks }: Lane, column: number): number {
  return Math.max(blocks[column]!.watts, ...peaks.filter((p) => p.column === column).map((p) => p.watts));
}

/** The rails that hang on the pack, each with the most it takes in any stretch. */
export function railsOf(doc: ThreadDocument, score: Score): NamedRail[] {
  const below = (id: string): string[] => [
    id,
    ...doc.stages.filter((s) => s.from === id).flatMap((s) => below(s.id)),
  ];
  const most = (loads: readonly Lane[]) =>
    Math.max(0, ...score.columns.map((_, k) => loads.reduce((sum, l) => sum + mostIn(l, k), 0)));
  const rails: NamedRail[] = doc.stages
    .filter((s) => s.from === PACK && isRegulated(s))
    .map((s) => {
      const own = doc.loads.filter((l) => l.from === s.id);
      const volts = railVolts(doc, s.id);
      const all = new Set(below(s.id));
      return {
        id: s.id,
        name: s.name,
        kind: s.kind,
        volts,
        min: own.length > 0 ? Math.max(...own.map((l) => l.range.min)) : volts,
        max: own.length > 0 ? Math.min(...own.map((l) => l.range.max)) : volts,
        watts: most(score.lanes.filter((l) => all.has(l.load.from))),
      };
    });
  const direct = doc.loads
    .filter((l) => l.from === PACK)
    .map((l): NamedRail => {
      const { min, max } = l.range;
      const lane = score.lanes.find((x) => x.load.id === l.id)!;
      return {
        id: l.id,
        name: l.name,
        kind: undefined,
        volts: (min + max) / 2,
        min,
        max,
        watts: most([lane]),
      };
    });
  return [...rails, ...direct];
}

/** Packs looked at, by their cells in series. */
export const SERIES_COUNTS = [1, 2, 3, 4, 5, 6, 7, 8] as const;

const V = (v: number) => formatQuantity(v, 'V', 3);
const A = (a: number) => formatQuantity(a, 'A', 3);

/** Why a pack reaches a rail that way, in a sentence or two. */
export function why(doc: ThreadDocument, c: Crossing, rail: RailWish): string {
  const { held } = c;
  const range = `Full it is ${V(held.full)}, at its end ${V(held.empty)}`;
  if (c.way === 'not') return `${range}. ${held.misfit ? `${misfitWords(doc, held)}.` : ampsWords(held)}`;
  return [`${range}: ${HOW[c.way]?.(rail) ?? `it holds its ${V(rail.volts)}.`}`, ...otherwise(doc, c)].join(
    ' ',
  );
}

const HOW: Partial<Record<Crossing['way'], (rail: RailWish) => string>> = {
  direct: (r) => `both within the ${V(r.min)} to ${V(r.max)} it stands, so it needs no stage.`,
  linear: (r) => `a linear stage keeps it within ${V(r.min)} to ${V(r.max)} to the end.`,
  buck: (r) => `a buck keeps it within ${V(r.min)} to ${V(r.max)} to the end.`,
  boost: (r) => `a boost keeps it within ${V(r.min)} to ${V(r.max)}, full and at its end.`,
  buckBoost: (r) => `a buck-boost holds its ${V(r.volts)} from above and from below.`,
  sepic: (r) => `a SEPIC holds its ${V(r.volts)} from above and from below.`,
};

/** What else there is to say of a crossing that is one: a simpler way, or why the one in use is not it. */
function otherwise(doc: ThreadDocument, { simpler, now, another }: Crossing): string[] {
  return [
    ...(another ? ['It would be another part than the one in use, whose limits are too narrow.'] : []),
    ...(now?.misfit ? [`As it is now it is not held: ${misfitWords(doc, now)}.`] : []),
    ...(simpler
      ? [
          simpler === 'direct'
            ? 'It would do without a stage.'
            : `A ${STAGE_KINDS[simpler].label.toLowerCase()} would do.`,
        ]
      : []),
  ];
}

const nameIn = ({ stages, loads }: ThreadDocument, id: string) =>
  [...stages, ...loads].find((x) => x.id === id)?.name ?? 'The stage';

/** What does not fit, as half a sentence. */
function misfitWords(doc: ThreadDocument, { misfit: found, downTo, empty }: RailHeld): string {
  const misfit = found!;
  switch (misfit.why) {
    case 'input': {
      const [gets, stands] = formatApart(misfit.volts, misfit.stands, 'V');
      return `${nameIn(doc, misfit.stage)} stands ${stands} and would get ${gets}; it would be another part`;
    }
    case 'high': {
      const [gets, stands] = formatApart(misfit.volts, misfit.stands, 'V');
      return `${nameIn(doc, misfit.load)} would get ${gets}, more than the ${stands} it stands`;
    }
    case 'low': {
      const [gets, needs] = formatApart(misfit.volts, misfit.needs, 'V');
      const { stage } = misfit;
      const whose = stage ? `: ${nameIn(doc, stage.id)} ${MODE_TABLE[stage.mode].cause}` : '';
      const until = downTo > empty ? `is held down to ${V(downTo)} of the pack; at its end it` : '';
      return until
        ? `${nameIn(doc, misfit.load)} ${until} gets ${gets} of the ${needs} it needs${whose}`
        : `${nameIn(doc, misfit.load)} gets ${gets} of the ${needs} it needs, even from a full pack${whose}`;
    }
  }
}

const ampsWords = ({ empty, asks, may }: RailHeld) =>
  `At ${V(empty)} each cell would have to give ${A(asks)}; it is rated for ${A(may)}. More cells, in series or in parallel, share it.`;
