/** Bench: the measuring plan of a design, readings and curves against what it predicts, and what they say of it. */
export { claimedAmps, LET_GO, moduleTest, takeTest, type Claim, type ModuleTest } from './bench/claims.ts';
export { compare, USUAL_ACCURACY, type Compared } from './bench/compare.ts';
export { courseOf, type Course } from './bench/course.ts';
export { curveFrom, overlay, type Overlaid } from './bench/curve.ts';
export type { BenchFigure } from './bench/direct.ts';
export { explain, type Explanation, type Moved } from './bench/explain.ts';
export {
  gradeOf,
  labelOf,
  layOut,
  lying,
  matchCells,
  strandedBy,
  usualRefusals,
  withGroups,
  type Graded,
  type Lying,
  type Match,
  type Stranded,
} from './bench/grading.ts';
export { loggedCurve, type LoggedCurve } from './bench/loggedCurve.ts';
export { restedCharge } from './bench/rested.ts';
export { gradedFrom } from './bench/gradedTable.ts';
export { beyondBelief, misfits, settledBy, takeOver } from './bench/takeOver.ts';
export { readingsFrom, type ReadReadings } from './bench/readings.ts';
export { planOf } from './bench/plan.ts';
export { kindOf } from './bench/steps/registry.ts';
export type { Hands, StepKind } from './bench/steps/kind.ts';
export {
  leftOutWords,
  observed,
  predictions,
  type PredictedCourse,
  type Predictions,
} from './bench/predict.ts';
export { schoolsOf, type School, type SchoolChoice } from './bench/schools.ts';
export {
  PLAN_PARTS,
  type InstrumentKind,
  type Node,
  type PlanPart,
  type PlanStep,
  type Predicted,
} from './bench/step.ts';
export { planCsv } from './io/planCsv.ts';
export { observedOf, standing, truthOf, type Standing, type Truth } from './bench/truth.ts';
