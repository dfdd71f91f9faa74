import type { Converter } from '../model/kinds/registry.ts';
import { ClaimedLaw, type Stated } from './claimedLaw.ts';
import { converterSolver, mostHeat, type Pass } from './converter.ts';
import { highestVoltage } from './highestVoltage.ts';
import { limitsOf } from './limits.ts';
import { LossLaw } from './lossLaw.ts';
import { bridgeOf } from './parts/bridge.ts';
import { PartsLaw } from './parts/partsLaw.ts';
import { COPPER, MECHANISMS, type StageSolver } from './point.ts';

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
    const solve = converterSolver({
      set,
      law,
      quiescent,
      outputLimit: limits.output,
      mostHeat: integrated ? mostHeat(air, thermalResistance, maxJunction) : Infinity,
      pass: pass && through,
    });
    const ohms = stage.parts!.filter?.resistance ?? 0;
    return ohms > 0 ? behindFilter(solve, ohms) : solve;
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

/** [A] no rail draws; stands for one that collapses behind its filter. */
const BEYOND = 1e6;

/** Substitutions of the drop, and the nearness, relative, at which they end: that of the other searches. */
const SUBSTITUTIONS = 6;
const CLOSE = 1e-11;

/** A stage whose output goes through a filter: the rail stands lower by its resistance times the current. */
function behindFilter(solve: StageSolver, ohms: number): StageSolver {
  return (vin, rail, out) => {
    const drawn = (volts: number) => {
      // The drop is small, so putting it back in converges at once; where it does not, the range is searched.
      let behind = volts;
      let amps = rail(behind);
      for (let k = 0; k < SUBSTITUTIONS; k++) {
        const next = volts - ohms * amps;
        if (!(next > 0)) break;
        if (Math.abs(next - behind) <= CLOSE * volts) return amps;
        behind = next;
        amps = rail(behind);
      }
      behind = highestVoltage((v) => volts - ohms * rail(v), volts);
      return behind > 0 ? rail(behind) : BEYOND;
    };
    solve(vin, drawn, out);
    if (!(out.outputVolts > 0)) return;
    const drop = ohms * out.outputAmps;
    out.outputVolts -= drop;
    out.loss[COPPER]! += drop * out.outputAmps;
    rail(out.outputVolts); // so that what hangs on it stands at these volts
  };
}
