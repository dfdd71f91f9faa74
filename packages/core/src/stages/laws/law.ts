/**
 * What a switching stage does at a given output, whatever the depth: the solver asks this, and decides from the
 * answers whether the stage regulates, drops out, passes through or folds back.
 */
export interface Law {
  /** The point at this input and output. One object, filled anew by each question. */
  at(vin: number, vout: number, iout: number): LawPoint;
  /** [V] most it can give at maximum duty */
  ceiling(vin: number, iout: number): number;
  /** whether the point lies outside what was measured */
  outside(vin: number, iout: number): boolean;
  /** Put the losses of a point, cleared before, where they belong; they sum to Vin·Iin − Vout·Iout. */
  book(point: LawPoint, loss: Float64Array): void;
  /** [V] inputs at which its formulas change, with its output regulated; a hint for tables, may be incomplete */
  bends(vout: number, iout: number): number[];
}

/** One operating point of a law. */
export interface LawPoint {
  /** [V] [V] [A] as asked */
  vin: number;
  vout: number;
  iout: number;
  /** [A] in, own draw included; Infinity where no input current is enough */
  inputAmps: number;
  /** [A] to its input or switch limit; negative beyond */
  room: number;
  /** [W] that heat the junction */
  heat: number;
  /** index into MODES while regulating */
  mode: number;
  /** number of the formula that held */
  regime: number;
}

/** A point with nothing in it. */
export function emptyLawPoint(): LawPoint {
  return { vin: 0, vout: 0, iout: 0, inputAmps: 0, room: 0, heat: 0, mode: 0, regime: 0 };
}
