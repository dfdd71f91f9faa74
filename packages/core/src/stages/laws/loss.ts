import type { Loss } from '../../model/loss.ts';
import { lossSurface, type LossSurface } from './surface.ts';

/**
 * How a converter's input current follows from its output.
 *
 * efficiency: Iin = Vout·Iout / (η·Vin) + Iq.
 * polynomial: c·Iin² − (Vin − b)·Iin + (Vout·Iout + P0 + a·Iout) = 0, small root, + Iq; without a root
 *   the stage is beyond its power ceiling (Vin − b)²/(4c). Elementary power balance.
 * points: Iin = (Vout·Iout + P(Vin, Iout)) / Vin with the loss interpolated; own draw is in the readings.
 *
 * One class for all three: the solver asks some ten thousand times a run, and a call that always lands in the
 * same code is several times faster than one of many closures.
 */
export class LossLaw {
  private readonly surface: LossSurface | undefined;
  private readonly efficiency: number;
  private readonly fixed: number;
  private readonly perOutputAmp: number;
  private readonly perInputAmp: number;
  private readonly perInputAmpSquared: number;
  private readonly quiescent: number;

  /** @param setVolts [V] output the readings were taken at */
  constructor(loss: Loss, setVolts: number) {
    this.quiescent = loss.quiescentCurrent;
    this.efficiency = loss.basis === 'efficiency' ? loss.efficiency : 0;
    const polynomial = loss.basis === 'polynomial';
    this.fixed = polynomial ? loss.fixed : 0;
    this.perOutputAmp = polynomial ? loss.perOutputAmp : 0;
    this.perInputAmp = polynomial ? loss.perInputAmp : 0;
    this.perInputAmpSquared = polynomial ? loss.perInputAmpSquared : 0;
    this.surface =
      loss.basis === 'points' ? lossSurface(loss.points, setVolts, loss.quiescentCurrent) : undefined;
  }

  /** [A] in for the output given, quiescent current included; Infinity where no input current is enough. */
  inputAmps(vin: number, vout: number, iout: number): number {
    const out = vout * iout;
    if (this.efficiency > 0) return out / (this.efficiency * vin) + this.quiescent;
    if (this.surface) {
      return (out + Math.max(this.surface.at(vin, iout), vin * this.quiescent)) / vin;
    }
    const b = vin - this.perInputAmp;
    const power = out + this.fixed + this.perOutputAmp * iout;
    const disc = b * b - 4 * this.perInputAmpSquared * power;
    if (b <= 0 || disc < 0) return Infinity;
    return (2 * power) / (b + Math.sqrt(disc)) + this.quiescent;
  }

  /** Whether the point lies outside what was measured. */
  outside(vin: number, iout: number): boolean {
    return this.surface !== undefined && this.surface.outside(vin, iout);
  }

  /**
   * [V] input volts at which the law changes its formula at a fixed output: lines of the readings, and where the
   * own draw or the series path takes over. @param least [W] out and what the series path takes
   */
  bends(vout: number, iout: number, least: number): number[] {
    const { surface, quiescent } = this;
    if (!surface) {
      // Constant power in but for the own draw: the path never takes over at one input and gives back at another.
      return [];
    }
    const found = [...surface.volts];
    const out = vout * iout;
    // Between two lines the loss is straight in the input volts: it crosses each rival at most once.
    for (let k = 1; k < surface.volts.length; k++) {
      const [v0, v1] = [surface.volts[k - 1]!, surface.volts[k]!];
      const [p0, p1] = [surface.at(v0, iout), surface.at(v1, iout)];
      const slope = (p1 - p0) / (v1 - v0);
      const fixed = p0 - slope * v0;
      found.push(fixed / (quiescent - slope), (least - out - fixed) / (slope - quiescent));
    }
    const [first, last] = [surface.volts[0]!, surface.volts.at(-1)!];
    for (const v of [first, last]) {
      found.push(surface.at(v, iout) / quiescent, (surface.at(v, iout) + out - least) / quiescent);
    }
    return found;
  }
}
