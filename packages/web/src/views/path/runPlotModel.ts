import { column, ROW, SECONDS_PER_HOUR, type RunResult, type ThreadDocument } from '@mile-thread/core';
import type { Band } from '../../charts/RunPlot.tsx';
import { COLOURS } from '../../app/theme.ts';
import { MODE_PHRASE, MODE_WORD } from './words.ts';

/** Colour of a mode's band. */
function bandColour(mode: string): string {
  if (mode === 'buck' || mode === 'direct') return COLOURS.slate;
  if (mode === 'boost' || mode === 'regulating') return COLOURS.pine;
  if (mode === 'both' || mode === 'passThrough') return COLOURS.saffron;
  if (mode === 'unfed' || mode === 'lockedOut') return '#777777';
  return COLOURS.madder;
}

/** [s] Right end of the plot: the useful end with some room, but not the long tail of an almost dead pack. */
export function plotEnd(run: RunResult): number {
  const useful = run.usefulEnd.time;
  const dead = run.deadEnd.time;
  if (useful <= 0) return dead > 0 ? dead : 1;
  return Math.min(Math.max(dead, useful * 1.03), useful * 1.12);
}

/** What the run-down plot shows. */
export function runPlotModel(doc: ThreadDocument, run: RunResult, focus: string | undefined) {
  const end = plotEnd(run);
  const seconds = column(run.series, ROW.time);
  const volts = column(run.series, ROW.packVolts);
  const cells = column(run.series, ROW.restVolts);
  const hours = seconds.map((t) => t / SECONDS_PER_HOUR);
  const rest = cells.map((v) => v * doc.pack.series);
  let low = Infinity;
  let high = -Infinity;
  for (let k = 0; k < seconds.length && seconds[k]! <= end * 1.0001; k++) {
    low = Math.min(low, volts[k]!);
    high = Math.max(high, rest[k]!);
  }
  const room = Math.max(0.04 * high, (high - low) * 0.12);
  const range: [number, number] = [Math.max(0, low - room), high + 1.4 * room];
  return {
    end: end / SECONDS_PER_HOUR,
    hours,
    loaded: volts,
    rest,
    range,
    bands: bands(doc, run, focus, end),
  };
}

function bands(doc: ThreadDocument, run: RunResult, focus: string | undefined, end: number): Band[] {
  const useful = Math.min(run.usefulEnd.time, end);
  const stage = doc.stages.find((s) => s.id === (focus ?? mostEventful(doc, run)));
  const found: Band[] = [];
  if (stage) {
    for (const { from, to, mode } of run.stageModes[stage.id] ?? []) {
      if (from >= useful) break;
      const until = Math.min(to, useful);
      found.push({
        from: from / SECONDS_PER_HOUR,
        to: until / SECONDS_PER_HOUR,
        colour: bandColour(mode),
        words: [
          `${stage.name} ${MODE_PHRASE[mode]}${MODE_WORD[mode].trouble ? ' ▾' : ''}`,
          MODE_WORD[mode].word,
          MODE_WORD[mode].glyph,
        ],
      });
    }
  }
  if (useful < end) {
    found.push({
      from: useful / SECONDS_PER_HOUR,
      to: end / SECONDS_PER_HOUR,
      colour: '#555555',
      words: ['stopped'],
    });
  }
  return found;
}

/** The stage whose way of working changes most often up to the useful end; shown while none is selected. */
export function mostEventful(doc: ThreadDocument, run: RunResult): string | undefined {
  const changes = (id: string) =>
    (run.stageModes[id] ?? []).filter((m) => m.from < run.usefulEnd.time).length;
  const [first] = [...doc.stages].sort((a, b) => changes(b.id) - changes(a.id));
  return first?.id;
}
