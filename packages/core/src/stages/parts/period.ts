import type { Bridge } from './bridge.ts';

/** Ways a bridge can be switched. `both`: S3 at its least duty, S1 modulated; `simultaneous`: S1 with S3. */
export type Switching = 'buck' | 'boost' | 'both' | 'simultaneous' | 'sepic';

/**
 * One switching period in its steady state. Current runs straight from `current[k]` to `current[k + 1]` in phase
 * k, which takes `share[k]` of the period; the rest of the period it is zero.
 */
export class Period {
  switching: Switching = 'buck';
  /** phases used: 2, or 3 in `both` */
  phases = 2;
  readonly share = new Float64Array(3);
  /** [A] in the inductor; the sum of both inductors' in a SEPIC */
  readonly current = new Float64Array(4);
  /** share of the period the driven switch is on: c in `boost`, `simultaneous`, `sepic`; a in `buck` and `both` */
  duty = 0;
  /** [Hz] below the set one in `pulses` */
  frequency = 0;
  discontinuous = false;
  /** [A] peak to peak */
  ripple = 0;
  /** [A] */
  peak = 0;
  valley = 0;
  /** share of the time it switches at all: below 1 where `both` works in bursts at light load */
  burst = 1;
}

/**
 * Solve a period: duty, phases, currents.
 *
 * Small-ripple averaging: the inductor's volts are taken at its mean current, D·(u₁ − r₁I) = D′·(u₂ + r₂I), with
 * I = Iout for a buck and Iout/D′ otherwise. Where the rectifier alone feeds the output, its capacitor's resistance
 * carries what comes above the mean: while it conducts the rail stands ESR·(I − Iout) higher. Discontinuous where ripple/2 > I and the rectifier blocks, then with
 * drops at half the peak. Of two duties the one with the smaller current is taken.
 * Source: Erickson and Maksimović, Fundamentals of Power Electronics, ch. 2, 3, 5 (from memory); `both` own derivation.
 *
 * @param vin [V] > 0 @param vout [V] > 0 @param iout [A] ≥ 0
 * @returns false when no duty carries the load: beyond the stage's power ceiling
 */
export function solvePeriod(
  bridge: Bridge,
  switching: Switching,
  vin: number,
  vout: number,
  iout: number,
  p: Period,
): boolean {
  p.switching = switching;
  p.frequency = bridge.frequency;
  p.burst = 1;
  if (switching === 'both') return solveBoth(bridge, vin, vout, iout, p);
  p.phases = 2;
  const { a, b, c, d, winding } = bridge;
  if (switching === 'buck') {
    const u1 = vin - vout - d.volts;
    const u2 = vout + d.volts + b.volts;
    return solveBuck(bridge, u1, winding + a.ohms + d.ohms, u2, winding + b.ohms + d.ohms, iout, p);
  }
  if (switching === 'sepic') return solveSepic(bridge, vin, vout + d.volts, iout, p);
  const boost = switching === 'boost';
  const esr = bridge.output.ohms;
  const u2 = vout + d.volts + (boost ? -vin : b.volts) - esr * iout;
  const r2 = winding + d.ohms + (boost ? a.ohms : b.ohms) + esr;
  const r1 = winding + a.ohms + c.ohms;
  // (u1 + u2)·x² − (u1 + (r1 − r2)·Iout)·x + r1·Iout = 0 for x = 1 − D; the larger root carries less current.
  const x = largerRoot(vin + u2, vin + (r1 - r2) * iout, r1 * iout);
  if (!(x > 0)) return false;
  finishFlyback(bridge, Math.min(1, x), vin, r1, u2, r2, iout, p);
  return true;
}

/** Larger root of a·x² − b·x + c = 0; NaN when there is none. */
function largerRoot(a: number, b: number, c: number): number {
  return (b + Math.sqrt(b * b - 4 * a * c)) / (2 * a);
}

