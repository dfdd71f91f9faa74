/**
 * What a switching stage does at a given output, whatever the depth: the solver asks this, and decides from the
 * answers whether the stage regulates, drops out, passes through or folds back.
 */
export interface Law {
  /** [A] in for the output given, own draw included; Infinity where no input current is enough */
  inputAmps(vin: number, vout: number, iout: number): number;
  /** [V] most it can give at maximum duty */
  ceiling(vin: number, iout: number): number;
  /** [A] to its input or switch limit; negative beyond. Of the point `inputAmps` was asked for last. */
  room(iin: number): number;
  /** [W] that heat the junction. Of the point `inputAmps` was asked for last. */
  heat(vin: number, vout: number, iout: number, iin: number): number;
  /** index into MODES while regulating */
  mode(vin: number, iout: number): number;
  /** whether the point lies outside what was measured */
  outside(vin: number, iout: number): boolean;
  /** Put the losses of a point, cleared before, where they belong; they sum to Vin·Iin − Vout·Iout. */
  book(vin: number, vout: number, iout: number, iin: number, loss: Float64Array): void;
}
