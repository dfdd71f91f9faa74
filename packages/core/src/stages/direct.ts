import type { DirectStage } from '../model/kinds/direct.ts';
import { highestVoltage } from './highestVoltage.ts';
import { clearLoss, CONDUCTION, deadPoint, modeIndex, type StageSolver } from './point.ts';

/** A series resistance: Vout = Vin − R·Iout, Iin = Iout. */
export function directSolver({ resistance }: DirectStage): StageSolver {
  const direct = modeIndex('direct');
  const collapsed = modeIndex('collapsed');
  return (volts, rail, out) => {
    const vout = resistance === 0 ? volts : highestVoltage((v) => volts - resistance * rail(v), volts);
    if (Number.isNaN(vout)) return deadPoint(out, volts, 0, collapsed);
    const iout = rail(vout);
    out.inputVolts = volts;
    out.inputAmps = iout;
    out.outputVolts = vout;
    out.outputAmps = iout;
    out.mode = direct;
    clearLoss(out);
    out.loss[CONDUCTION] = (volts - vout) * iout;
  };
}
