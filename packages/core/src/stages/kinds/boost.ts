import { BoostStage, defaultBoost } from '../../model/kinds/boost.ts';
import { TwoSwitchParts } from '../../model/parts.ts';
import { MODE } from '../modes.ts';
import { way, WIRE, type BridgeWays } from '../parts/bridge.ts';
import { compileSwitching, throughOf, type Shaped } from '../switching.ts';
import type { Kind } from './kind.ts';
import { twoWays } from './ways.ts';

/**
 * Boost: regulates while its input, less rectifier and resistance, stays below the set output; above that
 * the input passes through. Ceiling Vin/(1 − Dmax) − Vrectifier, switch current limited at the input.
 * Source: volt-second balance; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
function shaped(stage: BoostStage): Shaped {
  const { maxDuty, passResistance: resistance, rectifierVolts: volts } = stage;
  const stated = { gain: 1 / (1 - maxDuty), ohms: 0, volts, resistance, drop: volts, mode: MODE.boost };
  return { stated, ways: () => ways(stage), pass: { volts, resistance } };
}

function ways(stage: BoostStage): BridgeWays {
  const { main, rectifier } = stage.parts!;
  return { shape: 'boost', a: WIRE, b: WIRE, c: way(main), d: way(rectifier), mostBoost: stage.maxDuty };
}

export const boost: Kind<BoostStage> = {
  kind: 'boost',
  model: BoostStage,
  create: defaultBoost,
  label: 'Boost',
  compile: (stage, air) => compileSwitching(stage, shaped(stage), air),
  ownDraw: (stage) => stage.loss.quiescentCurrent,
  passesInput: (stage) => throughOf(stage, shaped(stage))!,
  sizable: true,
  picture: { shape: 'bridge', left: false, right: true },
  usualOutput: (rail) => Math.ceil(1.5 * rail),
  switching: {
    shapeAt: () => 'boost',
    partsModel: TwoSwitchParts,
    ways,
    namedWays: ({ parts }) => twoWays(parts!, 'c', 'd'),
    peakLabel: 'Peak against the limit',
    blocks: (high, vout) => Math.max(high, vout),
    assemble: ({ common, power, rectify }) => ({ ...common, main: power(), rectifier: rectify() }),
  },
};
