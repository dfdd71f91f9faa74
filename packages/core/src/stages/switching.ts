import type { Converter } from '../model/kinds/registry.ts';
import { ClaimedLaw, type Stated } from './claimedLaw.ts';
import { converterSolver, mostHeat, type Pass } from './converter.ts';
import { limitsOf } from './limits.ts';
import { LossLaw } from './lossLaw.ts';
import { bridgeOf } from './parts/bridge.ts';
import { PartsLaw } from './parts/partsLaw.ts';
import { MECHANISMS, type StageSolver } from './point.ts';

/** Whether the run-down of a stage rests on its parts. */
export function usesParts(stage: Converter): boolean {
  return stage.parts?.used === true;
}

/** A stage's parts as a law; its period and flow tell more than the solver asks. */
export function partsLaw(stage: Converter): PartsLaw {
  return new PartsLaw(bridgeOf(stage), MECHANISMS.length);
}

/**
 * Solver of a switching stage at the depth it states.
 * @param stated what its topology makes of claimed or measured figures
 * @param pass present where the input always reaches the output: drop and resistance as stated
 * @param air [°C]
 */
export function switchingSolver(
  stage: Converter,
  stated: Omit<Stated, 'loss' | 'quiescent' | 'inputLimit'>,
  pass: { volts: number; resistance: number } | undefined,
  air: number,
): StageSolver {
  const { outputVolts: set, loss } = stage;
  const quiescent = loss.quiescentCurrent;
  const limits = limitsOf(stage);
  if (usesParts(stage)) {
    const law = partsLaw(stage);
    const { a, d, winding } = law.bridge;
    const { integrated, thermalResistance, maxJunction } = stage.parts!;
    const through: Pass = { volts: d.volts, resistance: winding + a.ohms + d.ohms, copper: winding };
    return converterSolver({
      set,
      law,
      quiescent,
      outputLimit: limits.output,
      mostHeat: integrated ? mostHeat(air, thermalResistance, maxJunction) : Infinity,
      pass: pass && through,
    });
  }
  return converterSolver({
    set,
    law: new ClaimedLaw({
      ...stated,
      quiescent,
      loss: new LossLaw(loss, set),
      inputLimit: limits.input,
    }),
    quiescent,
    outputLimit: limits.output,
    mostHeat: mostHeat(air, stage.thermalResistance, stage.maxJunction),
    pass: pass && { ...pass, copper: 0 },
  });
}
