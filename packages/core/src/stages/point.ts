/** Ways a stage can be working. The index is what the solver stores. */
export const MODES = [
  'unfed',
  'direct',
  'regulating',
  'buck',
  'boost',
  'both',
  'passThrough',
  'dropout',
  'currentLimit',
  'lockedOut',
  'overInput',
  'collapsed',
] as const;
export type Mode = (typeof MODES)[number];

/** Index of a mode in MODES. */
export function modeIndex(mode: Mode): number {
  return MODES.indexOf(mode);
}

/** Where a stage's loss goes. The index is its place in `StagePoint.loss`. */
export const MECHANISMS = ['conversion', 'conduction', 'rectifier', 'headroom', 'both', 'quiescent'] as const;
export type Mechanism = (typeof MECHANISMS)[number];
export const CONVERSION = 0;
export const CONDUCTION = 1;
export const RECTIFIER = 2;
export const HEADROOM = 3;
export const BOTH = 4;
export const QUIESCENT = 5;

/** A stage's answer at one instant. Reused from call to call: the solver runs millions of these. */
export interface StagePoint {
  /** [V] */
  inputVolts: number;
  /** [A] own draw included */
  inputAmps: number;
  /** [V] */
  outputVolts: number;
  /** [A] */
  outputAmps: number;
  /** index into MODES */
  mode: number;
  /** true when a measured table was left on any side */
  extended: boolean;
  /** [W] by mechanism; sums to Vin·Iin − Vout·Iout */
  loss: Float64Array;
}

export function emptyPoint(): StagePoint {
  const loss = new Float64Array(MECHANISMS.length);
  return { inputVolts: 0, inputAmps: 0, outputVolts: 0, outputAmps: 0, mode: 0, extended: false, loss };
}

/** [A] the stage's rail draws at a given output voltage. Continuous while no stage on it changes its state. */
export type Rail = (volts: number) => number;

/**
 * The question every kind answers: at input `volts` (> 0), with `rail` hanging on the output, what is the
 * operating point? Always the highest stable one; where none exists the mode is `collapsed` and the output 0.
 */
export type StageSolver = (volts: number, rail: Rail, out: StagePoint) => void;

/** A stage that delivers nothing and draws `amps` for itself. */
export function deadPoint(out: StagePoint, volts: number, amps: number, mode: number): void {
  out.inputVolts = volts;
  out.inputAmps = amps;
  out.outputVolts = 0;
  out.outputAmps = 0;
  out.mode = mode;
  out.loss.fill(0);
  out.loss[QUIESCENT] = volts * amps;
}
