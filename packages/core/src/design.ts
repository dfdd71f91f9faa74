/** Closed forms a designer reaches for: dividers, filters, preferred values, sense resistors, copper, heat. */
export { fuseFor } from './conductors/fuse.ts';
export { gaugeFor, traceFor } from './conductors/trace.ts';
export {
  dividerSpread,
  dividerVolts,
  findDividers,
  lockoutDivider,
  type DividerPair,
  type DividerTask,
  type Spread,
} from './design/divider.ts';
export { E96, nearest, SERIES, type SeriesName } from './design/eSeries.ts';
export {
  bestDamping,
  filteredRipple,
  filterGain,
  filterPeak,
  quietDamping,
  REGULATED_SOURCE,
  RINGS,
  toroidInductance,
  type FilterPlace,
} from './design/filter.ts';
export {
  edgeTimes,
  programmedAmps,
  senseLimit,
  senseResistor,
  softStartCapacitor,
  startCurrent,
} from './design/programming.ts';
export { heatSink, selfHeating } from './design/thermal.ts';
export {
  capacitanceForRelease,
  capacitanceForStep,
  largestBoundary,
  releaseOvershoot,
  RIPPLE_RATIO,
  stepDip,
  stepDipPi,
} from './sizing/choose.ts';
export { bare, pickInductors, type InductorTask, type ListedInductor } from './sizing/inductors.ts';
export {
  ceramic,
  partsFor,
  schottky,
  transistor,
  USUAL_FREQUENCY,
  type InputRange,
} from './sizing/suggest.ts';
export { FORMULAS, type Formula, type FormulaFigure, type FormulaInput } from './sizing/formulas.ts';