function solveBuck(
  bridge: Bridge,
  u1: number,
  r1: number,
  u2: number,
  r2: number,
  iout: number,
  p: Period,
): boolean {
  const duty = (u2 + r2 * iout) / (u1 + u2 + (r2 - r1) * iout);
  if (!(duty >= 0) || duty > 1.0000001) return false;
  const charging = u1 - r1 * iout;
  p.frequency = skipped(bridge, duty);
  const ripple = (charging * duty) / (bridge.inductance * p.frequency);
  const lf = bridge.inductance * bridge.frequency;
  if (bridge.light === 'forced' || ripple <= 2 * iout) {
    continuous(p, duty, ripple, iout);
    return true;
  }
  // Iout = ½·ipk²·L·f·(1/V1 + 1/V2), both volts at half the peak: Newton from the lossless peak.
  let peak = Math.sqrt((2 * iout) / (lf * (1 / u1 + 1 / u2)));
  for (let k = 0; k < 4 && peak > 0; k++) {
    const v1 = u1 - (r1 * peak) / 2;
    const v2 = u2 + (r2 * peak) / 2;
    const sum = 1 / v1 + 1 / v2;
    const off = (peak * peak * lf * sum) / 2 - iout;
    const slope = lf * (peak * sum + (peak * peak * (r1 / (v1 * v1) - r2 / (v2 * v2))) / 4);
    peak -= off / slope;
  }
  const least = pulsePeak(bridge, ripple, charging);
  if (peak < least) {
    const v1 = u1 - (r1 * least) / 2;
    const v2 = u2 + (r2 * least) / 2;
    const frequency = (2 * iout) / (least * least * bridge.inductance * (1 / v1 + 1 / v2));
    discontinuous(bridge, p, frequency, least, v1, v2);
  } else discontinuous(bridge, p, bridge.frequency, peak, u1 - (r1 * peak) / 2, u2 + (r2 * peak) / 2);
  return true;
}

/** Stages that charge the inductor in one phase and give it to the output in the other. */
function finishFlyback(
  bridge: Bridge,
  x: number,
  u1: number,
  r1: number,
  u2: number,
  r2: number,
  iout: number,
  p: Period,
): void {
  const mean = iout / x;
  const charging = u1 - r1 * mean;
  p.frequency = skipped(bridge, 1 - x);
  const ripple = (charging * (1 - x)) / (bridge.inductance * p.frequency);
  const lf = bridge.inductance * bridge.frequency;
  if (bridge.light === 'forced' || ripple <= 2 * mean || !(u2 > 0)) {
    continuous(p, 1 - x, ripple, mean);
    return;
  }
  // Iout = ½·ipk·d₂ with d₂ = ipk·L·f/(u2 + r2·ipk/2): ipk² − (r2·Iout/(L·f))·ipk − 2·Iout·u2/(L·f) = 0.
  const half = (r2 * iout) / (2 * lf);
  const peak = half + Math.sqrt(half * half + (2 * iout * u2) / lf);
  const least = pulsePeak(bridge, ripple, charging);
  if (peak < least) {
    const v2 = u2 + (r2 * least) / 2;
    const frequency = (2 * iout * v2) / (least * least * bridge.inductance);
    discontinuous(bridge, p, frequency, least, u1 - (r1 * least) / 2, v2);
  } else discontinuous(bridge, p, bridge.frequency, peak, u1 - (r1 * peak) / 2, u2 + (r2 * peak) / 2);
}

/**
 * SEPIC: I1 = Iout·D/D′, I2 = Iout, coupling capacitor at Vin − I1·R1 + I2·R2. Volt-second balance of the second
 * inductor is a quadratic in x = 1 − D.
 */
function solveSepic(bridge: Bridge, vin: number, u: number, iout: number, p: Period): boolean {
  const { first, second } = bridge.windings!;
  const on = bridge.c.ohms;
  const esr = bridge.output.ohms;
  const off = bridge.d.ohms + esr;
  const x = largerRoot(
    vin + u + iout * (first.ohms + second.ohms - esr),
    vin + iout * (on + 2 * first.ohms - off),
    iout * (on + first.ohms),
  );
  if (!(x > 0 && x <= 1)) return false;
  const sum = iout / x;
  const i1 = sum * (1 - x);
  // In both phases the windings' drops are those of their own means; what is left depends on the sum alone.
  const u1 = vin - i1 * first.ohms;
  finishFlyback(bridge, x, u1, on, u + iout * (second.ohms - esr), off, iout, p);
  return true;
}

