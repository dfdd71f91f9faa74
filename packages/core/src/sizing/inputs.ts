import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { HOLDS, MODE } from '../stages/modes.ts';
import { StagePoint } from '../stages/point.ts';
import { passesInput, stageSolver } from '../stages/traits.ts';
import { halve } from '../numeric/halve.ts';

/** Input volts a stage needs, over its load. */
export interface InputCurve {
  /** [A] */
  amps: number[];
  /** [V] least input that holds the set volts; NaN where none up to its maximum does */
  least: number[];
  /** [V] input from which a boost passes through; absent for other kinds */
  passesFrom?: number[];
}

/** Halvings of the volts looked at: far below a millivolt. */
const HALVINGS = 24;

/**
 * Dropout of a buck and a linear stage, least input of a boost, over its load, from a stiff supply; and where a
 * boost passes through. Found from the stage's own modes, whatever its depth.
 * @param most [A] largest load looked at @param air [°C]
 */
export function inputCurve(stage: Stage, most: number, air: number, points = 21): InputCurve {
  const amps = Array.from({ length: points }, (_, k) => Math.max(1e-4, (most * k) / (points - 1)));
  if (!isRegulated(stage)) return { amps, least: amps.map(() => NaN) };
  const solve = stageSolver(stage, air);
  const point = new StagePoint();
  const mode = (vin: number, i: number): number => {
    solve(vin, () => i, point);
    return point.mode;
  };
  const set = stage.outputVolts;
  const passes = passesInput(stage) !== undefined;
  // What passes its input through holds below the volts at which it does, everything else above some volts.
  const top = passes ? set : Math.max(stage.maxInput, 1.01 * set);
  const least = amps.map((i) => first(0.02 * set, top, (v) => HOLDS[mode(v, i)]!));
  if (!passes) return { amps, least };
  const passesFrom = amps.map((i) => first(set, 1.5 * set + 3, (v) => mode(v, i) === MODE.passThrough));
  return { amps, least, passesFrom };
}

/** First volts in [low, high] from which on it is so; NaN where it is not so at `high`. */
function first(low: number, high: number, so: (volts: number) => boolean): number {
  if (!so(high)) return NaN;
  return halve(low, high, so, HALVINGS)[1];
}
