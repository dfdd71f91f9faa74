import { defaultBuck, BuckStage } from '../../model/kinds/buck.ts';
import { TwoSwitchParts } from '../../model/parts.ts';
import { MODE } from '../modes.ts';
import { bridgeFrom, way, WIRE, type BridgeWays } from '../parts/bridge.ts';
import { PartsLaw } from '../parts/partsLaw.ts';
import { compileSwitching, usesParts, type Shaped } from '../switching.ts';
import type { Kind } from './kind.ts';
import { twoWays } from './ways.ts';

/**
 * Buck: regulates while Dmax·Vin − R·Iout ≥ Vset; below that it drops out and the output follows the input.
 * Source: volt-second balance at D = Dmax; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
function shaped(stage: BuckStage): Shaped {
  const { maxDuty: gain, dropoutResistance: ohms } = stage;
  const stated = { gain, ohms, volts: 0, resistance: ohms, drop: 0, mode: MODE.buck };
  return { stated, ways: () => ways(stage) };
}

function ways(stage: BuckStage): BridgeWays {
  const { main, rectifier } = stage.parts!;
  return { shape: 'buck', a: way(main), b: way(rectifier), c: WIRE, d: WIRE, mostBuck: stage.maxDuty };
}

/**
 * [V] at its input to hold its set volts: (Vset + R·Iout)/Dmax; with parts the ceiling at Dmax solved for the input.
 * @param iout [A]
 */
function neededInput(stage: BuckStage, iout: number): number {
  if (!usesParts(stage)) return (stage.outputVolts + stage.dropoutResistance * iout) / stage.maxDuty;
  const law = new PartsLaw(bridgeFrom(stage, ways(stage)));
  // A filter's drop is not made up for: the stage regulates before it.
  return (stage.outputVolts - law.ceiling(0, iout)) / stage.maxDuty;
}

export const buck: Kind<BuckStage> = {
  kind: 'buck',
  model: BuckStage,
  create: defaultBuck,
  label: 'Buck',
  compile: (stage, air) => compileSwitching(stage, shaped(stage), air),
  ownDraw: (stage) => stage.loss.quiescentCurrent,
  neededInput,
  sizable: true,
  picture: { shape: 'bridge', left: true, right: false },
  usualOutput: (rail) => 0.6 * rail,
  switching: {
    shapeAt: () => 'buck',
    partsModel: TwoSwitchParts,
    ways,
    namedWays: ({ parts }) => twoWays(parts!, 'a', 'b'),
    peakLabel: 'Peak against the limit',
    blocks: (high) => high,
    assemble: ({ common, power, rectify }) => ({ ...common, main: power(), rectifier: rectify() }),
  },
};