/**
 * Three states: a+c for dC, a+d, b+d. The mean while d conducts is Iout/(1 − dC); dA from volt-second balance at
 * that current. In bursts where the valley would fall below zero and the controller does not force it.
 */
function solveBoth(bridge: Bridge, vin: number, vout: number, iout: number, p: Period): boolean {
  const { a, b, c, d, winding, leastBoost: dc } = bridge;
  p.phases = 3;
  const lf = bridge.inductance * bridge.frequency;
  const at = (amps: number): number => {
    const mean = amps / (1 - dc);
    const out = (1 - dc) * (vout + d.volts);
    const drop = mean * (winding + b.ohms + dc * c.ohms + (1 - dc) * d.ohms);
    const da = (out + b.volts + drop) / (vin + b.volts - mean * (a.ohms - b.ohms));
    const t2 = da - dc;
    const t3 = 1 - da;
    const v1 = vin - mean * (winding + a.ohms + c.ohms);
    const s1 = (v1 * dc) / lf;
    const s2 = ((vin - vout - d.volts - mean * (winding + a.ohms + d.ohms)) * t2) / lf;
    // (start + s1 + s2/2)·t2 + (start + (s1 + s2)/2)·t3 = mean·(t2 + t3)
    const start = mean - ((s1 + s2 / 2) * t2 + ((s1 + s2) / 2) * t3) / (1 - dc);
    p.duty = da;
    p.share[0] = dc;
    p.share[1] = t2;
    p.share[2] = t3;
    p.current[0] = p.current[3] = start;
    p.current[1] = start + s1;
    p.current[2] = start + s1 + s2;
    return start;
  };
  const valley = at(iout);
  if (!(p.share[1]! >= 0 && p.share[2]! >= 0)) return false;
  if (valley < 0 && bridge.light !== 'forced') {
    // The valley falls as Iout/(1 − dC): it touches zero here, and the stage works there for a share of the time.
    const least = iout - Math.min(valley, p.current[2]!) * (1 - dc);
    at(least);
    p.burst = iout / least;
  }
  p.discontinuous = p.burst < 1;
  const i0 = p.current[0]!;
  const i1 = p.current[1]!;
  const i2 = p.current[2]!;
  p.peak = Math.max(i0, i1, i2);
  p.valley = Math.min(i0, i1, i2);
  p.ripple = p.peak - p.valley;
  return true;
}

/** [Hz] at which a continuous period with this duty still has its shortest on-time. */
function skipped(bridge: Bridge, duty: number): number {
  return bridge.minOn * bridge.frequency > duty && duty > 0 ? duty / bridge.minOn : bridge.frequency;
}

/**
 * [A] least peak a pulse has: what the shortest on-time gives, and in `pulses` what the controller waits for. Never
 * above the ripple at the edge of continuous conduction: the loss stays continuous there.
 */
function pulsePeak(bridge: Bridge, ripple: number, charging: number): number {
  const shortest = (charging * bridge.minOn) / bridge.inductance;
  return Math.min(ripple, bridge.light === 'pulses' ? Math.max(shortest, bridge.pulsePeak) : shortest);
}

function continuous(p: Period, duty: number, ripple: number, mean: number): void {
  p.discontinuous = false;
  p.duty = duty;
  p.share[0] = duty;
  p.share[1] = 1 - duty;
  p.share[2] = 0;
  p.ripple = ripple;
  p.valley = mean - ripple / 2;
  p.peak = mean + ripple / 2;
  p.current[0] = p.current[2] = p.valley;
  p.current[1] = p.peak;
}

function discontinuous(
  bridge: Bridge,
  p: Period,
  frequency: number,
  peak: number,
  v1: number,
  v2: number,
): void {
  const lf = bridge.inductance * frequency;
  p.discontinuous = true;
  p.frequency = frequency;
  p.duty = p.share[0] = (peak * lf) / v1;
  p.share[1] = (peak * lf) / v2;
  p.share[2] = 0;
  p.ripple = p.peak = peak;
  p.valley = 0;
  p.current[0] = p.current[2] = 0;
  p.current[1] = peak;
}
