import type { ThreadDocument } from '@mile-thread/core/model';
import { isRegulated } from '@mile-thread/core/model';
import { ROW, readingOf, type Reading, type RunResult } from '@mile-thread/core/solve';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { LaneOfPlot } from '../../charts/LanesPlot.tsx';
import { plotEnd } from '../../charts/timeAxis.ts';
import { COLOURS } from '../../tokens/tokens.ts';

/** Along what a run is shown. */
export type Along = 'time' | 'charge';

/** A colour for each load, in turn. */
const LOADS = [COLOURS.pine, COLOURS.slate, COLOURS.saffron, COLOURS.violet, COLOURS.ribbon] as const;

export function loadColour(k: number): string {
  return LOADS[k % LOADS.length]!;
}

/** Fewest cycles of which a band says more than their lines. */
const MANY_CYCLES = 30;

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
  const envelope = (run.envelope ?? []).filter((r) => r.time <= until);
  const banded = envelope.length >= MANY_CYCLES;
  const rows = rowsUntil(reading, until);
  const x = banded
    ? envelope.map((r) => (along === 'time' ? r.time / SECONDS_PER_HOUR : 1 - r.soc))
    : rows.map((r) => (along === 'time' ? reading.time(r) / SECONDS_PER_HOUR : 1 - reading.at(r, ROW.soc)));
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
        title: 'Power into the path, mean of each cycle',
        unit: 'W',
        share: 3,
        range: [0, 1],
        lines: [{ y: envelope.map((r) => r.watts), colour: COLOURS.pine, fill: 'floor' }],
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
  const rails = banded ? undefined : railsLane(doc, reading, rows);
  if (rails) lanes.splice(1, 0, rails);
  const far = Math.max(...x, 1e-9);
  return { x, end: along === 'time' ? until / SECONDS_PER_HOUR : far, lanes, banded };
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
  const low = Math.max(0, Math.min(95, ...all.filter((v) => v > 60)) - 3);
  return {
    title: 'Rails, of the volts they are set to',
    unit: ' %',
    share: 2,
    range: [low, Math.max(104, ...all.filter((v) => v < 150)) + 1],
    lines,
  };
}

function rowsUntil(reading: Reading, until: number): number[] {
  const rows: number[] = [];
  for (let r = 0; r < reading.count && reading.time(r) <= until * 1.0001; r++) rows.push(r);
  return rows;
}

/** Lowest and highest with some room. */
function roomy(values: readonly number[]): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const v of values) {
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  const room = Math.max(0.12 * (high - low), 0.02 * high);
  return [Math.max(0, low - room), high + room];
}
