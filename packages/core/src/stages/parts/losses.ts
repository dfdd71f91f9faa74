import { CAPACITOR, CONDUCTION, COPPER, CORE, GATE, OVERLAP, RECTIFIER } from '../point.ts';
import { corePower, type Bridge, type Way } from './bridge.ts';
import type { Flow } from './flow.ts';
import type { Period } from './period.ts';

/** [V] drop of a body diode during dead time. Common practice, no source. */
export const BODY = 0.8;

/**
 * Losses of a period, added to `loss` by mechanism [W], each times `weight`.
 *
 * Conduction from RMS currents; rectifier Vf·Iavg + R·Irms² and dead time 2·Vbody·I·td·f; overlap
 * ½·V·(Ion·ton + Ioff·toff)·f and ½·Coss·V²·f; gate Q·Vdrive·f; core by its exponents; capacitors ESR·Irms².
 * Source: Erickson and Maksimović, Fundamentals of Power Electronics, ch. 3 and 4 (from memory).
 * @returns [W] of it that diodes turn to heat: they stand beside the package
 */
export function addLosses(
  bridge: Bridge,
  p: Period,
  f: Flow,
  vin: number,
  vout: number,
  loss: Float64Array,
  weight: number,
): number {
  const { a, b, c, d } = bridge;
  const w = weight * p.burst;
  const step = p.switching !== 'boost' && p.switching !== 'sepic';
  const lift = p.switching !== 'buck';
  const wf = w * p.frequency;
  let channel = 0;
  let rectifier = 0;
  if (a.diode) rectifier += a.volts * f.meanA + a.ohms * f.squareA;
  else channel += a.ohms * f.squareA;
  if (b.diode) rectifier += b.volts * f.meanB + b.ohms * f.squareB;
  else channel += b.ohms * f.squareB;
  channel += c.ohms * f.squareC;
  if (d.diode) rectifier += d.volts * f.meanD + d.ohms * f.squareD;
  else channel += d.ohms * f.squareD;
  loss[CONDUCTION]! += w * channel;
  loss[RECTIFIER]! += w * rectifier;
  const diodes = w * rectifier;
  const copper = bridge.windings
    ? bridge.windings.first.ohms * f.square + bridge.windings.second.ohms * f.square2
    : bridge.winding * f.square;
  loss[COPPER]! += w * copper;
  const coupling = bridge.coupling ? bridge.coupling.ohms * f.squareCoupling : 0;
  loss[CAPACITOR]! += w * (bridge.input.ohms * f.squareIn + bridge.output.ohms * f.squareOut + coupling);
  if (bridge.core > 0) {
    loss[CORE]! += w * bridge.core * (p.frequency / bridge.frequency) * corePower(p.ripple);
  }
  const i0 = p.current[0]!;
  if (step) {
    const end = p.switching === 'both' ? p.current[2]! : p.current[1]!;
    loss[OVERLAP]! += wf * edges(a, b, vin + b.volts, i0, end);
    loss[GATE]! += wf * bridge.drive * (a.gate + b.gate);
    if (!b.diode) loss[RECTIFIER]! += wf * bridge.deadTime * BODY * (Math.abs(i0) + Math.abs(end));
  }
  if (lift) {
    const volts = vout + d.volts + (p.switching === 'sepic' ? vin : 0);
    const end = p.current[1]!;
    loss[OVERLAP]! += wf * edges(c, d, volts, i0, end);
    loss[GATE]! += wf * bridge.drive * (c.gate + d.gate);
    if (!d.diode) loss[RECTIFIER]! += wf * bridge.deadTime * BODY * (Math.abs(i0) + Math.abs(end));
  }
  return diodes;
}

/** [J] lost in one turn-on and one turn-off of a leg: the driven switch `main` against `other`. */
export function edges(main: Way, other: Way, volts: number, on: number, off: number): number {
  const overlap = 0.5 * volts * (Math.max(0, on) * main.on + Math.max(0, off) * main.off);
  return overlap + 0.5 * (main.capacitance + other.capacitance) * volts * volts;
}
