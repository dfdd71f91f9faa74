import { isConverter, type Stage } from '../model/kinds/registry.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import type { RunResult } from '../solver/result.ts';
import { ROW, rowStride, stageColumn, STAGE_ROW } from '../solver/series.ts';
import { emptyPoint, MODES, type Mode } from '../stages/point.ts';
import { partsLaw } from '../stages/switching.ts';
import { stageSolver } from '../stages/registry.ts';
import type { Switching } from '../stages/parts/period.ts';
import { stressOf, type Stress } from '../stages/parts/stress.ts';
import { figuresOf, type FigureDef } from './figures.ts';
import { airsOf, hottestPart, warmParts, type Airs } from './heat.ts';

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
  /** [W] by mechanism, MECHANISMS' order */
  losses: number[];
  /** of the figures, each at its `index`; NaN where the stage does not switch */
  values: number[];
  /** the period it works in; absent where it does not switch */
  period?: PeriodShape;
  /** [°C] hottest part in the usual air */
  hottest?: { name: string; celsius: number };
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
    time: number;
    limit?: number;
  }[];
}

/** Instants looked at: enough that no extreme between two of them is missed by more than a per cent. */
const MOST_SNAPSHOTS = 120;

/**
 * Stress, loss and heat of a stage over a run, from the run's own operating points.
 * @throws RangeError when the thread has no such stage
 */
export function stageEnvelope(doc: ThreadDocument, run: RunResult, id: string): Envelope {
  const k = doc.stages.findIndex((s) => s.id === id);
  if (k < 0) throw new RangeError(`stageEnvelope: no stage ${id}`);
  const stage = doc.stages[k]!;
  const surroundings = surroundingsOf(doc);
  const read = snapshotReader(doc, stage);
  const { data, stages, loads } = run.series;
  const stride = rowStride(stages, loads);
  const at = stageColumn(k);
  const snapshots: Snapshot[] = [];
  const last = lastSizedRow(run);
  const step = Math.max(1, Math.floor(last / MOST_SNAPSHOTS));
  const inputs = { least: Infinity, most: 0, first: data[at + STAGE_ROW.inputVolts]!, last: 0 };
  let mostAmps = 0;
  const heat = new Map<keyof Airs, Envelope['heat'][number]>();
  let into = 0;
  let out = 0;
  for (let r = 0; r <= last; r++) {
    const row = r * stride;
    const at0 = row + at;
    const vin = data[at0 + STAGE_ROW.inputVolts]!;
    const mode = data[at0 + STAGE_ROW.mode]!;
    inputs.least = Math.min(inputs.least, vin);
    inputs.most = Math.max(inputs.most, vin);
    inputs.last = vin;
    mostAmps = Math.max(mostAmps, data[at0 + STAGE_ROW.outputAmps]!);
    if (r < last) {
      const h = data[row + stride]! - data[row]!;
      const next = at0 + stride;
      into += (h / 2) * (vin * data[at0 + 1]! + data[next]! * data[next + 1]!);
      out += (h / 2) * (data[at0 + 2]! * data[at0 + 3]! + data[next + 2]! * data[next + 3]!);
    }
    const changes = r > 0 && mode !== data[at0 - stride + STAGE_ROW.mode]!;
    if (r % step !== 0 && r !== last && !changes) continue;
    const { snapshot, warm } = read(data, at0, data[row]!);
    snapshots.push(snapshot);
    const all = doc.pack.series * doc.pack.parallel * data[row + ROW.restVolts]! * data[row + ROW.cellAmps]!;
    const airs = airsOf(surroundings, Math.max(0, all - deliveredAt(doc, data, row, stages)));
    for (const [air, celsius] of Object.entries(airs) as [keyof Airs, number][]) {
      const hot = hottestPart(warm, celsius);
      if (!hot || hot.celsius <= (heat.get(air)?.celsius ?? -Infinity)) continue;
      const limit = warm.find((w) => w.name === hot.name)?.limit;
      heat.set(air, {
        air,
        airCelsius: celsius,
        ...hot,
        time: data[row]!,
        ...(limit === undefined ? {} : { limit }),
      });
    }
  }
  return {
    figures: figureExtremes(stage, snapshots),
    snapshots,
    inputs,
    mostAmps,
    modes: modeShares(run, id),
    efficiency: into > 0 ? out / into : 0,
    lost: (run.usefulEnd.time > 0 ? run.ledger : run.ledgerAtDead).entries
      .filter((e) => e.element === id)
      .map(({ mechanism, joules }) => ({ mechanism, joules })),
    heat: [...heat.values()],
  };
}

