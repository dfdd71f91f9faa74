import { BuckBoostStage, defaultBuckBoost } from '../../model/kinds/buckBoost.ts';
import { FourSwitchParts } from '../../model/parts.ts';
import type { Window } from '../laws/claimed.ts';
import { MODE } from '../modes.ts';
import { way, type BridgeWays } from '../parts/bridge.ts';
import { compileSwitching, type Shaped } from '../switching.ts';
import type { Kind, NamedWay } from './kind.ts';

/**
 * Input volts between which all four switches of a buck-boost work, as volts + ohms·Iout.
 *
 * buck while Vin ≥ (Vout + I·R)/Dmax,buck; boost while Vin ≤ (1 − Dmin,boost)·Vout + I·R/(1 − Dmin,boost).
 * The edges may cross where the drop is large: then nothing lies between.
 * Source: volt-second balance at the duty limits (own derivation).
 */
export function bothWindow(stage: BuckBoostStage): Window {
  const least = 1 - stage.minBoostDuty;
  const { outputVolts: set, pathResistance: ohms, maxBuckDuty } = stage;
  return {
    low: { volts: least * set, ohms: ohms / least },
    high: { volts: set / maxBuckDuty, ohms: ohms / maxBuckDuty },
    modeBelow: MODE.boost,
    modeInside: MODE.both,
    loss: stage.bothLoss,
  };
}

/** Four-switch buck-boost. */
function shaped(stage: BuckBoostStage): Shaped {
  const { maxBoostDuty, pathResistance: resistance } = stage;
  const stated = {
    gain: 1 / (1 - maxBoostDuty),
    ohms: 0,
    volts: 0,
    resistance,
    drop: 0,
    mode: MODE.buck,
    window: bothWindow(stage),
  };
  return { stated, ways: () => ways(stage) };
}

function ways(stage: BuckBoostStage): BridgeWays {
  const p = stage.parts!;
  return {
    shape: 'four',
    a: way(p.buckHigh),
    b: way(p.buckLow),
    c: way(p.boostLow),
    d: way(p.boostHigh),
    leastBoost: Math.min(0.4, Math.max(stage.minBoostDuty, p.minOnTime * p.frequency)),
    mostBuck: stage.maxBuckDuty,
    mostBoost: stage.maxBoostDuty,
  };
}

function namedWays({ parts }: BuckBoostStage): NamedWay[] {
  const p = parts!;
  return [
    { id: 'buckHigh', name: 'S1', way: 'a', part: p.buckHigh },
    { id: 'buckLow', name: 'S2', way: 'b', part: p.buckLow },
    { id: 'boostLow', name: 'S3', way: 'c', part: p.boostLow },
    { id: 'boostHigh', name: 'S4', way: 'd', part: p.boostHigh },
  ];
}

export const buckBoost: Kind<BuckBoostStage> = {
  kind: 'buckBoost',
  model: BuckBoostStage,
  create: defaultBuckBoost,
  label: 'Buck-boost',
  compile: (stage, air) => compileSwitching(stage, shaped(stage), air),
  ownDraw: (stage) => stage.loss.quiescentCurrent,
  sizable: true,
  picture: { shape: 'bridge', left: true, right: true },
  usualOutput: (rail) => rail,
  switching: {
    shapeAt: (vin, vout) => (vin > vout ? 'buck' : 'boost'),
    partsModel: FourSwitchParts,
    ways,
    namedWays,
    peakLabel: 'Peak against the limit',
    blocks: (high, vout) => Math.max(high, vout),
    assemble: ({ common, power }) => ({
      ...common,
      lightLoad: 'emulation',
      buckHigh: power(),
      buckLow: power(),
      boostLow: power(),
      boostHigh: power(),
    }),
  },
};
