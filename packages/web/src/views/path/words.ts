import {
  STAGE_KINDS,
  type DeadReason,
  type Mode,
  type RunResult,
  type Severity,
  type ThreadDocument,
} from '@mile-thread/core';

/** Modes in the words of the drawing: short, and a glyph that does not need colour. */
export const MODE_WORD: Record<Mode, { word: string; glyph: string; trouble: boolean }> = {
  unfed: { word: 'unfed', glyph: '○', trouble: true },
  direct: { word: 'direct', glyph: '―', trouble: false },
  regulating: { word: 'holds', glyph: '=', trouble: false },
  buck: { word: 'buck', glyph: '↓', trouble: false },
  boost: { word: 'boost', glyph: '↑', trouble: false },
  both: { word: 'all four', glyph: '↕', trouble: false },
  passThrough: { word: 'passes', glyph: '→', trouble: true },
  dropout: { word: 'dropout', glyph: '⤓', trouble: true },
  currentLimit: { word: 'limit', glyph: '⊣', trouble: true },
  thermalLimit: { word: 'too hot', glyph: '♨', trouble: true },
  lockedOut: { word: 'locked', glyph: '×', trouble: true },
  overInput: { word: 'over V', glyph: '×', trouble: true },
  collapsed: { word: 'down', glyph: '×', trouble: true },
};

/** Modes as the end of a sentence: “Lamp rail works as buck”. */
export const MODE_PHRASE: Record<Mode, string> = {
  unfed: 'gets nothing',
  direct: 'connects through',
  regulating: 'regulates',
  buck: 'works as buck',
  boost: 'works as boost',
  both: 'switches all four',
  passThrough: 'passes its input through',
  dropout: 'is in dropout',
  currentLimit: 'limits its current',
  thermalLimit: 'folds back for its heat',
  lockedOut: 'is locked out',
  overInput: 'is over its input maximum',
  collapsed: 'has collapsed',
};

export const DEAD_WORDS: Record<DeadReason, string> = {
  cutoff: 'protection opens on low volts',
  trip: 'protection trips',
  collapse: 'pack collapses',
  empty: 'cells are empty',
  nothingDraws: 'nothing draws',
  timeLimit: 'ten years are over',
};

export const SEVERITY_WORD: Record<Severity, { word: string; glyph: string }> = {
  danger: { word: 'Danger', glyph: '▲' },
  fails: { word: 'Fails', glyph: '✕' },
  tight: { word: 'Tight', glyph: '!' },
  note: { word: 'Note', glyph: 'i' },
};

/** What ends the useful run, in a few words. */
export function endWords(doc: ThreadDocument, run: RunResult): string {
  const load = doc.loads.find((l) => l.id === run.usefulEnd.load?.id);
  if (!load) return DEAD_WORDS[run.deadEnd.reason];
  return run.usefulEnd.load?.side === 'high' ? `${load.name} gets too much` : `${load.name} stops first`;
}

/** Name of a stage, load or part of the pack. */
export function elementName(doc: ThreadDocument, id: string): string {
  const node = [...doc.stages, ...doc.loads].find((x) => x.id === id);
  if (node) return node.name;
  return { cells: 'Cells', pack: 'Pack', protection: 'Protection', fuse: 'Fuse', leads: 'Leads' }[id] ?? id;
}

/** Label of a stage's kind. */
export function kindLabel(doc: ThreadDocument, id: string): string {
  const stage = doc.stages.find((s) => s.id === id);
  return stage ? STAGE_KINDS[stage.kind].label : 'Load';
}
