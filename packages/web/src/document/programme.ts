import {
  cycleSeconds,
  MOST_MODES,
  MOST_SEGMENTS,
  type Edit,
  type Load,
  type LoadMode,
  type Programme,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { unusedId } from './commands.ts';

/** Changes of what the loads do, as edits; none touches the document. */

/** [s] of a new stretch. */
const FRESH_SECONDS = 60;

function set(doc: ThreadDocument, field: 'modes' | 'programme', value: unknown): Edit {
  return { op: doc[field] === undefined ? 'add' : 'replace', path: [field], value };
}

/** Begin a programme: everything on for a minute, then off for ten. */
export function startProgramme(doc: ThreadDocument): Edit[] {
  const modes: LoadMode[] = [
    { id: 'work', name: 'Work' },
    { id: 'rest', name: 'Rest' },
  ];
  const programme: Programme = {
    segments: [
      { mode: 'work', seconds: FRESH_SECONDS },
      { mode: 'rest', seconds: 10 * FRESH_SECONDS },
    ],
    after: 'repeat',
  };
  const off = doc.loads.map((l): Edit => drawsEdit(l, [{ mode: 'rest', value: 0 }]));
  return [set(doc, 'modes', modes), set(doc, 'programme', programme), ...off];
}

/** Back to every load on all the time. */
export function endProgramme(doc: ThreadDocument): Edit[] {
  return [
    ...doc.loads.flatMap((l): Edit[] => (l.draws ? [{ op: 'remove', path: ['loads', l.id, 'draws'] }] : [])),
    { op: 'remove', path: ['programme'] },
    { op: 'remove', path: ['modes'] },
  ];
}

function drawsEdit(load: Load, draws: NonNullable<Load['draws']>): Edit {
  return { op: load.draws ? 'replace' : 'add', path: ['loads', load.id, 'draws'], value: draws };
}

/** The mode that the loads are in at a time of a run; undefined where there is no programme. @param time [s] */
export function modeAt({ programme, modes = [] }: ThreadDocument, time: number): LoadMode | undefined {
  if (!programme) return undefined;
  const { segments, after } = programme;
  let left = after === 'repeat' ? time % cycleSeconds(programme) : time;
  const at = segments.find(({ seconds }) => (left -= seconds) < 0) ?? segments.at(-1)!;
  return modes.find((m) => m.id === at.mode);
}

/** What a load draws in a mode, in its own unit. */
export function drawIn(load: Load, mode: string): number {
  return load.draws?.find((d) => d.mode === mode)?.value ?? load[load.draw]!;
}

export function setDraw(load: Load, mode: string, value: number): Edit[] {
  const others = (load.draws ?? []).filter((d) => d.mode !== mode);
  return [drawsEdit(load, [...others, { mode, value }])];
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
    set(
      doc,
      'modes',
      modes.filter((m) => m.id !== mode),
    ),
  ];
}

export function setSegmentMode(segment: number, mode: string): Edit[] {
  return [{ op: 'replace', path: ['programme', 'segments', segment, 'mode'], value: mode }];
}

export function renameMode(mode: string, name: string): Edit[] {
  return [{ op: 'replace', path: ['modes', mode, 'name'], value: name }];
}
