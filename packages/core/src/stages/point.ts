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
  'thermalLimit',
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
export const MECHANISMS = [
  'conversion',
  'conduction',
  'rectifier',
  'headroom',
  'both',
  'quiescent',
  'copper',
  'core',
  'overlap',
  'gate',
  'capacitor',
] as const;
export type Mechanism = (typeof MECHANISMS)[number];
export const CONVERSION = 0;
export const CONDUCTION = 1;
export const RECTIFIER = 2;
export const HEADROOM = 3;
export const BOTH = 4;
export const QUIESCENT = 5;
export const COPPER = 6;
export const CORE = 7;
export const OVERLAP = 8;
export const GATE = 9;
export const CAPACITOR = 10;

/**
 * A stage's answer at one instant. Reused from call to call: the solver asks for some ten thousand in a run,
 * so the values live in one typed array and storing them allocates nothing.
 */
export class StagePoint {
  private readonly values = new Float64Array(5);
  /** [W] by mechanism; sums to Vin·Iin − Vout·Iout */
  readonly loss = new Float64Array(MECHANISMS.length);
  /** true when a measured table was left on any side */
  extended = false;

  /** [V] */
  get inputVolts(): number {
    return this.values[0]!;
  }
  set inputVolts(v: number) {
    this.values[0] = v;
  }
  /** [A] own draw included */
  get inputAmps(): number {
    return this.values[1]!;
  }
  set inputAmps(v: number) {
    this.values[1] = v;
  }
  /** [V] */
  get outputVolts(): number {
    return this.values[2]!;
  }
  set outputVolts(v: number) {
    this.values[2] = v;
  }
  /** [A] */
  get outputAmps(): number {
    return this.values[3]!;
  }
  set outputAmps(v: number) {
    this.values[3] = v;
  }
  /** index into MODES */
  get mode(): number {
    return this.values[4]!;
  }
  set mode(v: number) {
    this.values[4] = v;
  }
}

/** A point with nothing in it. */
export function emptyPoint(): StagePoint {
  return new StagePoint();
}

/** [A] the stage's rail draws at a given output voltage. Continuous while no stage on it changes its state. */
export type Rail = (volts: number) => number;

/**
 * The question every kind answers: at input `volts` (> 0), with `rail` hanging on the output, what is the
 * operating point? Always the highest stable one; where none exists the mode is `collapsed` and the output 0.
 */
export type StageSolver = (volts: number, rail: Rail, out: StagePoint) => void;

/** Set every loss to zero; a loop over so few is faster than `fill`. */
export function clearLoss(out: StagePoint): void {
  const { loss } = out;
  for (let m = 0; m < loss.length; m++) loss[m] = 0;
}

/** A stage that delivers nothing and draws `amps` for itself. */
export function deadPoint(out: StagePoint, volts: number, amps: number, mode: number): void {
  out.inputVolts = volts;
  out.inputAmps = amps;
  out.outputVolts = 0;
  out.outputAmps = 0;
  out.mode = mode;
  clearLoss(out);
  out.loss[QUIESCENT] = volts * amps;
}
