import { blend } from '../claimedLaw.ts';
import type { Law } from '../law.ts';
import { CAPACITOR, COPPER, CORE, modeIndex, QUIESCENT, RECTIFIER } from '../point.ts';
import type { Bridge } from './bridge.ts';
import { flowOf, Flow } from './flow.ts';
import { addLosses } from './losses.ts';
import { Period, solvePeriod, type Switching } from './period.ts';

const MODE = {
  buck: modeIndex('buck'),
  boost: modeIndex('boost'),
  both: modeIndex('both'),
  simultaneous: modeIndex('both'),
  sepic: modeIndex('regulating'),
} as const;

/**
 * Depth *parts*: duty, currents and losses of the period the stage works in, and Iin = (Pout + ΣP)/Vin + Iq.
 * The answer to the last question is kept, since the solver asks for its room and its losses next.
 */
export class PartsLaw implements Law {
  /** the period asked for last; in the four-switch window the one of all four */
  readonly period = new Period();
  readonly flow = new Flow();
  /** [W] by mechanism, of the point asked for last; without the quiescent draw */
  readonly losses: Float64Array;
  /** [W] their sum */
  private total = 0;
  private readonly edge = new Period();
  private readonly edgeFlow = new Flow();
  private readonly onlyMode: Switching | undefined;
  /** coefficients of the ceiling: u·(Vin + B·Iout) − A·Iout·u² − (G·Vin + C·Iout + V), u = 1/(1 − D) */
  private readonly squared: number;
  private readonly linear: number;
  private readonly fixed: number;
  private readonly less: number;
  private readonly mostU: number;

  constructor(
    readonly bridge: Bridge,
    mechanisms: number,
  ) {
    this.losses = new Float64Array(mechanisms);
    this.onlyMode = bridge.kind === 'buckBoost' ? undefined : bridge.kind;
    const { a, c, d, winding, windings } = bridge;
    this.mostU = 1 / (1 - bridge.mostBoost);
    const first = windings?.first.ohms ?? 0;
    const second = windings?.second.ohms ?? 0;
    this.squared = windings ? c.ohms + first : winding + a.ohms + c.ohms;
    this.linear = windings ? c.ohms + 2 * first - d.ohms : c.ohms - d.ohms;
    this.fixed = windings ? first + second : 0;
    this.less = windings ? 1 : 0;
  }

  ceiling(vin: number, iout: number): number {
    const { bridge } = this;
    const { a, b, d, winding } = bridge;
    if (bridge.kind === 'buck') {
      const off = 1 - bridge.mostBuck;
      const ohms = winding + d.ohms + bridge.mostBuck * a.ohms + off * b.ohms;
      return bridge.mostBuck * vin - off * b.volts - d.volts - iout * ohms;
    }
    const gain = vin + this.linear * iout;
    const best = gain / (2 * this.squared * iout);
    const u = best < this.mostU ? Math.max(1, best) : this.mostU;
    const lost = this.less * vin + this.fixed * iout + d.volts;
    return u * gain - this.squared * iout * u * u - lost;
  }

  /** Which way it switches: a buck-boost between its edges uses all four. */
  switching(vin: number, vout: number, iout: number): Switching {
    if (this.onlyMode) return this.onlyMode;
    if (vin >= this.highEdge(vout, iout)) return 'buck';
    return vin <= this.lowEdge(vout, iout) ? 'boost' : 'both';
  }

  /** [V] below which the boost leg alone does it */
  lowEdge(vout: number, iout: number): number {
    const { a, d, winding, leastBoost } = this.bridge;
    const least = 1 - leastBoost;
    return least * (vout + d.volts) + (iout * (winding + a.ohms + d.ohms)) / least;
  }

  /** [V] above which the buck leg alone does it */
  highEdge(vout: number, iout: number): number {
    const { a, d, winding, mostBuck } = this.bridge;
    return (vout + d.volts + iout * (winding + a.ohms + d.ohms)) / mostBuck;
  }

  inputAmps(vin: number, vout: number, iout: number): number {
    const { bridge, losses, period, flow } = this;
    for (let m = 0; m < losses.length; m++) losses[m] = 0;
    const switching = this.switching(vin, vout, iout);
    let weight = 1;
    if (switching === 'both') {
      const low = this.lowEdge(vout, iout);
      const high = this.highEdge(vout, iout);
      weight = blend(vin, low, high);
      const neighbour = 2 * vin > low + high ? 'buck' : 'boost';
      if (weight < 1 && !this.add(neighbour, this.edge, this.edgeFlow, vin, vout, iout, 1 - weight)) {
        weight = 1;
      }
    }
    if (!this.add(switching, period, flow, vin, vout, iout, weight)) return Infinity;
    let sum = 0;
    for (let m = 0; m < losses.length; m++) sum += losses[m]!;
    this.total = sum;
    return (vout * iout + sum) / vin + bridge.quiescent;
  }

  private add(
    switching: Switching,
    p: Period,
    f: Flow,
    vin: number,
    vout: number,
    iout: number,
    weight: number,
  ): boolean {
    if (!solvePeriod(this.bridge, switching, vin, vout, iout, p)) return false;
    flowOf(this.bridge, p, iout, f);
    addLosses(this.bridge, p, f, vin, vout, this.losses, weight);
    return true;
  }

  room(iin: number): number {
    return iin === Infinity ? -Infinity : this.bridge.peakLimit - this.period.peak;
  }

  /** Diodes, windings and capacitors stand beside the package. */
  heat(vin: number): number {
    const { losses, bridge } = this;
    const outside = bridge.b.diode || bridge.d.diode ? losses[RECTIFIER]! : 0;
    return (
      this.total +
      vin * bridge.quiescent -
      outside -
      losses[COPPER]! -
      losses[CORE]! -
      losses[CAPACITOR]! -
      outside
    );
  }

  mode(): number {
    return MODE[this.period.switching];
  }

  outside(): boolean {
    return false;
  }

  book(vin: number, vout: number, iout: number, iin: number, loss: Float64Array): void {
    void [vout, iout, iin];
    loss.set(this.losses);
    loss[QUIESCENT] = vin * this.bridge.quiescent;
  }
}
