/**
 * Places of the rows that stand for all of them: of each stretch of as many the lowest and the highest, so that no dip and
 * no peak is lost.
 * @param most how many are kept at most, even @returns rising places, at most so many
 */
export function thinned(volts: ArrayLike<number>, most: number): number[] {
  const n = volts.length;
  if (n <= most) return Array.from({ length: n }, (_, k) => k);
  const stretches = most / 2;
  const kept: number[] = [];
  for (let b = 0; b < stretches; b++) {
    const [from, to] = [Math.floor((b * n) / stretches), Math.floor(((b + 1) * n) / stretches)];
    let [low, high] = [from, from];
    for (let k = from; k < to; k++) {
      if (volts[k]! < volts[low]!) low = k;
      if (volts[k]! > volts[high]!) high = k;
    }
    kept.push(...(low === high ? [low] : [Math.min(low, high), Math.max(low, high)]));
  }
  return kept;
}

/** [s] [V] [A] */
export type RecordedRow = [seconds: number, volts: number, amps: number];

/**
 * Rows as they come, for as long as they come, in bounded room: whenever there are twice as many as it keeps, the lowest and
 * the highest of each stretch stay.
 */
export class ThinnedRows {
  /** what stands for all of them; its last is the newest */
  rows: RecordedRow[] = [];
  /** how many there have been */
  count = 0;

  /** @param most how many are kept at least once there are so many, even */
  constructor(private readonly most: number) {}

  push(row: RecordedRow): void {
    this.count++;
    this.rows.push(row);
    if (this.rows.length < 2 * this.most) return;
    const kept = thinned(
      this.rows.map((r) => r[1]),
      this.most,
    );
    // The newest stays too: a reader looks at it.
    if (kept.at(-1) !== this.rows.length - 1) kept.push(this.rows.length - 1);
    this.rows = kept.map((k) => this.rows[k]!);
  }
}
