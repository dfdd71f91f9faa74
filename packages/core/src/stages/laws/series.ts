import { CONDUCTION, HEADROOM, QUIESCENT } from '../point.ts';
import { emptyLawPoint, type Law, type LawPoint } from './law.ts';

/**
 * What passes its current on, less its own draw, and turns the volts between into heat: a linear pass or a plain
 * resistance. Iin = Iout + Iq; it gives Vin − drop − R·Iout at most. Kirchhoff.
 */
export class SeriesLaw implements Law {
  private readonly point = emptyLawPoint();

  /**
   * @param drop [V] @param ohms [Ω] @param quiescent [A]
   * @param regulates whether it can hold less than it gives at most, and so lose headroom rather than conduct
   */
  constructor(
    private readonly drop: number,
    private readonly ohms: number,
    private readonly quiescent: number,
    private readonly mode: number,
    private readonly regulates: boolean,
  ) {}

  at(vin: number, vout: number, iout: number): LawPoint {
    const { point: p } = this;
    p.vin = vin;
    p.vout = vout;
    p.iout = iout;
    p.inputAmps = iout + this.quiescent;
    p.room = Infinity;
    p.heat = (vin - vout) * iout + vin * this.quiescent;
    p.mode = this.mode;
    p.regime = 0;
    return p;
  }

  ceiling(vin: number, iout: number): number {
    return vin - this.drop - this.ohms * iout;
  }

  outside(): boolean {
    return false;
  }

  book({ vin, vout, iout }: LawPoint, loss: Float64Array): void {
    loss[this.regulates ? HEADROOM : CONDUCTION] = (vin - vout) * iout;
    loss[QUIESCENT] = vin * this.quiescent;
  }

  bends(): number[] {
    return [];
  }
}
