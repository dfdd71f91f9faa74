import type { LinearStage } from '../model/kinds/linear.ts';
import { mostHeat } from './converter.ts';
import { highestAllowed, highestVoltage } from './highestVoltage.ts';
import { limitsOf } from './limits.ts';
import { clearLoss, deadPoint, HEADROOM, modeIndex, QUIESCENT, type StageSolver } from './point.ts';

/**
 * Linear regulator: Iin = Iout + Iq. Regulates while Vin − Vdrop − Rdrop·Iout ≥ Vset, else the output
 * follows the input less the dropout. Above its limit it holds the current and lets the volts fall; when its
 * junction would pass its limit it lets them fall until (Vin − Vout)·Iout + Vin·Iq no longer does.
 */
export function linearSolver(stage: LinearStage, air: number): StageSolver {
  const { outputVolts: set, dropoutVolts, dropoutResistance, quiescentCurrent } = stage;
  const limit = limitsOf(stage).output;
  const most = mostHeat(air, stage.thermalResistance, stage.maxJunction);
  const regulating = modeIndex('regulating');
  const dropout = modeIndex('dropout');
  const limited = modeIndex('currentLimit');
  const hot = modeIndex('thermalLimit');
  const collapsed = modeIndex('collapsed');
  const heat = (vin: number, vout: number, iout: number) => (vin - vout) * iout + vin * quiescentCurrent;
  return (volts, rail, out) => {
    let vout = set;
    let mode = regulating;
    let iout = rail(set);
    const open = volts - dropoutVolts;
    if (open - dropoutResistance * iout < set) {
      mode = dropout;
      vout = highestVoltage((v) => open - dropoutResistance * rail(v), Math.min(open, set));
      iout = vout > 0 ? rail(vout) : 0;
    }
    if (iout > limit) {
      mode = limited;
      vout = highestAllowed((v) => limit - rail(v), vout);
      iout = vout > 0 ? rail(vout) : 0;
    }
    if (vout > 0 && heat(volts, vout, iout) > most) {
      mode = hot;
      vout = highestAllowed((v) => most - heat(volts, v, rail(v)), vout);
      iout = vout > 0 ? rail(vout) : 0;
    }
    if (!(vout > 0)) return deadPoint(out, volts, quiescentCurrent, collapsed);
    out.inputVolts = volts;
    out.inputAmps = iout + quiescentCurrent;
    out.outputVolts = vout;
    out.outputAmps = iout;
    out.mode = mode;
    clearLoss(out);
    out.loss[HEADROOM] = (volts - vout) * iout;
    out.loss[QUIESCENT] = volts * quiescentCurrent;
  };
}
