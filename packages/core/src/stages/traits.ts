import { isConverter, type Converter, type Stage } from '../model/kinds/registry.ts';
import { USUAL_SURROUNDINGS } from '../model/surroundings.ts';
import { withFilter } from './filter.ts';
import { kindOf, switchingKind } from './kinds/registry.ts';
import type { NamedWay, Through } from './kinds/kind.ts';
import { bridgeFrom } from './parts/bridge.ts';
import { PartsLaw } from './parts/partsLaw.ts';
import type { StagePlant, StageSolver } from './point.ts';

/** What the rest of the core asks of a stage, whatever its kind. */

/** Prepare a stage. @param air [°C] around it, for what heat folds back */
export function compileStage(stage: Stage, air: number): StagePlant {
  return kindOf(stage).compile(stage, air);
}

/** The solver of a stage alone, its filter included. */
export function stageSolver(stage: Stage, air: number = USUAL_SURROUNDINGS.air): StageSolver {
  return withFilter(compileStage(stage, air));
}

/** [A] A stage's own draw with no load, as stated by its model. */
export function ownDraw(stage: Stage): number {
  return kindOf(stage).ownDraw(stage);
}

/** [A] A stage's draw while it is held off. */
export function offDraw(stage: Stage): number {
  const shut = 'shutdownCurrent' in stage ? stage.shutdownCurrent : undefined;
  return shut ?? ownDraw(stage);
}

/** The way from a stage's input to its output that nothing can close; undefined where there is none. */
export function passesInput(stage: Stage): Through | undefined {
  return kindOf(stage).passesInput?.(stage);
}

/** [V] least input that holds a stage's set volts at a current [A]; undefined where it needs no headroom. */
export function neededInput(stage: Stage, iout: number): number | undefined {
  return kindOf(stage).neededInput?.(stage, iout);
}

/** Parts of a stage that carry the current, in their order; none where it has no parts. */
export function namedWays(stage: Stage): NamedWay[] {
  return isConverter(stage) && stage.parts ? switchingKind(stage.kind).namedWays(stage) : [];
}

/** A stage's parts as a law; its period and flow tell more than the solver asks. */
export function partsLaw(stage: Converter): PartsLaw {
  return new PartsLaw(bridgeFrom(stage, switchingKind(stage.kind).ways(stage)));
}

/** [V] highest a stage's output can stand at when its input is at `input`: set, or passed through. */
export function highestOutput(stage: Stage, input: number): number {
  const through = passesInput(stage);
  const set = 'outputVolts' in stage ? stage.outputVolts : 0;
  return through ? Math.max(set, input - through.volts) : set;
}
