/** A converter's lossless figures. */
export interface Ideal {
  /** [V] */
  vin: number;
  vout: number;
  /** [V] drop of the rectifier */
  rectifier: number;
  /** [H] [Hz] */
  inductance: number;
  frequency: number;
}

/** Lossless shape of a converter's duty. */
export type Shape = 'buck' | 'boost' | 'simultaneous' | 'sepic';

/** Duty without resistances: buck (Vo+Vf)/(Vi+Vf), boost 1 − Vi/(Vo+Vf), the others (Vo+Vf)/(Vi+Vo+Vf). */
export function idealDuty(shape: Shape, vin: number, vout: number, rectifier = 0): number {
  const out = vout + rectifier;
  if (shape === 'buck') return out / (vin + rectifier);
  return shape === 'boost' ? 1 - vin / out : out / (vin + out);
}

/** [V] across the inductor while it charges, without resistances. */
export function chargingVolts(shape: Shape, vin: number, vout: number): number {
  return shape === 'buck' ? vin - vout : vin;
}

/**
 * [A] output current at the edge of continuous conduction, resistances neglected: half the ripple reaches the
 * output all the time (buck) or for 1 − D of it.
 * Source: Erickson and Maksimović, Fundamentals of Power Electronics, ch. 5 (from memory).
 */
export function boundaryAmps(shape: Shape, { vin, vout, rectifier, inductance, frequency }: Ideal): number {
  const duty = idealDuty(shape, vin, vout, rectifier);
  const half = (chargingVolts(shape, vin, vout) * duty) / (2 * inductance * frequency);
  return shape === 'buck' ? half : half * (1 - duty);
}

/**
 * K = 2·L·f/R below which conduction is discontinuous: buck 1 − D, boost D·(1 − D)², the others (1 − D)².
 * Source: Erickson and Maksimović, Fundamentals of Power Electronics, ch. 5 (from memory).
 */
export function criticalK(shape: Shape, duty: number): number {
  const off = 1 - duty;
  if (shape === 'buck') return off;
  return shape === 'boost' ? duty * off * off : off * off;
}

/**
 * Output over input volts in discontinuous conduction, lossless: buck 2/(1 + √(1 + 4K/D²)), boost
 * (1 + √(1 + 4D²/K))/2, the others D/√K. Source: as above.
 */
export function discontinuousRatio(shape: Shape, duty: number, k: number): number {
  if (shape === 'buck') return 2 / (1 + Math.sqrt(1 + (4 * k) / (duty * duty)));
  return shape === 'boost' ? (1 + Math.sqrt(1 + (4 * duty * duty) / k)) / 2 : duty / Math.sqrt(k);
}
