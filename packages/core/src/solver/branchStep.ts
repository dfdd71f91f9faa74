/**
 * One resistor-capacitor branch over a step of h seconds at constant current, solved exactly:
 * v(t) = I·R + (v0 − I·R)·exp(−t/τ), τ = R·C. Elementary.
 */
export interface BranchStep {
  /** [Ω] */
  ohms: number;
  /** [F] */
  farads: number;
  /** [V] at the start */
  v0: number;
  /** exp(−h/τ) */
  decay: number;
  /** mean of exp(−t/τ) over the step */
  mean: number;
}

/** Prepare a step. @param h [s] ≥ 0 */
export function prepareBranch(step: BranchStep, ohms: number, farads: number, v0: number, h: number): void {
  const x = ohms > 0 ? h / (ohms * farads) : Infinity;
  step.ohms = ohms;
  step.farads = farads;
  step.v0 = v0;
  step.decay = Math.exp(-x);
  // Series below 1e-5, where (1 − e^−x)/x loses digits; error x³/24.
  step.mean = x < 1e-5 ? 1 - x / 2 + (x * x) / 6 : -Math.expm1(-x) / x;
}

/** [V] at the end of the step. */
export function branchEnd(s: BranchStep, amps: number): number {
  const steady = amps * s.ohms;
  return steady + (s.v0 - steady) * s.decay;
}

/** [J] turned to heat in the branch: ∫ v²/R dt. */
export function branchHeat(s: BranchStep, amps: number, h: number): number {
  if (s.ohms === 0) return 0;
  const steady = amps * s.ohms;
  const start = s.v0 - steady;
  // mean of exp(−2t/τ) = mean·(1 + decay)/2
  const squares = (s.mean * (1 + s.decay)) / 2;
  return ((steady * steady + 2 * steady * start * s.mean + start * start * squares) / s.ohms) * h;
}

/** [J] put into the branch's capacitance over the step. */
export function branchStored(s: BranchStep, amps: number): number {
  const end = branchEnd(s, amps);
  return s.ohms === 0 ? 0 : (s.farads / 2) * (end * end - s.v0 * s.v0);
}
