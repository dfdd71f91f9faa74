import { type ThreadDocument, MODE_TABLE, type Mode, isTrouble } from '@mile-thread/core/model';
import { ROW, type RunResult, readingOf } from '@mile-thread/core/solve';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { Band } from '../../charts/RunPlot.tsx';
import { bandRows, plotEnd } from '../../charts/timeAxis.ts';
import { COLOURS } from '../../tokens/tokens.ts';

/** Colour of a mode's band. */
function bandColour(mode: Mode): string {
  const { tone } = MODE_TABLE[mode];
  return tone === 'grey' ? COLOURS.stoneSoft : COLOURS[tone];
}

/** What the run-down plot shows. */
export function runPlotModel(doc: ThreadDocument, run: RunResult, focus: string | undefined) {
  const end = plotEnd(run);
  const reading = readingOf(run);
  const seconds = reading.column(ROW.time);
  const volts = reading.column(ROW.packVolts);
  const cells = reading.column(ROW.restVolts);
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
    ...bandOf(run, end),
    range,
    bands: bands(doc, run, focus, end),
  };
}

/** The band that many cycles move in, up to the end of the plot. [s] */
function bandOf(run: RunResult, end: number) {
  const rows = bandRows(run, end);
  if (rows.length === 0) return {};
  return {
    band: {
      hours: rows.map((r) => r.time / SECONDS_PER_HOUR),
      least: rows.map((r) => r.least),
      most: rows.map((r) => r.most),
      mean: rows.map((r) => r.mean),
    },
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
          `${stage.name} ${MODE_TABLE[mode].phrase}${isTrouble(mode) ? ' ▾' : ''}`,
          MODE_TABLE[mode].word,
          MODE_TABLE[mode].glyph,
        ],
      });
    }
  }
  if (useful < end) {
    found.push({
      from: useful / SECONDS_PER_HOUR,
      to: end / SECONDS_PER_HOUR,
      colour: COLOURS.stone,
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
