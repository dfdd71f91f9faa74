/** What a chart is made of: something that can be asked at any voltage, at a price. */
export interface Sampled {
  /** whether a jump of it is bridged: where no side of it can be held, one hunts between them */
  readonly bridged: boolean;
  /** numbers in a row; the first is the power, which moves most */
  readonly columns: number;
  /** how many of them are asked alone, time and again */
  readonly leading: number;
  /** [W] below which the power's own size says nothing of how exact it must be: where what is fed cancels what is drawn */
  readonly scale?: number;
  /** relative width below which a stretch is not cut shorter, where it is not the usual one */
  readonly narrowest?: number;
  /** Fill a row at `volts`, and the two below for it. */
  sample(volts: number, row: Float64Array): void;
  /** The two below alone. */
  look(volts: number): void;
  /** state at the sample taken last: first what an event is, then what merely bends */
  readonly signature: Int32Array;
  /** how many of its numbers are events */
  readonly events: number;
  /** of each stage, whether it left its measured table */
  readonly extended: Uint8Array;
  /**
   * How far, at the sample taken last, an entry of the signature is from leaving a value it had: positive while it has
   * it, falling through zero where it changes. NaN where that is not known.
   */
  distance(entry: number, value: number): number;
  /** [V] where it is known to bend, rising */
  bends(): readonly number[];
}
