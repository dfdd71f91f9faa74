import { defaultSepic, SepicStage } from '../../model/kinds/sepic.ts';
import { SepicParts } from '../../model/parts.ts';
import { MODE } from '../modes.ts';
import { bank, way, WIRE, type BridgeWays } from '../parts/bridge.ts';
import { compileSwitching, type Shaped } from '../switching.ts';
import type { Kind } from './kind.ts';
import { twoWays } from './ways.ts';

/**
 * SEPIC: steps up and down; ceiling Vin·Dmax/(1 − Dmax) less rectifier and path.
 * Source: volt-second balance; Erickson and Maksimović, Fundamentals of Power Electronics (from memory).
 */
function shaped(stage: SepicStage): Shaped {
  const { maxDuty, pathResistance: ohms, rectifierVolts: volts } = stage;
  const gain = maxDuty / (1 - maxDuty);
  const stated = { gain, ohms, volts, resistance: ohms, drop: volts, mode: MODE.regulating };
  return { stated, ways: () => ways(stage) };
}

function ways(stage: SepicStage): BridgeWays {
  const { main, rectifier, inductor, secondInductor, couplingCapacitor } = stage.parts!;
  return {
    shape: 'sepic',
    a: WIRE,
    b: WIRE,
    c: way(main),
    d: way(rectifier),
    windings: {
      first: { henries: inductor.inductance, ohms: inductor.resistance },
      second: { henries: secondInductor.inductance, ohms: secondInductor.resistance },
    },
    coupling: bank(couplingCapacitor),
    mostBoost: stage.maxDuty,
  };
}

export const sepic: Kind<SepicStage> = {
  kind: 'sepic',
  model: SepicStage,
  create: defaultSepic,
  label: 'SEPIC',
  compile: (stage, air) => compileSwitching(stage, shaped(stage), air),
  ownDraw: (stage) => stage.loss.quiescentCurrent,
  sizable: true,
  picture: { shape: 'sepic' },
  usualOutput: (rail) => 0.6 * rail,
  switching: {
    shapeAt: () => 'sepic',
    partsModel: SepicParts,
    ways,
    namedWays: ({ parts }) => twoWays(parts!, 'c', 'd'),
    peakLabel: 'Switch, peak',
    blocks: (high, vout) => Math.max(high, vout) + vout,
    assemble: ({ common, power, rectify, couple }) => ({
      ...common,
      main: power(),
      rectifier: rectify(),
      ...couple(),
    }),
  },
};
