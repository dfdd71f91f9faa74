import { BODY, edges } from './losses.ts';
import type { Bridge, Way } from './bridge.ts';
import { conducts } from './flow.ts';
import type { PartsLaw, PartsPoint } from './partsLaw.ts';
import type { Period, Switching } from './period.ts';
import { rippleVolts, type Pieces } from './ripple.ts';

/** What one switch or diode carries and stands. */
export interface WayStress {
  /** [A] */
  mean: number;
  rms: number;
  /** [A] largest in the period */
  peak: number;
  /** [V] while it blocks; 0 for one that never does */
  volts: number;
  /** [W] conduction and, of a driven switch, its edges */
  watts: number;
}

/** What a winding carries. [A] */
export interface WindingStress {
  mean: number;
  rms: number;
  ripple: number;
  peak: number;
  valley: number;
}

/** What a capacitor carries and shows. */
export interface CapacitorStress {
  /** [A] */
  rms: number;
  /** [V] peak to peak, its series resistance included */
  ripple: number;
  /** [V] mean */
  volts: number;
}

/** Everything a period does to the parts. */
export interface Stress {
  switching: Switching;
  discontinuous: boolean;
  duty: number;
  /** [Hz] */
  frequency: number;
  inductor: WindingStress;
  secondInductor?: WindingStress;
  ways: Record<'a' | 'b' | 'c' | 'd', WayStress>;
  input: CapacitorStress;
  output: CapacitorStress;
  coupling?: CapacitorStress;
  /** [W] by mechanism, the quiescent draw apart */
  losses: Float64Array;
  /** [W] in the package of switches and controller: every loss but those of diodes, windings, core and capacitors */
  heat: number;
  /** [A] */
  inputAmps: number;
  efficiency: number;
  /** shares of the period and currents at their ends, of its phases */
  share: number[];
  current: number[];
}

/**
 * Stress of every part of a stage at one operating point.
 * @param vin [V] @param vout [V] @param iout [A]
 * @returns undefined where no duty carries the load
 */
export function stressOf(law: PartsLaw, vin: number, vout: number, iout: number): Stress | undefined {
  const point = law.at(vin, vout, iout);
  const { inputAmps, period: p, flow: f } = point;
  if (inputAmps === Infinity) return undefined;
  const { bridge } = law;
  const into = vin * inputAmps;
  const stress: Stress = {
    switching: p.switching,
    discontinuous: p.discontinuous,
    duty: p.duty,
    frequency: p.frequency,
    inductor: {
      mean: f.mean,
      rms: Math.sqrt(f.square),
      ripple: p.ripple,
      peak: p.peak,
      valley: p.valley,
    },
    ways: waysOf(bridge, point),
    input: { rms: Math.sqrt(f.squareIn), ripple: 0, volts: vin },
    output: { rms: Math.sqrt(f.squareOut), ripple: 0, volts: vout },
    losses: point.losses.slice(),
    heat: point.heat,
    inputAmps,
    efficiency: into > 0 ? (vout * iout) / into : 0,
    share: Array.from(p.share.subarray(0, p.phases)),
    current: Array.from(p.current.subarray(0, p.phases + 1)),
  };
  const on = conducts(p.switching);
  const out = pieces(p, on.d, f.meanD);
  stress.output.ripple = rippleVolts(out, 1 / p.frequency, bridge.output.farads, bridge.output.ohms);
  let drawn = pieces(p, on.a, f.meanA);
  if (bridge.windings) drawn = splitWindings(bridge, point, stress);
  stress.input.ripple = rippleVolts(drawn, 1 / p.frequency, bridge.input.farads, bridge.input.ohms);
  if (bridge.coupling) {
    const volts = vin - f.mean * bridge.windings!.first.ohms + iout * bridge.windings!.second.ohms;
    // Half the period's charge goes in, half out; its ripple is I2·D/(f·C), to which ESR adds little.
    const ripple = (iout * p.duty) / (p.frequency * bridge.coupling.farads);
    stress.coupling = { rms: Math.sqrt(f.squareCoupling), ripple, volts };
  }
  return stress;
}

/** Capacitor current: the way's current in the phases it conducts, less the mean. */
function pieces(p: Period, mask: number, mean: number): Pieces {
  const made: Pieces = { share: [], from: [], to: [] };
  let live = 0;
  for (let k = 0; k < p.phases; k++) {
    const conducting = (mask >> k) & 1;
    live += p.share[k]!;
    made.share.push(p.share[k]!);
    made.from.push(conducting * p.current[k]! - mean);
    made.to.push(conducting * p.current[k + 1]! - mean);
  }
  made.share.push(1 - live);
  made.from.push(-mean);
  made.to.push(-mean);
  return made;
}

/** A SEPIC's windings, each by itself. @returns what the input capacitor carries */
function splitWindings(bridge: Bridge, { period: p, flow: f, iout }: PartsPoint, stress: Stress): Pieces {
  const { first, second } = bridge.windings!;
  const live = p.share[0]! + p.share[1]!;
  const winding = (mean: number, square: number, henries: number): WindingStress => {
    const ripple = (p.ripple * bridge.inductance) / henries;
    const valley = mean - (ripple * live) / 2;
    return { mean, rms: Math.sqrt(square), ripple, valley, peak: valley + ripple };
  };
  const one = winding(f.mean, f.square, first.henries);
  stress.inductor = one;
  stress.secondInductor = winding(iout, f.square2, second.henries);
  const low = one.valley - one.mean;
  const high = one.peak - one.mean;
  return {
    share: [p.share[0]!, p.share[1]!, 1 - live],
    from: [low, high, low],
    to: [high, low, low],
  };
}

function waysOf(bridge: Bridge, { vin, vout, period: p, flow: f }: PartsPoint): Stress['ways'] {
  const { a, b, c, d } = bridge;
  const step = p.switching !== 'boost' && p.switching !== 'sepic';
  const lift = p.switching !== 'buck';
  const high = vout + d.volts + p.peak * d.ohms + (p.switching === 'sepic' ? vin : 0);
  const way = (w: Way, mean: number, square: number, volts: number, peak: number): WayStress => ({
    mean,
    rms: Math.sqrt(square),
    peak: square > 0 ? peak : 0,
    volts,
    watts: p.burst * ((w.diode ? w.volts * mean : 0) + w.ohms * square),
  });
  const ways = {
    a: way(a, f.meanA, f.squareA, step ? vin : 0, p.peak),
    b: way(b, f.meanB, f.squareB, step ? vin : 0, p.switching === 'both' ? p.current[2]! : p.peak),
    c: way(c, f.meanC, f.squareC, lift ? high : 0, p.current[1]!),
    d: way(d, f.meanD, f.squareD, lift ? high : 0, p.peak),
  };
  const rate = p.burst * p.frequency;
  const i0 = p.current[0]!;
  const dead = (end: number) => rate * bridge.deadTime * BODY * (Math.abs(i0) + Math.abs(end));
  if (step) {
    const end = p.switching === 'both' ? p.current[2]! : p.current[1]!;
    ways.a.watts += rate * edges(a, b, vin + b.volts, i0, end);
    if (!b.diode) ways.b.watts += dead(end);
  }
  if (lift) {
    const volts = vout + d.volts + (p.switching === 'sepic' ? vin : 0);
    ways.c.watts += rate * edges(c, d, volts, i0, p.current[1]!);
    if (!d.diode) ways.d.watts += dead(p.current[1]!);
  }
  return ways;
}
