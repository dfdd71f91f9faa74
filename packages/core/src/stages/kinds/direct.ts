import { defaultDirect, DirectStage } from '../../model/kinds/direct.ts';
import { highestVoltage } from '../highestVoltage.ts';
import { SeriesLaw } from '../laws/series.ts';
import { MODE } from '../modes.ts';
import { CONDUCTION, type Rail, type StageSolver } from '../point.ts';
import type { Kind } from './kind.ts';

/** A series resistance: Vout = Vin − R·Iout, Iin = Iout. */
export function directSolver({ resistance }: DirectStage): StageSolver {
  let vin = 0;
  let rail: Rail = () => 0;
  const left = (v: number) => vin - resistance * rail(v);
  return (volts, load, out) => {
    vin = volts;
    rail = load;
    const vout = resistance === 0 ? volts : highestVoltage(left, volts);
    if (Number.isNaN(vout)) return out.collapse(volts, 0);
    const iout = rail(vout);
    out.set(volts, iout, vout, iout, MODE.direct, 0);
    out.loss[CONDUCTION] = (volts - vout) * iout;
  };
}

export const direct: Kind<DirectStage> = {
  kind: 'direct',
  model: DirectStage,
  create: defaultDirect,
  label: 'Direct',
  compile: (stage) => ({
    solve: directSolver(stage),
    filter: 0,
    law: new SeriesLaw(0, stage.resistance, 0, MODE.direct, false),
    mostHeat: Infinity,
    bends: () => [],
  }),
  ownDraw: () => 0,
  passesInput: ({ resistance }) => ({ volts: 0, resistance }),
  sizable: false,
  picture: { shape: 'wire' },
  usualOutput: (rail) => rail,
};
