import { floats } from '../numeric/floats.ts';
import type { Law } from './laws/law.ts';
import { MODE } from './modes.ts';

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

/** A stage's answer at one instant; filled anew by each solve. */
export class StagePoint {
  /** [V] */
  inputVolts = 0;
  /** [A] own draw included */
  inputAmps = 0;
  /** [V] */
  outputVolts = 0;
  /** [A] */
  outputAmps = 0;
  /** index into MODES */
  mode = 0;
  /** number of the formula that held: within one of them everything is smooth in the input volts */
  regime = 0;
  /** [W] by mechanism; sums to Vin·Iin − Vout·Iout */
  readonly loss = floats(MECHANISMS.length);
  /** true when a measured table was left on any side */
  extended = false;

  /** Everything but the losses, which start at nothing. */
  set(vin: number, iin: number, vout: number, iout: number, mode: number, regime: number): void {
    this.inputVolts = vin;
    this.inputAmps = iin;
    this.outputVolts = vout;
    this.outputAmps = iout;
    this.mode = mode;
    this.regime = regime;
    this.extended = false;
    const { loss } = this;
    for (let m = 0; m < loss.length; m++) loss[m] = 0;
  }

  /** A stage that delivers nothing and draws `amps` for itself. */
  dead(vin: number, amps: number, mode: number): void {
    this.set(vin, amps, 0, 0, mode, 0);
    this.loss[QUIESCENT] = vin * amps;
  }

  /** A stage whose output has fallen to nothing. */
  collapse(vin: number, amps: number): void {
    this.dead(vin, amps, MODE.collapsed);
  }
}

/** [A] the stage's rail draws at a given output voltage. Continuous while no stage on it changes its state. */
export type Rail = (volts: number) => number;

/**
 * The question every kind answers: at input `volts` (> 0), with `rail` hanging on the output, what is the
 * operating point? Always the highest stable one; where none exists the mode is `collapsed` and the output 0.
 */
export type StageSolver = (volts: number, rail: Rail, out: StagePoint) => void;

/** A stage compiled: its law prepared once. */
export interface StagePlant {
  /** its point before its output filter, where it has one */
  solve: StageSolver;
  /** [Ω] of that filter, between its own output and the rail; 0 where there is none */
  filter: number;
  /** what it does at a given output, for what decides by itself how much to give: a charger */
  law: Law;
  /** [W] in the junction that heats it to its limit; Infinity where it does not fold back */
  mostHeat: number;
  /** [V] inputs at which it bends at an output current [A]: hints for tables, may be incomplete */
  bends(iout: number): number[];
}
