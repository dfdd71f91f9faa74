import type { ThreadDocument } from '@mile-thread/core/model';
import { isRegulated, isTrouble, MODE_TABLE, unfold, type Mode } from '@mile-thread/core/model';
import { ROW, readingOf, type EnvelopeRow, type Reading, type RunResult } from '@mile-thread/core/solve';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { LaneOfPlot } from '../../charts/LanesPlot.tsx';
import { bandRows, plotEnd } from '../../charts/timeAxis.ts';
import { COLOURS } from '../../tokens/tokens.ts';

/** Along what a run is shown. */
export type Along = 'time' | 'charge';

/** A colour for each load, in turn. */
const LOADS = [COLOURS.pine, COLOURS.slate, COLOURS.saffron, COLOURS.violet, COLOURS.ribbon] as const;

export function loadColour(k: number): string {
  return LOADS[k % LOADS.length]!;
}

export interface Lanes {
  x: number[];
  end: number;
  lanes: LaneOfPlot[];
  /** whether a band of cycles is shown */
  banded: boolean;
}

/** Pack volts, rails and power over a run: of many cycles the band they move in, else every row. */
export function lanesOf(doc: ThreadDocument, run: RunResult, along: Along): Lanes {
  const reading = readingOf(run);
  const until = plotEnd(run);
  const envelope = bandRows(run, until);
  const banded = envelope.length > 0;
  const rows = rowsUntil(reading, until);
  const x = banded
    ? envelope.map((r) => (along === 'time' ? r.time / SECONDS_PER_HOUR : 1 - r.soc))
    : rows.map((r) => (along === 'time' ? reading.time(r) / SECONDS_PER_HOUR : 1 - reading.at(r, ROW.soc)));
  const kept = banded ? keptCycles(doc, reading, envelope, along) : [];
  const at = (column: number) => rows.map((r) => reading.at(r, column));
  const volts: LaneOfPlot = banded
    ? {
        title: 'Pack: lowest and highest of each cycle, and its mean',
        unit: ' V',
        share: 5,
        range: [0, 1],
        lines: [
          { y: envelope.map((r) => r.least), colour: COLOURS.ribbon, width: 1 },
          { y: envelope.map((r) => r.most), colour: COLOURS.ribbon, width: 1, fill: 'last' },
          { y: envelope.map((r) => r.mean), colour: COLOURS.pine, width: 2.2 },
        ],
      }
    : {
        title: 'Pack, loaded and at rest',
        unit: ' V',
        share: 5,
        range: [0, 1],
        lines: [
          { y: at(ROW.packVolts), colour: COLOURS.pine, width: 2.2 },
          {
            y: at(ROW.restVolts).map((v) => v * doc.pack.series),
            colour: COLOURS.ghost,
            width: 1.2,
            dash: true,
          },
        ],
      };
  volts.range = roomy(volts.lines.flatMap((l) => l.y));
  const power: LaneOfPlot = banded
    ? {
        title: 'Power of the loads, mean of each cycle, one on the other, and what leaves the cells',
        unit: 'W',
        share: 3,
        range: [0, 1],
        lines: [
          ...doc.loads.map((_, l) => ({
            x: kept.map((c) => c.x),
            y: kept.map((c) => c.watts[l]!),
            colour: loadColour(l),
            width: 1,
            fill: 'stack' as const,
          })),
          { y: envelope.map((r) => r.watts), colour: COLOURS.ember, width: 1.4 },
        ],
      }
    : {
        title: 'Power of the loads, one on the other, and what leaves the cells',
        unit: 'W',
        share: 3,
        range: [0, 1],
        lines: [
          ...doc.loads.map((_, l) => ({
            y: rows.map((r) => reading.loadWatts(r, l)),
            colour: loadColour(l),
            width: 1,
            fill: 'stack' as const,
          })),
          {
            y: rows.map((r) => reading.at(r, ROW.packVolts) * reading.at(r, ROW.packAmps)),
            colour: COLOURS.ember,
            width: 1.4,
          },
        ],
      };
  power.range = [0, 1.08 * largest(power)];
  const lanes = [volts, power];
  const rails = banded ? lowestRails(doc, kept) : railsLane(doc, reading, rows);
  if (rails) lanes.splice(1, 0, rails);
  const far = Math.max(extent(x)[1], 1e-9);
  return { x, end: along === 'time' ? until / SECONDS_PER_HOUR : far, lanes, banded };
}

/** A cycle whose rows are kept: its place, [W] mean of each load, and each rail's lowest volts over what it is set to. */
interface KeptCycle {
  x: number;
  watts: number[];
  /** [%], 100 where the rail was off */
  rails: number[];
}