/** [s] Where a sizing ends: the useful end; of a run that is of no use from the start, the dead end. */
function sizedUntil(run: RunResult): number {
  return run.usefulEnd.time > 0 ? run.usefulEnd.time : run.deadEnd.time;
}

/** The last row before a sizing ends: the rows at the end itself come after what ended it. */
export function lastSizedRow(run: RunResult): number {
  const { data, count, stages, loads } = run.series;
  const stride = rowStride(stages, loads);
  const useful = sizedUntil(run);
  let last = 0;
  while (last + 1 < count && data[(last + 1) * stride]! < useful) last++;
  return last;
}

/** Reads a stage's point from a row and works out the rest. */
function snapshotReader(doc: ThreadDocument, stage: Stage) {
  const { air } = surroundingsOf(doc);
  const law = isConverter(stage) && stage.parts ? partsLaw(stage) : undefined;
  const filterOhms = (isConverter(stage) && stage.parts?.filter?.resistance) || 0;
  const defs = figuresOf(stage);
  const solve = stageSolver(stage, air);
  const point = emptyPoint();
  return (data: Float64Array, at: number, time: number) => {
    const vin = data[at + STAGE_ROW.inputVolts]!;
    const vout = data[at + STAGE_ROW.outputVolts]!;
    const iout = data[at + STAGE_ROW.outputAmps]!;
    const iin = data[at + STAGE_ROW.inputAmps]!;
    const mode = MODES[data[at + STAGE_ROW.mode]!]!;
    // A boost folded below its input does not switch: the current passes its rectifier.
    const passes = mode === 'passThrough' || (stage.kind === 'boost' && vout < vin);
    const works = !passes && vout > 0 && iout > 0;
    // Behind a filter the rail stands below the stage's own output.
    const own = vout + filterOhms * iout;
    const stress = law && works ? stressOf(law, vin, own, iout) : undefined;
    let losses: number[] = [];
    if (vin > 0 && vout > 0) {
      solve(vin, () => iout, point);
      losses = Array.from(point.loss);
    }
    const warm = warmParts(stage, stress, vin * iin - vout * iout);
    const hottest = hottestPart(warm, air);
    const snapshot: Snapshot = {
      time,
      vin,
      vout,
      iout,
      iin,
      mode,
      losses,
      values: defs.map((d) =>
        vout > 0 ? d.read({ vin, vout, iin, iout, air, ...(stress ? { stress } : {}) }) : NaN,
      ),
      ...(stress && law
        ? { period: shapeOf(stress, law.period.share, law.period.current, law.period.phases) }
        : {}),
      ...(hottest ? { hottest } : {}),
    };
    return { snapshot, warm };
  };
}

function shapeOf(s: Stress, share: Float64Array, current: Float64Array, phases: number): PeriodShape {
  const { switching, discontinuous, duty, frequency } = s;
  return {
    switching,
    discontinuous,
    duty,
    frequency,
    share: Array.from(share.subarray(0, phases)),
    current: Array.from(current.subarray(0, phases + 1)),
  };
}

function figureExtremes(stage: Stage, snapshots: readonly Snapshot[]): Figure[] {
  return figuresOf(stage).flatMap(({ read, ...def }, n): Figure[] => {
    void read;
    const seen = snapshots.filter((s) => !Number.isNaN(s.values[n]));
    if (seen.length === 0) return [];
    const sign = def.floor ? -1 : 1;
    const worst = seen.reduce((a, b) => (sign * b.values[n]! > sign * a.values[n]! ? b : a));
    const value = worst.values[n]!;
    const room =
      def.rating === undefined ? {} : { room: def.floor ? 1 - def.rating / value : 1 - value / def.rating };
    return [
      {
        ...def,
        index: n,
        full: seen[0]!.values[n]!,
        end: seen.at(-1)!.values[n]!,
        worst: value,
        worstTime: worst.time,
        ...room,
      },
    ];
  });
}

function modeShares(run: RunResult, id: string): Envelope['modes'] {
  const useful = sizedUntil(run);
  const sum = new Map<Mode, number>();
  for (const m of run.stageModes[id] ?? []) {
    const span = Math.min(m.to, useful) - m.from;
    if (span > 0) sum.set(m.mode, (sum.get(m.mode) ?? 0) + span / useful);
  }
  return [...sum].map(([mode, share]) => ({ mode, share })).sort((a, b) => b.share - a.share);
}

/** [W] all loads take. */
function deliveredAt(doc: ThreadDocument, data: Float64Array, row: number, stages: number): number {
  let sum = 0;
  doc.loads.forEach((_, n) => {
    const c = row + stageColumn(stages) + 2 * n;
    sum += data[c]! * data[c + 1]!;
  });
  return sum;
}
