import type { Converter } from '../model/kinds/registry.ts';
import { ClaimedLaw, type Stated } from './laws/claimed.ts';
import { converterSolver, mostHeat, type Pass } from './laws/converter.ts';
import type { Law } from './laws/law.ts';
import { limitsOf } from './limits.ts';
import { LossLaw } from './laws/loss.ts';
import { bridgeFrom, type Bridge, type BridgeWays } from './parts/bridge.ts';
import { PartsLaw } from './parts/partsLaw.ts';
import type { StagePlant } from './point.ts';
import type { Through } from './kinds/kind.ts';

/** Whether the run-down of a stage rests on its parts. */
export function usesParts(stage: Converter): boolean {
  return stage.parts?.used === true;
}

/** What its topology makes of claimed or measured figures, and of its parts. */
export interface Shaped {
  stated: Omit<Stated, 'loss' | 'quiescent' | 'inputLimit'>;
  ways: () => BridgeWays;
  /** present where the input always reaches the output: drop and resistance as stated */
  pass?: Through;
}

/** A stage's law at the depth it states. */
function lawOf(stage: Converter, { stated, ways }: Shaped): Law {
  if (usesParts(stage)) return new PartsLaw(bridgeFrom(stage, ways()));
  return new ClaimedLaw({
    ...stated,
    quiescent: stage.loss.quiescentCurrent,
    loss: new LossLaw(stage.loss, stage.outputVolts),
    inputLimit: limitsOf(stage).input,
  });
}

/** What lies on a bridge's way through while nothing switches. */
export function bridgePass({ a, d, winding }: Bridge): Pass {
  return { volts: d.volts, resistance: winding + a.ohms + d.ohms, copper: winding };
}

/** The way through a stage by its parts where they are in use, else as stated. */
export function throughOf(stage: Converter, shaped: Shaped): Through | undefined {
  if (!shaped.pass || !usesParts(stage)) return shaped.pass;
  const { volts, resistance } = bridgePass(bridgeFrom(stage, shaped.ways()));
  return { volts, resistance: resistance + (stage.parts!.filter?.resistance ?? 0) };
}

/** A switching stage compiled at the depth it states. @param air [°C] */
export function compileSwitching(stage: Converter, shaped: Shaped, air: number): StagePlant {
  const law = lawOf(stage, shaped);
  const parts = law instanceof PartsLaw ? stage.parts! : undefined;
  const pass = law instanceof PartsLaw ? bridgePass(law.bridge) : { copper: 0, ...shaped.pass! };
  const { thermalResistance, maxJunction } = parts ?? stage;
  const folds = parts === undefined || parts.integrated;
  const most = folds ? mostHeat(air, thermalResistance, maxJunction) : Infinity;
  const solve = converterSolver({
    set: stage.outputVolts,
    law,
    quiescent: stage.loss.quiescentCurrent,
    outputLimit: limitsOf(stage).output,
    mostHeat: most,
    ...(shaped.pass ? { pass } : {}),
  });
  const filter = parts?.filter?.resistance ?? 0;
  return {
    solve,
    filter,
    law,
    mostHeat: most,
    bends(iout) {
      const found = law.bends(stage.outputVolts, iout);
      if (shaped.pass) found.push(stage.outputVolts + pass.volts + pass.resistance * iout);
      return found;
    },
  };
}
