import { MODE } from '../modes.ts';
import { blend } from '../laws/claimed.ts';
import { emptyLawPoint, type Law, type LawPoint } from '../laws/law.ts';
import { CAPACITOR, COPPER, CORE, MECHANISMS, QUIESCENT } from '../point.ts';
import type { Bridge } from './bridge.ts';
import { flowOf, Flow } from './flow.ts';
import { addLosses } from './losses.ts';
import { Period, solvePeriod, type Switching } from './period.ts';

const MODE_OF = {
  buck: MODE.buck,
  boost: MODE.boost,
  both: MODE.both,
  simultaneous: MODE.both,
  sepic: MODE.regulating,
} as const;

/** Regimes: the way of switching, the part of the four-switch blend, and how the period runs. */
const REGIME_OF = { buck: 0, boost: 1, both: 2, simultaneous: 3, sepic: 4 } as const;

/** A point of a stage with parts: with its period, the currents of its ways and its losses by mechanism. */
export interface PartsPoint extends LawPoint {
  /** in the four-switch window the one of all four */
  readonly period: Period;
  readonly flow: Flow;
  /** [W] by mechanism, without the quiescent draw */
  readonly losses: Float64Array;
}

/** Depth *parts*: duty, currents and losses of the period the stage works in, and Iin = (Pout + ΣP)/Vin + Iq. */
export class PartsLaw implements Law {
  private readonly point: PartsPoint = {
    ...emptyLawPoint(),
    period: new Period(),
    flow: new Flow(),
    losses: new Float64Array(MECHANISMS.length),
  };
  private readonly edge = new Period();
  private readonly edgeFlow = new Flow();
  private readonly only: Switching | undefined;
  /** [W] in the diodes, of the point under way */
  private diodes = 0;
  /** coefficients of the ceiling: u·(Vin + B·Iout) − A·Iout·u² − (G·Vin + C·Iout + V), u = 1/(1 − D) */
  private readonly squared: number;
  private readonly linear: number;
  private readonly fixed: number;
  private readonly less: number;
  private readonly mostU: number;

  constructor(readonly bridge: Bridge) {
    this.only = bridge.shape === 'four' ? undefined : bridge.shape;
    const { a, c, d, winding, windings, output } = bridge;
    this.mostU = 1 / (1 - bridge.mostBoost);
    const first = windings?.first.ohms ?? 0;
    const second = windings?.second.ohms ?? 0;
    // The output capacitor's resistance carries what the rectifier gives above the mean.
    this.squared = windings ? c.ohms + first : winding + a.ohms + c.ohms;
    this.linear = (windings ? c.ohms + 2 * first - d.ohms : c.ohms - d.ohms) - output.ohms;
    this.fixed = (windings ? first + second : 0) - output.ohms;
    this.less = windings ? 1 : 0;
  }

  ceiling(vin: number, iout: number): number {
    const { bridge } = this;
    const { a, b, d, winding } = bridge;
    if (bridge.shape === 'buck') {
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

  /** [V] least input of a buck that holds `vout`: its ceiling solved for the input. */
  private buckInput(vout: number, iout: number): number {
    return (vout - this.ceiling(0, iout)) / this.bridge.mostBuck;
  }

  /** Which way it switches: a buck-boost between its edges uses all four. */
  switching(vin: number, vout: number, iout: number): Switching {
    if (this.only) return this.only;
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

  at(vin: number, vout: number, iout: number): PartsPoint {
    const { bridge, point } = this;
    const { losses, period } = point;
    for (let m = 0; m < losses.length; m++) losses[m] = 0;
    this.diodes = 0;
    point.vin = vin;
    point.vout = vout;
    point.iout = iout;
    const switching = this.switching(vin, vout, iout);
    let weight = 1;
    let part = 0;
    if (switching === 'both') {
      const low = this.lowEdge(vout, iout);
      const high = this.highEdge(vout, iout);
      weight = blend(vin, low, high);
      const upper = 2 * vin > low + high;
      part = weight < 1 ? (upper ? 1 : 2) : 3;
      if (weight < 1 && !this.add(upper ? 'buck' : 'boost', this.edge, this.edgeFlow, 1 - weight)) {
        weight = 1;
      }
    }
    if (!this.add(switching, period, point.flow, weight)) {
      point.inputAmps = Infinity;
      point.room = -Infinity;
      point.heat = Infinity;
      return point;
    }
    let sum = 0;
    for (let m = 0; m < losses.length; m++) sum += losses[m]!;
    point.inputAmps = (vout * iout + sum) / vin + bridge.quiescent;
    point.room = bridge.peakLimit - period.peak;
    // Diodes, windings and capacitors stand beside the package.
    point.heat =
      sum + vin * bridge.quiescent - this.diodes - losses[COPPER]! - losses[CORE]! - losses[CAPACITOR]!;
    point.mode = MODE_OF[period.switching];
    point.regime = 1024 * REGIME_OF[switching] + 256 * part + regimeOf(period, bridge);
    if (part === 1 || part === 2) point.regime += 8192 * regimeOf(this.edge, bridge);
    return point;
  }

  private add(switching: Switching, p: Period, f: Flow, weight: number): boolean {
    const { vin, vout, iout, losses } = this.point;
    if (!solvePeriod(this.bridge, switching, vin, vout, iout, p)) return false;
    // Behind resistances beyond all sense a pulse never reaches its peak, or rises where it should fall: no period.
    if (p.frequency < 0 || p.duty < 0) return false;
    flowOf(this.bridge, p, iout, f);
    this.diodes += addLosses(this.bridge, p, f, vin, vout, losses, weight);
    return true;
  }

  outside(): boolean {
    return false;
  }

  book({ vin }: LawPoint, loss: Float64Array): void {
    loss.set(this.point.losses);
    loss[QUIESCENT] = vin * this.bridge.quiescent;
  }

  bends(vout: number, iout: number): number[] {
    if (this.bridge.shape === 'buck') return [this.buckInput(vout, iout)];
    if (this.bridge.shape !== 'four') return [];
    const low = this.lowEdge(vout, iout);
    const fifth = (this.highEdge(vout, iout) - low) / 5;
    return fifth > 0 ? [low, low + fifth, low + 4 * fifth, low + 5 * fifth] : [];
  }
}

/**
 * How a period runs: through, in pulses, with pulses skipped, with currents below zero; with three phases also which of
 * its currents is the largest and which the smallest.
 */
function regimeOf(p: Period, bridge: Bridge): number {
  const [i0, i1, i2] = [p.current[0]!, p.current[1]!, p.current[2]!];
  const slower = p.frequency < bridge.frequency ? 2 : 0;
  const signs = (i0 < 0 ? 4 : 0) + (i1 < 0 ? 8 : 0) + (i2 < 0 ? 16 : 0);
  const order = p.phases === 3 ? 32 * ((i2 > i1 ? 1 : 0) + (i2 < i0 ? 2 : 0)) : 0;
  return (p.discontinuous ? 1 : 0) + slower + signs + order;
}
