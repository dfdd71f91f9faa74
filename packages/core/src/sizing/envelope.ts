import { isConverter, isRegulated, type Stage } from '../model/kinds/registry.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { readingOf, type Reading, type StageReading } from '../run/reading/reading.ts';
import type { RunResult } from '../run/account/result.ts';
import { ROW } from '../run/account/series.ts';
import type { Mode } from '../stages/modes.ts';
import type { Switching } from '../stages/parts/period.ts';
import { stressOf, type Stress } from '../stages/parts/stress.ts';
import { StagePoint } from '../stages/point.ts';
import { partsLaw, passesInput, stageSolver } from '../stages/traits.ts';
import { figuresOf, type FigureDef } from './figures.ts';
import { AIRS, airsOf, heatRoom, hottestPart, warmParts, type Airs, type WarmPart } from './heat.ts';

/** One line of the table over the whole run. */
export interface Figure extends Omit<FigureDef, 'read'> {
  /** its place in a snapshot's `values` */
  index: number;
  /** at the first instant, at the useful end */
  full: number;
  end: number;
  /** furthest towards its rating, and when. [s] */
  worst: number;
  worstTime: number;
  /** share of the rating left at the worst; absent where there is no rating */
  room?: number;
}

/** Everything about a stage at one instant of the run. */
export interface Snapshot {
  /** [s] */
  time: number;
  /** [V] [A] */
  vin: number;
  vout: number;
  iout: number;
  iin: number;
  mode: Mode;
  /** [W] by mechanism, MECHANISMS' order; none where not asked for */
  losses: number[];
  /** of the figures, each at its `index`; NaN where the stage does not switch */
  values: number[];
  /** the period it works in; absent where it does not switch */
  period?: PeriodShape;
  /** [°C] hottest part in the usual air */
  hottest?: { name: string; celsius: number };
  /** [K] least room of a part below its limit, in the worst air; absent where no part has a limit */
  heatRoom?: number;
}

/** A period as drawn. */
export interface PeriodShape {
  switching: Switching;
  discontinuous: boolean;
  duty: number;
  /** [Hz] */
  frequency: number;
  /** shares of the period, and [A] at their ends */
  share: number[];
  current: number[];
}

/** A stage over the whole run. Plain values: it can cross to and from a worker. */
export interface Envelope {
  figures: Figure[];
  snapshots: Snapshot[];
  /** [V] inputs up to the useful end, and at its two ends */
  inputs: { least: number; most: number; first: number; last: number };
  /** [A] most it gives up to the useful end */
  mostAmps: number;
  /** shares of the useful run by mode, longest first */
  modes: { mode: Mode; share: number }[];
  /** out over in over the useful run */
  efficiency: number;
  /** [J] lost by mechanism over the useful run */
  lost: { mechanism: string; joules: number }[];
  /** hottest part over the run in each air */
  heat: {
    air: keyof Airs;
    airCelsius: number;
    name: string;
    celsius: number;
    watts: number;
    time: number;
    limit?: number;
  }[];
}

/** How closely a run is looked at. */
export interface Looks {
  /** instants between the ends, besides mode changes and extremes: 4 for judging, more where they are to be shown */
  between: number;
  /** whether snapshots say what each mechanism takes; judging does without */
  losses?: boolean;
}

/**
 * Stress, loss and heat of a stage over a run, from the run's own operating points.
 * @throws RangeError when the thread has no such stage
 */
export function stageEnvelope(
  doc: ThreadDocument,
  run: RunResult,
  id: string,
  { between, losses = true }: Looks = { between: 4 },
): Envelope {
  const k = doc.stages.findIndex((s) => s.id === id);
  if (k < 0) throw new RangeError(`stageEnvelope: no stage ${id}`);
  const stage = doc.stages[k]!;
  const reading = readingOf(run);
  const defs = figuresOf(stage);
  const read = snapshotReader(doc, stage, defs, losses);
  const snapshots: Snapshot[] = [];
  const heat = new Map<keyof Airs, Envelope['heat'][number]>();
  for (const row of reading.instants(k, between)) {
    const time = reading.time(row);
    const { snapshot, warm } = read(reading.stageReading(row, k), time);
    const airs = airsAt(doc, reading, row);
    const room = heatRoom(warm, hottestOf(airs));
    if (room !== undefined) snapshot.heatRoom = room;
    snapshots.push(snapshot);
    noteHeat(heat, warm, airs, time);
  }
  const { most, least, first } = reading.extremes(reading.stage(k, 'inputVolts'));
  const account = run.usefulEnd.time > 0 ? run.ledger : run.ledgerAtDead;
  const lost = account.entries.filter((e) => e.element === id);
  const intake = account.intake[id] ?? 0;
  return {
    figures: figureExtremes(defs, snapshots),
    snapshots,
    inputs: { least, most, first, last: reading.stageReading(reading.last, k).inputVolts },
    mostAmps: reading.extremes(reading.stage(k, 'outputAmps')).most,
    modes: modeShares(run, id),
    efficiency: intake > 0 ? Math.max(0, 1 - lost.reduce((sum, e) => sum + e.joules, 0) / intake) : 0,
    lost: lost.map(({ mechanism, joules }) => ({ mechanism, joules })),
    heat: [...heat.values()],
  };
}

