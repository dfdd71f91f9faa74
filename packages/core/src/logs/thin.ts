/**
 * Places of the rows that stand for all of them: the first and the last, and of each stretch of as many the lowest and the
 * highest, so that no dip and no peak is lost.
 * @param most how many are kept at most, even, 4 or more @returns rising places, at most so many
 */
export function thinned(volts: ArrayLike<number>, most: number): number[] {
  const n = volts.length;
  if (n <= most) return Array.from({ length: n }, (_, k) => k);
  const stretches = most / 2 - 1;
  const kept = new Set([0]);
  for (let b = 0; b < stretches; b++) {
    const [from, to] = [Math.floor((b * n) / stretches), Math.floor(((b + 1) * n) / stretches)];
    let [low, high] = [from, from];
    for (let k = from; k < to; k++) {
      if (volts[k]! < volts[low]!) low = k;
      if (volts[k]! > volts[high]!) high = k;
    }
    kept.add(Math.min(low, high)).add(Math.max(low, high));
  }
  return [...kept.add(n - 1)];
}

/** [s] [V] [A] */
export type RecordedRow = [seconds: number, volts: number, amps: number];

/**
 * Rows as they come, for as long as they come, in bounded room: the lowest and the highest of each stretch of equally many
 * rows. Whenever there are too many stretches two become one.
 */
export class ThinnedRows {
  /** how many there have been */
  count = 0;
  private stretches: { low: RecordedRow; high: RecordedRow }[] = [];
  private size = 1;
  /** rows in the last stretch */
  private filled = 0;
  private newest: RecordedRow | undefined;
  private told: { count: number; rows: RecordedRow[] } = { count: 0, rows: [] };

  /** @param most how many stand for all at most, even, the newest besides */
  constructor(private readonly most: number) {}

  push(row: RecordedRow): void {
    this.count++;
    this.newest = row;
    const last = this.stretches.at(-1);
    if (!last || this.filled === this.size) {
      if (this.stretches.length >= 2 * Math.floor(this.most / 4)) this.halve();
      this.stretches.push({ low: row, high: row });
      this.filled = 1;
      return;
    }
    if (row[1] < last.low[1]) last.low = row;
    if (row[1] > last.high[1]) last.high = row;
    this.filled++;
  }

  /** What stands for all of them, in their order; its last is the newest. */
  get rows(): RecordedRow[] {
    if (this.told.count === this.count) return this.told.rows;
    const rows: RecordedRow[] = [];
    for (const { low, high } of this.stretches) {
      if (low === high) rows.push(low);
      else rows.push(...(low[0] < high[0] ? [low, high] : [high, low]));
    }
    if (this.newest && rows.at(-1) !== this.newest) rows.push(this.newest);
    this.told = { count: this.count, rows };
    return rows;
  }

  private halve(): void {
    const { stretches } = this;
    this.stretches = [];
    for (let k = 0; k < stretches.length; k += 2) {
      const [a, b = a] = [stretches[k]!, stretches[k + 1]];
      this.stretches.push({
        low: b.low[1] < a.low[1] ? b.low : a.low,
        high: b.high[1] > a.high[1] ? b.high : a.high,
      });
    }
    this.size *= 2;
  }
}
