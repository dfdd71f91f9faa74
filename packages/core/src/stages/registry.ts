import type { Stage, StageKind } from '../model/kinds/registry.ts';
import { boostSolver } from './boost.ts';
import { buckSolver } from './buck.ts';
import { buckBoostSolver } from './buckBoost.ts';
import { directSolver } from './direct.ts';
import { linearSolver } from './linear.ts';
import type { StageSolver } from './point.ts';

/** The physics of every kind of stage: one line each. */
const SOLVERS: { [K in StageKind]: (stage: Extract<Stage, { kind: K }>) => StageSolver } = {
  direct: directSolver,
  linear: linearSolver,
  buck: buckSolver,
  boost: boostSolver,
  buckBoost: buckBoostSolver,
};

/** Prepare the solver of a stage. */
export function stageSolver(stage: Stage): StageSolver {
  return (SOLVERS[stage.kind] as (s: Stage) => StageSolver)(stage);
}
