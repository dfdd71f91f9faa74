import {
  bestImprovement,
  efficiencyMap,
  findings,
  frequencyTrade,
  inputCurve,
  limitsOverRun,
  pathNetlist,
  readLossTable,
  stageEnvelope,
  stageLibrary,
  stageNetlist,
  type EfficiencyMap,
  type Envelope,
  type Finding,
  type InputCurve,
  type LimitPoint,
  type MapRange,
  type NetlistPoint,
  type TradePoint,
  type Worth,
} from '@mile-thread/core';
import {
  bestDamping,
  dividerSpread,
  filteredRipple,
  filterGain,
  filterPeak,
  findDividers,
  partsFor,
  pickInductors,
  type DividerPair,
  type DividerTask,
  type FilterPlace,
  type InductorTask,
  type InputRange,
  type Spread,
} from '@mile-thread/core/design';
import {
  isConverter,
  isRegulated,
  surroundingsOf,
  type Converter,
  type OutputFilter,
  type Stage,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { simulate, type RunResult } from '@mile-thread/core/solve';
import * as Comlink from 'comlink';

/** A run with what the checks say of it. */
export interface Computed {
  run: RunResult;
  findings: Finding[];
}

/** Everything the Stage view shows of a stage over its run. */
export interface SizedStage {
  /** [s] how long the thread lasts */
  lasts: number;
  envelope: Envelope;
  map: EfficiencyMap;
  limits: LimitPoint[];
  /** input volts it needs over its load, up to twice what is asked */
  needs: InputCurve;
  trade: TradePoint[];
  worth?: Worth;
}

/** A divider with what its tolerances make of it. */
export interface OfferedDivider extends DividerPair {
  spread: Spread;
}

/** What an output filter does. */
export interface FilterFigures {
  /** [V/V] at the switching frequency and its third harmonic */
  gain: number;
  gain3: number;
  /** [V] peak to peak left */
  ripple: number;
  peak: { gain: number; frequency: number };
  /** with a damping capacitor of four times its own: [Ω] [F] */
  damping: { resistance: number; capacitance: number };
}

export type Answer<T> = { ok: true; value: T } | { ok: false; message: string };

/** Points along each side of the efficiency map. */
const MAP_SIZE = 60;

/** Rows of a run for a whole charge: as many as a plot has pixels to tell apart. */
const ROWS = 400;

/** Instants of a stage's run that are worked out for the needle. */
const LOOKS = 100;

/** Values only: an error would lose its class on the way. */
function answer<T>(work: () => T): Answer<T> {
  try {
    return { ok: true, value: work() };
  } catch (error) {
    return { ok: false, message: (error as Error).message };
  }
}

function mapRange(stage: Stage, { inputs, mostAmps }: Envelope): MapRange {
  const most = mostAmps > 0 ? mostAmps : 0.1;
  const fed = inputs.most > 0;
  const least = fed ? inputs.least : isRegulated(stage) ? stage.minInput : 1;
  const highest = fed ? inputs.most : stage.maxInput;
  const room = Math.max(0.3, 0.12 * (highest - least));
  return {
    lowVolts: Math.max(0.5, least - room),
    highVolts: Math.max(1, highest + room),
    leastAmps: most / 30,
    mostAmps: most * 4,
  };
}

const api = {
  /** Run a thread down and check it. */
  compute(doc: ThreadDocument): Answer<Computed> {
    const done = answer(() => {
      const run = simulate(doc, { rows: ROWS });
      return { run, findings: findings(doc, run) };
    });
    return done.ok ? Comlink.transfer(done, [done.value.run.series.data.buffer]) : done;
  },
  /** Size one stage over the run of its thread. */
  size(doc: ThreadDocument, id: string): Answer<SizedStage> {
    return answer(() => {
      const run = simulate(doc);
      const stage = doc.stages.find((s) => s.id === id)!;
      const envelope = stageEnvelope(doc, run, id, { between: LOOKS });
      const { air } = surroundingsOf(doc);
      const range = { low: envelope.inputs.least, high: envelope.inputs.most };
      const works = range.high > 0 && range.low < Infinity;
      const trade = isConverter(stage) && works ? frequencyTrade(stage, range, envelope.mostAmps) : [];
      const worth = bestImprovement(doc, id, run.usefulEnd.time);
      return {
        lasts: run.usefulEnd.time,
        envelope,
        map: efficiencyMap(stage, mapRange(stage, envelope), MAP_SIZE, air),
        limits: limitsOverRun(doc, run, id),
        needs: inputCurve(stage, 2 * Math.max(envelope.mostAmps, 0.01), air),
        trade,
        ...(worth ? { worth } : {}),
      };
    });
  },
  /** The map a stage would have: for readings not yet taken over. */
  map(stage: Stage, range: MapRange, air: number): Answer<EfficiencyMap> {
    return answer(() => efficiencyMap(stage, range, 40, air));
  },
  parts(stage: Converter, range: InputRange, iout: number, frequency: number) {
    return answer(() => partsFor(stage, range, iout, frequency));
  },
  dividers(task: DividerTask): Answer<OfferedDivider[]> {
    return answer(() =>
      findDividers(task, 6).map((p) => ({
        ...p,
        spread: dividerSpread(
          task.reference,
          task.referenceTolerance,
          p.top,
          p.bottom,
          task.resistorTolerance,
          task.pinBias,
        ),
      })),
    );
  },
  inductors(task: InductorTask) {
    return answer(() => pickInductors(task, 8));
  },
  filter(f: OutputFilter, place: FilterPlace, frequency: number, ripple: number): Answer<FilterFigures> {
    return answer(() => ({
      gain: filterGain(f, place, frequency),
      gain3: filterGain(f, place, 3 * frequency),
      // The worst shape for what is left: a square wave of equal halves has the largest fundamental.
      ripple: filteredRipple(f, place, frequency, ripple, 0.5),
      peak: filterPeak(f, place),
      damping: {
        resistance: bestDamping(f.inductance, f.capacitance, 4).resistance,
        capacitance: 4 * f.capacitance,
      },
    }));
  },
  netlist(stage: Converter, point: NetlistPoint): Answer<string> {
    return answer(() => stageNetlist(stage, point));
  },
  /** The path at an instant, as a circuit. */
  pathNetlist(doc: ThreadDocument, time: number): Answer<string> {
    return answer(() => pathNetlist(doc, simulate(doc, { rows: ROWS }), time));
  },
  lossTable(rows: string[][], outputVolts: number) {
    return answer(() => readLossTable(rows, outputVolts));
  },
  library() {
    return answer(() => stageLibrary());
  },
};

export type ComputeApi = typeof api;
Comlink.expose(api);
