import {
  isRegulated,
  loadAmps,
  loadLaw,
  PACK,
  STAGE_KINDS,
  swapKind,
  type Edit,
  type Load,
  type Stage,
  type StageKind,
  type ThreadDocument,
  kindOf,
} from '@mile-thread/core/model';

/** Changes of a thread as edits. Each returns what to commit; none touches the document. */

/** An id that is not among those taken. */
export function unusedId(taken: readonly string[], stem: string): string {
  for (let n = 1; ; n++) if (!taken.includes(`${stem}-${n}`)) return `${stem}-${n}`;
}

/** An id no stage and no load has yet. */
export function freshId(doc: ThreadDocument, stem: string): string {
  return unusedId(
    [...doc.stages, ...doc.loads].map((x) => x.id),
    stem,
  );
}

/** [V] of the rail that `from` names: the stage's set output, or the pack's nominal volts. */
export function railVolts(doc: ThreadDocument, from: string): number {
  const stage = doc.stages.find((s) => s.id === from);
  if (!stage) return doc.pack.series * doc.pack.cell.ocv.volts[doc.pack.cell.ocv.volts.length >> 1]!;
  return isRegulated(stage) ? stage.outputVolts : railVolts(doc, stage.from);
}

export function addStage(doc: ThreadDocument, kind: StageKind, from: string): { id: string; edits: Edit[] } {
  const id = freshId(doc, 'stage');
  const volts = railVolts(doc, from);
  const guess = kindOf({ kind }).usualOutput(volts);
  const stage = STAGE_KINDS[kind].create(id, from, Number(guess.toPrecision(2)));
  return { id, edits: [{ op: 'add', path: ['stages', doc.stages.length], value: stage }] };
}

export function addLoad(doc: ThreadDocument, from: string): { id: string; edits: Edit[] } {
  const id = freshId(doc, 'load');
  const volts = railVolts(doc, from);
  const range = { min: Number((volts * 0.9).toPrecision(3)), max: Number((volts * 1.15).toPrecision(3)) };
  const name = `Load ${doc.loads.length + 1}`;
  const value: Load = {
    id,
    name,
    from,
    draw: 'current',
    current: 0.1,
    range,
    essential: true,
    grade: 'assumed',
  };
  return { id, edits: [{ op: 'add', path: ['loads', doc.loads.length], value }] };
}

/** Take a stage or load out. What hung on a stage moves to where the stage hung. */
export function removeNode(doc: ThreadDocument, id: string): Edit[] {
  if (doc.loads.some((l) => l.id === id)) return [{ op: 'remove', path: ['loads', id] }];
  const stage = doc.stages.find((s) => s.id === id);
  if (!stage) return [];
  const rehang = (list: 'stages' | 'loads') =>
    doc[list].flatMap((x): Edit[] =>
      x.from === id ? [{ op: 'replace', path: [list, x.id, 'from'], value: stage.from }] : [],
    );
  // Where source and battery met on its output, they meet on what it hung on.
  const joined = doc.charging?.join?.at === id;
  const joins: Edit[] = joined
    ? [{ op: 'replace', path: ['charging', 'join', 'at'], value: stage.from }]
    : [];
  return [...rehang('stages'), ...rehang('loads'), ...joins, { op: 'remove', path: ['stages', id] }];
}

/** Where a stage or load may hang: the pack, and every stage that does not hang on it. */
export function possibleParents(doc: ThreadDocument, id: string): { id: string; name: string }[] {
  const below = new Set([id]);
  for (let grew = true; grew;) {
    grew = false;
    for (const s of doc.stages) {
      if (!below.has(s.id) && below.has(s.from)) {
        below.add(s.id);
        grew = true;
      }
    }
  }
  return [{ id: PACK, name: 'Pack' }, ...doc.stages.filter((s) => !below.has(s.id))];
}

/** Hang a stage or load somewhere else. */
export function moveNode(doc: ThreadDocument, id: string, from: string): Edit[] {
  const path = pathOf(doc, id);
  return path ? [{ op: 'replace', path: [...path, 'from'], value: from }] : [];
}

/** Swap a stage for another kind in the same place. */
export function swapStage(doc: ThreadDocument, id: string, kind: StageKind): Edit[] {
  const stage = doc.stages.find((s) => s.id === id);
  if (!stage) return [];
  const volts = Number((railVolts(doc, stage.from) * 0.6).toPrecision(2));
  return [{ op: 'replace', path: ['stages', id], value: swapKind(stage, kind, volts) }];
}

/** Path of a stage or load in the document. */
export function pathOf(doc: ThreadDocument, id: string): ['stages' | 'loads', string] | undefined {
  if (doc.stages.some((s) => s.id === id)) return ['stages', id];
  return doc.loads.some((l) => l.id === id) ? ['loads', id] : undefined;
}

/** Letter of a stage on the drawing: A, B, C … by its place in the list. */
export function stageLetter(doc: ThreadDocument, id: string): string {
  return String.fromCharCode(65 + doc.stages.findIndex((s: Stage) => s.id === id));
}

/** The draw of a load in its own unit, for editing. */
export const DRAW_UNIT = { power: 'W', current: 'A', resistance: 'Ω', string: 'V' } as const;

/** Change what a load keeps constant, keeping about the same draw at its range's middle. */
export function changeDraw(load: Load, draw: Load['draw']): Edit[] {
  const volts = (load.range.min + load.range.max) / 2;
  const { law, value: stated, slope, factor } = loadLaw(load);
  const amps = Math.max(factor * loadAmps(law, stated, slope, volts), 1e-9);
  const { power, current, resistance, string, slope: old, ...rest } = load;
  void [power, current, resistance];
  const short = (v: number) => Number(v.toPrecision(3));
  const fields: Record<Load['draw'], object> = {
    power: { power: short(amps * volts) },
    current: { current: short(amps) },
    resistance: { resistance: short(volts / amps) },
    // Most of its volts stand over the LEDs, the rest over the resistor.
    string: { string: short(KNEE * volts), slope: short(((1 - KNEE) * volts) / amps) },
  };
  // What is stated for modes and peaks stays what it was: it names the kind it was stated in.
  const inOldKind = <T extends { draw?: Load['draw']; value?: number }>(entry: T): T =>
    entry.value === undefined ? entry : { ...entry, draw: entry.draw ?? load.draw };
  const value = {
    ...rest,
    ...(load.draw === 'string' ? { string, slope: old } : {}),
    ...(load.draws ? { draws: load.draws.map(inOldKind) } : {}),
    ...(load.peaks ? { peaks: load.peaks.map(inOldKind) } : {}),
    draw,
    ...fields[draw],
  };
  return [{ op: 'replace', path: ['loads', load.id], value }];
}

/** Share of a string's volts at its knee, to begin with. Common practice, no source. */
const KNEE = 0.8;
