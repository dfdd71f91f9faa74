import {
  bestImprovement,
  efficiencyMap,
  frequencyTrade,
  inputCurve,
  limitsOverRun,
  stageEnvelope,
  type EfficiencyMap,
  type Envelope,
  type InputCurve,
  type LimitPoint,
  type MapRange,
  type TradePoint,
  type Worth,
} from '@mile-thread/core';
import {
  isConverter,
  isRegulated,
  surroundingsOf,
  type Stage,
  type ThreadDocument,
} from '@mile-thread/core/model';
import type { DeadReason } from '@mile-thread/core/solve';
import { runOf } from './runs.ts';

/** Everything the Stage view shows of a stage over its run. */
export interface SizedStage {
  /** the stage's */
  id: string;
  /** [s] how long the thread lasts */
  lasts: number;
  /** why the thread ends before it begins; absent where it runs */
  never?: DeadReason;
  envelope: Envelope;
  map: EfficiencyMap;
  limits: LimitPoint[];
  /** input volts it needs over its load, up to twice what is asked */
  needs: InputCurve;
  trade: TradePoint[];
  worth?: Worth;
}

/** Points along each side of the efficiency map. */
const MAP_SIZE = 60;

/** Instants of a stage's run that are worked out for the needle. */
const LOOKS = 100;

/** Size one stage over the run of its thread. */
export function* size(doc: ThreadDocument, id: string): Generator<number, SizedStage, undefined> {
  const run = runOf(doc);
  const stage = doc.stages.find((s) => s.id === id)!;
  const envelope = stageEnvelope(doc, run, id, { between: LOOKS });
  yield 0.3;
  const { air } = surroundingsOf(doc);
  const map = efficiencyMap(stage, mapRange(stage, envelope), MAP_SIZE, air);
  yield 0.6;
  const range = { low: envelope.inputs.least, high: envelope.inputs.most };
  const works = range.high > 0 && range.low < Infinity;
  const trade = isConverter(stage) && works ? frequencyTrade(stage, range, envelope.mostAmps) : [];
  yield 0.8;
  const worth = bestImprovement(doc, id, run.usefulEnd.time);
  return {
    id,
    lasts: run.usefulEnd.time,
    ...(run.deadEnd.time === 0 ? { never: run.deadEnd.reason } : {}),
    envelope,
    map,
    limits: limitsOverRun(doc, run, id),
    needs: inputCurve(stage, 2 * Math.max(envelope.mostAmps, 0.01), air),
    trade,
    ...(worth ? { worth } : {}),
  };
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
