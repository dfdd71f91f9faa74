import type { LinearStage } from '../model/kinds/linear.ts';
import { highestAllowed, highestVoltage } from './highestVoltage.ts';
import { clearLoss, deadPoint, HEADROOM, modeIndex, QUIESCENT, type StageSolver } from './point.ts';

/**
 * Linear regulator: Iin = Iout + Iq. Regulates while Vin − Vdrop − Rdrop·Iout ≥ Vset, else the output
 * follows the input less the dropout. Above its limit it holds the current and lets the volts fall.
 */
export function linearSolver(stage: LinearStage): StageSolver {
  const { outputVolts: set, dropoutVolts, dropoutResistance, quiescentCurrent } = stage;
  const limit = stage.outputLimit ?? Infinity;
  const regulating = modeIndex('regulating');
  const dropout = modeIndex('dropout');
  const limited = modeIndex('currentLimit');
  const collapsed = modeIndex('collapsed');
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
