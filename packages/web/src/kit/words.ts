import { formatDuration } from '@mile-thread/core/units';
import type { Severity } from '@mile-thread/core';
import { drainNamed, fieldsOf, STAGE_KINDS, type Issue, type ThreadDocument } from '@mile-thread/core/model';
import { END_WORDS, type RunResult } from '@mile-thread/core/solve';

export const SEVERITY_WORD: Record<Severity, { word: string; glyph: string }> = {
  danger: { word: 'Danger', glyph: '▲' },
  fails: { word: 'Fails', glyph: '✕' },
  tight: { word: 'Tight', glyph: '!' },
  note: { word: 'Note', glyph: 'i' },
};

/** What ends the useful run, in a few words. */
export function endWords(doc: ThreadDocument, run: RunResult): string {
  const load = doc.loads.find((l) => l.id === run.usefulEnd.load?.id);
  if (!load) return END_WORDS[run.deadEnd.reason];
  return run.usefulEnd.load?.side === 'high' ? `${load.name} gets too much` : `${load.name} stops first`;
}

const OF_PACK: Readonly<Record<string, string>> = {
  cells: 'Cells',
  pack: 'Pack',
  protection: 'Protection',
  fuse: 'Fuse',
  leads: 'Leads',
  connectors: 'Connectors',
  disconnect: 'Disconnect',
  charger: 'Charger',
  source: 'Source',
  cable: 'Cable',
  'charge:source': 'Source',
  'charge:cable': 'Cable',
  'charge:charger': 'Charger',
  'charge:diode': 'Diode',
  'charge:path': 'Power path',
};

/** Name of a stage, load or part of the pack. */
export function elementName(doc: ThreadDocument, id: string): string {
  const node = [...doc.stages, ...doc.loads].find((x) => x.id === id);
  if (node) return node.name;
  const drain = drainNamed(doc.pack, id);
  if (drain) return drain.name;
  return OF_PACK[id] ?? id;
}

/** Label of a stage's kind. */
export function kindLabel(doc: ThreadDocument, id: string): string {
  const stage = doc.stages.find((s) => s.id === id);
  return stage ? STAGE_KINDS[stage.kind].label : 'Load';
}

/** “likely 3.9 to 4.6 h”: what 10 and 90 % of the draws do not reach. */
export function likely({ p10, p90 }: { p10: number; p90: number }): string {
  return `likely ${formatDuration(p10)} to ${formatDuration(p90)}`;
}

/** “65 mm”, from metres */
export function millimetres(metres: number): string {
  return `${Number((1000 * metres).toFixed(metres < 0.01 ? 1 : 0))}\u00a0mm`;
}

/** The limits of a share that is typed in per cent, in per cent too. */
export function inPercent(issues: Issue[], model: new () => object, field: string): Issue[] {
  const { min = 0, max = Infinity } = fieldsOf(model).get(field) ?? {};
  const round = (share: number) => Number((100 * share).toPrecision(6));
  return issues.map((i) => ({ ...i, allowed: `${round(min)} % to ${round(max)} %` }));
}
