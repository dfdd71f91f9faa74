import type { Loss, PointsLoss } from '../model/loss.ts';
import { lossSurface } from './lossSurface.ts';

/** How a converter's input current follows from its output. Quiescent current included in `inputAmps`. */
export interface LossLaw {
  /** [A] in for the output given; Infinity where no input current is enough. */
  inputAmps(inputVolts: number, outputVolts: number, outputAmps: number): number;
  /** Whether the point lies outside what was measured. */
  outside(inputVolts: number, outputAmps: number): boolean;
}

const never = () => false;

/**
 * The loss law of a model.
 *
 * efficiency: Iin = Vout·Iout / (η·Vin) + Iq.
 * polynomial: c·Iin² − (Vin − b)·Iin + (Vout·Iout + P0 + a·Iout) = 0, small root, + Iq; without a root
 *   the stage is beyond its power ceiling (Vin − b)²/(4c). Elementary power balance.
 * points: Iin = (Vout·Iout + P(Vin, Iout)) / Vin with the loss interpolated; own draw is in the readings.
 *
 * @param setVolts [V] output the readings were taken at
 */
export function lossLaw(loss: Loss, setVolts: number): LossLaw {
  const iq = loss.quiescentCurrent;
  switch (loss.basis) {
    case 'efficiency': {
      const eta = loss.efficiency;
      return { inputAmps: (vin, vout, iout) => (vout * iout) / (eta * vin) + iq, outside: never };
    }
    case 'polynomial': {
      const { fixed, perOutputAmp, perInputAmp, perInputAmpSquared: c } = loss;
      return {
        inputAmps(vin, vout, iout) {
          const b = vin - perInputAmp;
          const power = vout * iout + fixed + perOutputAmp * iout;
          const disc = b * b - 4 * c * power;
          if (b <= 0 || disc < 0) return Infinity;
          return (2 * power) / (b + Math.sqrt(disc)) + iq;
        },
        outside: never,
      };
    }
    case 'points':
      return pointsLaw(loss, setVolts);
  }
}

function pointsLaw(loss: PointsLoss, setVolts: number): LossLaw {
  const surface = lossSurface(loss.points, setVolts, loss.quiescentCurrent);
  const iq = loss.quiescentCurrent;
  return {
    inputAmps: (vin, vout, iout) => (vout * iout + Math.max(surface.at(vin, iout), vin * iq)) / vin,
    outside: surface.outside,
  };
}