/** [°C] of each air around the stages at a row: in a closed box it is heated by all that is lost. */
function airsAt(doc: ThreadDocument, reading: Reading, row: number): Airs {
  const { series, parallel } = doc.pack;
  const stored = series * parallel * reading.at(row, ROW.restVolts) * reading.at(row, ROW.cellAmps);
  const delivered = doc.loads.reduce((sum, _, l) => sum + reading.loadWatts(row, l), 0);
  return airsOf(surroundingsOf(doc), Math.max(0, stored - delivered));
}

/** [°C] */
function hottestOf({ coldest, usual, warmest, box = -Infinity }: Airs): number {
  return Math.max(coldest, usual, warmest, box);
}

/** Keep the hottest part in each air. */
function noteHeat(
  heat: Map<keyof Airs, Envelope['heat'][number]>,
  warm: readonly WarmPart[],
  airs: Airs,
  time: number,
): void {
  for (const air of AIRS) {
    const airCelsius = airs[air];
    const hot = airCelsius === undefined ? undefined : hottestPart(warm, airCelsius);
    if (airCelsius === undefined || !hot || hot.celsius <= (heat.get(air)?.celsius ?? -Infinity)) continue;
    heat.set(air, { air, airCelsius, ...hot, time });
  }
}

/** Works out the rest of a stage's point from its volts and amps. */
function snapshotReader(doc: ThreadDocument, stage: Stage, defs: readonly FigureDef[], withLosses: boolean) {
  const { air } = surroundingsOf(doc);
  const law = isConverter(stage) && stage.parts ? partsLaw(stage) : undefined;
  const filterOhms = (isConverter(stage) && stage.parts?.filter?.resistance) || 0;
  const solve = stageSolver(stage, air);
  const point = new StagePoint();
  const through = isRegulated(stage) && passesInput(stage) !== undefined;
  return (
    { inputVolts: vin, inputAmps: iin, outputVolts: vout, outputAmps: iout, mode }: StageReading,
    time: number,
  ) => {
    // One folded below its input where that always reaches the output does not switch: the current passes.
    const passes = mode === 'passThrough' || (through && vout < vin);
    const works = !passes && vout > 0 && iout > 0;
    // Behind a filter the rail stands below the stage's own output.
    const stress = law && works ? stressOf(law, vin, vout + filterOhms * iout, iout) : undefined;
    let losses: number[] = [];
    if (withLosses && vin > 0 && vout > 0) {
      solve(vin, () => iout, point);
      losses = Array.from(point.loss);
    }
    const warm = warmParts(stage, stress, vin * iin - vout * iout);
    const hottest = hottestPart(warm, air);
    const at = { vin, vout, iin, iout, air, ...(stress ? { stress } : {}) };
    const snapshot: Snapshot = {
      time,
      vin,
      vout,
      iout,
      iin,
      mode,
      losses,
      values: defs.map((d) => (vout > 0 ? d.read(at) : NaN)),
      ...(stress ? { period: shapeOf(stress) } : {}),
      ...(hottest ? { hottest } : {}),
    };
    return { snapshot, warm };
  };
}

function shapeOf({ switching, discontinuous, duty, frequency, share, current }: Stress): PeriodShape {
  return { switching, discontinuous, duty, frequency, share, current };
}

function figureExtremes(defs: readonly FigureDef[], snapshots: readonly Snapshot[]): Figure[] {
  return defs.flatMap((def, n): Figure[] => {
    const { id, label, part, unit, rating, ratingWord, floor } = def;
    const sign = floor ? -1 : 1;
    let first: Snapshot | undefined;
    let worst: Snapshot | undefined;
    let last: Snapshot | undefined;
    for (const s of snapshots) {
      const seen = s.values[n]!;
      if (Number.isNaN(seen)) continue;
      first ??= s;
      last = s;
      if (!worst || sign * seen > sign * worst.values[n]!) worst = s;
    }
    if (!first || !worst || !last) return [];
    const value = worst.values[n]!;
    const room = rating === undefined ? {} : { room: roomOf(def, value) };
    return [
      {
        id,
        label,
        part,
        unit,
        ...(rating === undefined ? {} : { rating, ratingWord }),
        ...(floor ? { floor } : {}),
        index: n,
        full: first.values[n]!,
        end: last.values[n]!,
        worst: value,
        worstTime: worst.time,
        ...room,
      },
    ];
  });
}

/** Share of a figure's rating that a value leaves; NaN where it has no rating. */
export function roomOf({ floor, rating = NaN }: Pick<FigureDef, 'floor' | 'rating'>, value: number): number {
  return floor ? 1 - rating / value : 1 - value / rating;
}

function modeShares(run: RunResult, id: string): Envelope['modes'] {
  const useful = run.usefulEnd.time > 0 ? run.usefulEnd.time : run.deadEnd.time;
  const sum = new Map<Mode, number>();
  for (const m of run.stageModes[id] ?? []) {
    const span = Math.min(m.to, useful) - m.from;
    if (span > 0) sum.set(m.mode, (sum.get(m.mode) ?? 0) + span / useful);
  }
  return [...sum].map(([mode, share]) => ({ mode, share })).sort((a, b) => b.share - a.share);
}
