import type { Stage, StageKind } from '../model/kinds/registry.ts';
import { USUAL_SURROUNDINGS } from '../model/surroundings.ts';
import { boostSolver } from './boost.ts';
import { buckSolver } from './buck.ts';
import { buckBoostSolver } from './buckBoost.ts';
import { directSolver } from './direct.ts';
import { linearSolver } from './linear.ts';
import { sepicSolver } from './sepic.ts';
import type { StageSolver } from './point.ts';

/** The physics of every kind of stage: one line each. */
const SOLVERS: { [K in StageKind]: (stage: Extract<Stage, { kind: K }>, air: number) => StageSolver } = {
  direct: directSolver,
  linear: linearSolver,
  buck: buckSolver,
  boost: boostSolver,
  buckBoost: buckBoostSolver,
  sepic: sepicSolver,
};

/** Prepare the solver of a stage. @param air [°C] around it, for what heat folds back */
export function stageSolver(stage: Stage, air = USUAL_SURROUNDINGS.air): StageSolver {
  return (SOLVERS[stage.kind] as (s: Stage, air: number) => StageSolver)(stage, air);
}