/** The cycles of a band that the run keeps rows of: the others lie between them. */
function keptCycles(
  doc: ThreadDocument,
  reading: Reading,
  envelope: readonly EnvelopeRow[],
  along: Along,
): KeptCycle[] {
  const slices = unfold(doc);
  const period = slices.reduce((sum, s) => sum + s.seconds, 0);
  return envelope.flatMap((cycle): KeptCycle[] => {
    const from = reading.rowAt(cycle.time * (1 + 1e-12));
    const to = reading.rowAt((cycle.time + period) * (1 - 1e-12));
    const whole = reading.time(from) >= cycle.time - 1e-6 * period && to - from >= slices.length;
    if (!whole || reading.time(to) - reading.time(from) < 0.5 * period) return [];
    const watts = doc.loads.map(() => 0);
    const rails = doc.stages.map(() => 100);
    for (let r = from; r < to; r++) {
      const seconds = reading.time(r + 1) - reading.time(r);
      doc.loads.forEach((_, l) => {
        watts[l]! += (seconds * (reading.loadWatts(r, l) + reading.loadWatts(r + 1, l))) / 2 / period;
      });
      doc.stages.forEach((s, k) => {
        const { outputVolts, mode } = reading.stageReading(r, k);
        if (!isRegulated(s) || mode === 'shutDown') return;
        rails[k] = Math.min(rails[k]!, (100 * outputVolts) / s.outputVolts);
      });
    }
    const x = along === 'time' ? cycle.time / SECONDS_PER_HOUR : 1 - cycle.soc;
    return [{ x, watts, rails }];
  });
}

/** The lowest that each regulated rail stood at in the cycles kept. */
function lowestRails(doc: ThreadDocument, kept: readonly KeptCycle[]): LaneOfPlot | undefined {
  const rails = doc.stages.flatMap((s, k) => (isRegulated(s) ? [k] : []));
  if (rails.length === 0 || kept.length < 2) return undefined;
  const x = kept.map((c) => c.x);
  const lines = rails.map((k, n) => ({ x, y: kept.map((c) => c.rails[k]!), colour: loadColour(n) }));
  const all = lines.flatMap((l) => l.y).filter((v) => v > 60);
  return {
    title: 'Rails, lowest of each cycle, of the volts they are set to',
    unit: ' %',
    share: 2,
    range: [Math.min(95, extent(all)[0]) - 3, Math.max(104, extent(all)[1]) + 1],
    lines,
  };
}

/** The most a lane shows: stacked lines add up. */
function largest({ lines }: LaneOfPlot): number {
  const stacked = lines.filter((l) => l.fill === 'stack');
  const sums = (stacked[0]?.y ?? []).map((_, k) => stacked.reduce((sum, l) => sum + l.y[k]!, 0));
  const others = lines.filter((l) => l.fill !== 'stack').flatMap((l) => l.y);
  return [...sums, ...others].reduce((most, v) => Math.max(most, v), 1e-9);
}

/** Volts of each regulated rail over what it is set to. */
function railsLane(doc: ThreadDocument, reading: Reading, rows: readonly number[]): LaneOfPlot | undefined {
  const rails = doc.stages.flatMap((s, k) => (isRegulated(s) ? [{ k, set: s.outputVolts }] : []));
  if (rails.length === 0) return undefined;
  const lines = rails.map(({ k, set }, n) => ({
    y: rows.map((r) => (100 * reading.at(r, reading.stage(k, 'outputVolts'))) / set),
    colour: loadColour(n),
  }));
  const all = lines.flatMap((l) => l.y);
  const low = Math.max(0, Math.min(95, extent(all.filter((v) => v > 60))[0]) - 3);
  return {
    title: 'Rails, of the volts they are set to',
    unit: ' %',
    share: 2,
    range: [low, Math.max(104, extent(all.filter((v) => v < 150))[1]) + 1],
    lines,
  };
}

function rowsUntil(reading: Reading, until: number): number[] {
  const rows: number[] = [];
  for (let r = 0; r < reading.count && reading.time(r) <= until * 1.0001; r++) rows.push(r);
  return rows;
}

/** Lowest and highest; rows are too many to be arguments of a call. */
function extent(values: readonly number[]): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const v of values) {
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return [low, high];
}

/** The same with some room. */
function roomy(values: readonly number[]): [number, number] {
  const [low, high] = extent(values);
  const room = Math.max(0.12 * (high - low), 0.02 * high);
  return [Math.max(0, low - room), high + room];
}

/** A stretch of a stage's work as words. 0…1 of the axis. */
export interface StageBand {
  from: number;
  to: number;
  words: string;
  trouble: boolean;
}

/** Slots an axis is looked at in: of many cycles few, so that each holds whole ones. */
const SLOTS = { steady: 240, banded: 16 } as const;

/** How each stage works over the run: one way, or several by turns. */
export function stageBands(
  doc: ThreadDocument,
  run: RunResult,
  banded: boolean,
): { name: string; bands: StageBand[] }[] {
  const until = plotEnd(run);
  const count = banded ? SLOTS.banded : SLOTS.steady;
  return doc.stages.map((stage) => {
    const all = run.stageModes[stage.id] ?? [];
    const bands: StageBand[] = [];
    let next = 0;
    for (let n = 0; n < count; n++) {
      const [from, to] = [(n / count) * until, ((n + 1) / count) * until];
      while (next + 1 < all.length && all[next]!.to <= from) next++;
      const modes = new Set<Mode>();
      for (let k = next; k < all.length && all[k]!.from < to; k++) modes.add(all[k]!.mode);
      const words = [...modes]
        .map((m) => `${MODE_TABLE[m].glyph} ${MODE_TABLE[m].word}`)
        .sort()
        .join(', ');
      const trouble = [...modes].some(isTrouble);
      const last = bands.at(-1);
      if (last?.words === words) last.to = (n + 1) / count;
      else bands.push({ from: n / count, to: (n + 1) / count, words, trouble });
    }
    return { name: stage.name, bands: bands.filter((b) => b.words !== '') };
  });
}
