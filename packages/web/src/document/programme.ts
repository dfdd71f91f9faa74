import {
  cycleSeconds,
  MOST_MODES,
  MOST_PEAKS,
  MOST_SEGMENTS,
  turned,
  type Draw,
  type Edit,
  type Load,
  type LoadMode,
  type Peak,
  type Programme,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { unusedId } from './commands.ts';

/** Changes of what the loads do, as edits; none touches the document. */

/** [s] of a new stretch. */
const FRESH_SECONDS = 60;
/** [s] of a new peak. */
const FRESH_PEAK = 0.2;

function set(doc: ThreadDocument, field: 'modes' | 'programme', value: unknown): Edit {
  return { op: doc[field] === undefined ? 'add' : 'replace', path: [field], value };
}

/** Begin a programme: everything on for a minute, then off for ten; of a thread that has modes, with those. */
export function startProgramme(doc: ThreadDocument): Edit[] {
  const own = doc.modes;
  const modes: LoadMode[] = own ?? [
    { id: 'work', name: 'Work' },
    { id: 'rest', name: 'Rest' },
  ];
  const programme: Programme = {
    segments: modes.map(({ id }, k) => ({ mode: id, seconds: (k === 0 ? 1 : 10) * FRESH_SECONDS })),
    after: 'repeat',
  };
  if (own) return [set(doc, 'programme', programme)];
  const off = doc.loads.map((l): Edit => drawsEdit(l, [{ mode: 'rest', value: 0 }]));
  return [set(doc, 'modes', modes), set(doc, 'programme', programme), ...off];
}

/** Back to every load on all the time. */
export function endProgramme(doc: ThreadDocument): Edit[] {
  const modes = (doc.modes ?? []).map((m) => m.id);
  return [
    ...doc.loads.flatMap((l): Edit[] => (l.draws ? [{ op: 'remove', path: ['loads', l.id, 'draws'] }] : [])),
    ...hangingOn(doc, modes),
    { op: 'remove', path: ['programme'] },
    { op: 'remove', path: ['modes'] },
  ];
}

/** What makes no sense without some modes goes with them: peaks at their entry, the wait, what loads do while charging. */
function hangingOn({ loads, goals, charging }: ThreadDocument, modes: readonly string[]): Edit[] {
  const gone = (mode: string | undefined) => mode !== undefined && modes.includes(mode);
  const peaks = loads.flatMap((l): Edit[] =>
    l.peaks?.some((p) => gone(p.mode))
      ? [{ op: 'replace', path: ['loads', l.id, 'peaks'], value: l.peaks.filter((p) => !gone(p.mode)) }]
      : [],
  );
  return [
    ...peaks,
    ...(gone(goals.wait?.mode) ? [{ op: 'remove' as const, path: ['goals', 'wait'] }] : []),
    ...(gone(charging?.mode) ? [{ op: 'remove' as const, path: ['charging', 'mode'] }] : []),
  ];
}

/** Put a stretch before or behind its neighbour; none at the ends. @param by −1 or 1 */
export function moveSegment(doc: ThreadDocument, segment: number, by: -1 | 1): Edit[] {
  const { programme } = doc;
  const to = segment + by;
  if (!programme || to < 0 || to >= programme.segments.length) return [];
  const segments = [...programme.segments];
  [segments[segment], segments[to]] = [segments[to]!, segments[segment]!];
  return [set(doc, 'programme', { ...programme, segments })];
}

function drawsEdit(load: Load, draws: NonNullable<Load['draws']>): Edit {
  return { op: load.draws ? 'replace' : 'add', path: ['loads', load.id, 'draws'], value: draws };
}

/** The mode that the loads are in at a time of a run; undefined where there is no programme. @param time [s] */
export function modeAt({ programme, modes = [] }: ThreadDocument, time: number): LoadMode | undefined {
  if (!programme) return undefined;
  const { after } = programme;
  const segments = turned(programme);
  let left = after === 'repeat' ? time % cycleSeconds(programme) : time;
  const at = segments.find(({ seconds }) => (left -= seconds) < 0) ?? segments.at(-1)!;
  return modes.find((m) => m.id === at.mode);
}

/**
 * The time nearest to another at which the loads are in a mode: the middle of a stretch of it.
 * @param time [s] @param until [s] not passed @returns undefined where there is none in the run
 */
export function nearestIn(
  { programme }: ThreadDocument,
  mode: string,
  time: number,
  until: number,
): number | undefined {
  if (!programme) return undefined;
  const period = cycleSeconds(programme);
  const cycle = programme.after === 'repeat' ? Math.floor(time / period) : 0;
  const found: number[] = [];
  for (const n of programme.after === 'repeat' ? [cycle - 1, cycle, cycle + 1] : [0]) {
    let from = n * period;
    for (const s of turned(programme)) {
      const middle = from + s.seconds / 2;
      if (s.mode === mode && middle >= 0 && middle <= until) found.push(middle);
      from += s.seconds;
    }
    const last = programme.segments.at(-1)!;
    if (programme.after === 'stay' && last.mode === mode && until > from) found.push((from + until) / 2);
  }
  return found.sort((a, b) => Math.abs(a - time) - Math.abs(b - time))[0];
}

/** What a load draws in a mode, in the unit of what it then keeps constant. A string's usual draw is all of the time. */
export function drawIn(load: Load, mode: string): { value: number; draw: Draw } {
  const own = load.draws?.find((d) => d.mode === mode);
  const draw = own?.draw ?? load.draw;
  return { value: own?.value ?? (draw === 'string' ? 1 : load[load.draw]!), draw };
}

/** Unit of a draw in a mode; a string's is a share of the time. */
export const MODE_UNIT = { power: 'W', current: 'A', resistance: 'Ω', string: '' } as const;

/** Set what a load draws in a mode. @param draw what it then keeps constant; as before where it is not given */
export function setDraw(load: Load, mode: string, value: number, draw?: Draw): Edit[] {
  const old = load.draws?.find((d) => d.mode === mode);
  const others = (load.draws ?? []).filter((d) => d.mode !== mode);
  return [drawsEdit(load, [...others, { ...old, mode, value, ...(draw ? { draw } : {}) }])];
}

/** A peak more of a load: twice what it draws, at each entry of a mode or when it is switched on. */
export function addPeak(load: Load, mode?: string): Edit[] {
  const peak: Peak = { factor: 2, seconds: FRESH_PEAK, ...(mode === undefined ? {} : { mode }) };
  const peaks = [...(load.peaks ?? []), peak];
  if (peaks.length > MOST_PEAKS) return [];
  return [{ op: load.peaks ? 'replace' : 'add', path: ['loads', load.id, 'peaks'], value: peaks }];
}

/** Change one of a load's peaks, or take it out. @param change undefined takes it out */
export function setPeak(load: Load, at: number, change: Partial<Peak> | undefined): Edit[] {
  const peaks = (load.peaks ?? []).flatMap((p, k) =>
    k !== at ? [p] : change ? [changedPeak(p, change)] : [],
  );
  return [{ op: 'replace', path: ['loads', load.id, 'peaks'], value: peaks }];
}

/** A field set to undefined is taken out. */
function changedPeak(peak: Peak, change: Partial<Peak>): Peak {
  const all = Object.entries({ ...peak, ...change }).filter(([, v]) => v !== undefined);
  return Object.fromEntries(all) as unknown as Peak;
}

export function setSeconds(segment: number, seconds: number): Edit[] {
  return [{ op: 'replace', path: ['programme', 'segments', segment, 'seconds'], value: seconds }];
}

/** A further mode, in which the loads draw as ever, with a stretch of its own at the end. None where there are too many. */
export function addMode(doc: ThreadDocument): Edit[] {
  const { modes = [], programme } = doc;
  if (!programme || modes.length >= MOST_MODES || programme.segments.length >= MOST_SEGMENTS) return [];
  const id = unusedId(
    modes.map((m) => m.id),
    'mode',
  );
  const segments = [...programme.segments, { mode: id, seconds: FRESH_SECONDS }];
  return [
    set(doc, 'modes', [...modes, { id, name: `Mode ${modes.length + 1}` }]),
    set(doc, 'programme', { ...programme, segments }),
  ];
}

/** A mode more that draws what the mode of a stretch draws, with a stretch of its own behind it. */
export function copyMode(doc: ThreadDocument, segment: number): Edit[] {
  const { modes = [], programme } = doc;
  if (!programme || modes.length >= MOST_MODES || programme.segments.length >= MOST_SEGMENTS) return [];
  const from = programme.segments[segment]!;
  const id = unusedId(
    modes.map((m) => m.id),
    'mode',
  );
  const own = modes.find((m) => m.id === from.mode)!;
  const draws = doc.loads.flatMap((l): Edit[] => {
    const draw = l.draws?.find((d) => d.mode === from.mode);
    return draw ? [drawsEdit(l, [...l.draws!, { ...draw, mode: id }])] : [];
  });
  const segments = programme.segments.toSpliced(segment + 1, 0, { mode: id, seconds: from.seconds });
  return [
    set(doc, 'modes', [...modes, { id, name: `${own.name} copy`.slice(0, 40) }]),
    ...draws,
    set(doc, 'programme', { ...programme, segments }),
  ];
}

/** A stretch more behind another one, in the same mode. */
export function addSegment(doc: ThreadDocument, after: number): Edit[] {
  const { programme } = doc;
  if (!programme || programme.segments.length >= MOST_SEGMENTS) return [];
  const segments = programme.segments.toSpliced(after + 1, 0, programme.segments[after]!);
  return [set(doc, 'programme', { ...programme, segments })];
}

/** Take a stretch out, and its mode where no other stretch has it. The last one stays. */
export function removeSegment(doc: ThreadDocument, segment: number): Edit[] {
  const { programme, modes = [] } = doc;
  if (!programme || programme.segments.length < 2) return [];
  const { mode } = programme.segments[segment]!;
  const segments = programme.segments.toSpliced(segment, 1);
  const edits = [set(doc, 'programme', { ...programme, segments })];
  if (segments.some((s) => s.mode === mode)) return edits;
  const left = doc.loads.flatMap((l): Edit[] =>
    l.draws?.some((d) => d.mode === mode)
      ? [
          drawsEdit(
            l,
            l.draws.filter((d) => d.mode !== mode),
          ),
        ]
      : [],
  );
  return [
    ...edits,
    ...left,
    ...hangingOn(doc, [mode]),
    set(
      doc,
      'modes',
      modes.filter((m) => m.id !== mode),
    ),
  ];
}

export function renameMode(mode: string, name: string): Edit[] {
  return [{ op: 'replace', path: ['modes', mode, 'name'], value: name }];
}

/**
 * Shares of a width that stretches take: milliseconds and hours stand side by side, one that is ten times as long as the
 * shortest twice as wide. @param seconds of each
 */
export function stretchShares(seconds: readonly number[]): number[] {
  const shortest = Math.min(...seconds);
  const weights = seconds.map((s) => 1 + Math.log10(s / shortest));
  const whole = weights.reduce((sum, w) => sum + w, 0);
  return weights.map((w) => w / whole);
}
