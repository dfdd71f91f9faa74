/** Bench: the measuring plan of a design, and readings against what it predicts. */
export { compare, USUAL_ACCURACY, type Compared } from './bench/compare.ts';
export { explain, type Explanation, type Moved } from './bench/explain.ts';
export { beyondBelief, settledBy, takeOver } from './bench/takeOver.ts';
export { readingsFrom, type ReadReadings } from './bench/readings.ts';
export { planOf } from './bench/plan.ts';
export {
  PLAN_PARTS,
  type InstrumentKind,
  type Node,
  type PlanPart,
  type PlanStep,
  type Predicted,
} from './bench/step.ts';
export { planCsv } from './io/planCsv.ts';
