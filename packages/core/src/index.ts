/** What is made of a thread and its run: checks, sizing, files, the demo. Its parts stand in the entries beside it. */
export { findings } from './checks/checks.ts';
export {
  eases,
  WORK_PLACES,
  SEVERITIES,
  type Action,
  type Finding,
  type WorkPlace,
  type Severity,
  sinceOf,
} from './checks/finding.ts';
export { demoThreads } from './demo/threads.ts';
export { readLossTable } from './io/lossTable.ts';
export { stageNetlist, type NetlistPoint } from './io/netlist.ts';
export { pathNetlist } from './io/pathNetlist.ts';
export {
  cellsFromRows,
  decodeCell,
  encodeRecords,
  parseCells,
  parseRecords,
  recordRows,
  recordsFromRows,
  type ReadRecords,
} from './io/records.ts';
export { encodeShelf, readThreadFile, type ReadThreads } from './io/threadFile.ts';
export { seriesCsv } from './io/seriesCsv.ts';
export { cellCurve, halfOhms, restSoc, type CellCurve } from './sizing/cellCurve.ts';
export { efficiencyMap, type EfficiencyMap, type MapRange } from './sizing/efficiencyMap.ts';
export {
  stageEnvelope,
  type Envelope,
  type Figure,
  type PeriodShape,
  type Snapshot,
} from './sizing/envelope.ts';
export type { PartId } from './sizing/figures.ts';
export type { Airs } from './sizing/heat.ts';
export { gaugeReading, suggestGauge, type GaugeLevel, type GaugeReading } from './sizing/gauge.ts';
export { inputCurve, type InputCurve } from './sizing/inputs.ts';
export { stageLibrary } from './sizing/library.ts';
export { leastInputOverRun, limitsOverRun, mostOutputOverRun, type LimitPoint } from './sizing/limits.ts';
export { frequencyTrade, type TradePoint } from './sizing/trade.ts';
export { railHeld, type Misfit, type RailHeld } from './sizing/held.ts';
export { crossing, simplestWay, wayTo, type Crossing, type Way } from './sizing/reach.ts';
export { refusalWords } from './checks/refusalWords.ts';
export { refusal, type Refusal } from './sizing/refusal.ts';
export { bestImprovement, type Worth } from './sizing/worth.ts';
export type { Switching } from './stages/parts/period.ts';
