import { MODES, type Mode } from '../../stages/modes.ts';
import type { RunResult } from '../account/result.ts';
import {
  CHARGE_ROW,
  chargerColumn,
  loadColumn,
  LOAD_ROW,
  ROW,
  rowStride,
  stageColumn,
  STAGE_ROW,
  type Series,
} from '../account/series.ts';

/** Changes of a stage's mode that are looked at. */
const MOST_CHANGES = 24;

/** Largest and smallest value of a column over the useful rows, with their times [s] and rows, and the first. */
export interface Extremes {
  /** in the unit of the column, [s], and in which row */
  most: number;
  mostTime: number;
  mostRow: number;
  least: number;
  leastTime: number;
  leastRow: number;
  first: number;
}

/** What stands in a stage's columns at one row. */
export interface StageReading {
  /** [V] [A] */
  inputVolts: number;
  inputAmps: number;
  outputVolts: number;
  outputAmps: number;
  mode: Mode;
}

/**
 * Reads a run's rows: columns by what they mean, rows by time, and which of them count. The only place that knows how a
 * row is laid out besides the recorder.
 */
export class Reading {
  readonly count: number;
  /** the last row before the run stops being of use: the rows at the end itself come after what ended it */
  readonly last: number;
  private readonly data: Float64Array;
  private readonly stride: number;
  private readonly stages: number;
  /** column of the charger's first value */
  private readonly own: number;

  /** @param until [s] where the useful rows end; the useful end, of a run that is of no use from the start the dead end */
  constructor(
    readonly series: Series,
    until = Infinity,
  ) {
    this.data = series.data;
    this.count = series.count;
    this.stages = series.stages;
    this.stride = rowStride(series);
    this.own = chargerColumn(series.stages, series.loads);
    let last = 0;
    while (last + 1 < this.count && this.time(last + 1) < until) last++;
    this.last = last;
  }

  /** Column of a stage's value. */
  stage(k: number, value: keyof typeof STAGE_ROW): number {
    return stageColumn(k) + STAGE_ROW[value];
  }

  /** Column of a load's value. */
  load(l: number, value: keyof typeof LOAD_ROW): number {
    return loadColumn(this.stages, l) + LOAD_ROW[value];
  }

  /** A value of the cells or the path by its name, or of any column. */
  at(row: number, column: number | keyof typeof ROW): number {
    return this.data[row * this.stride + (typeof column === 'number' ? column : ROW[column])]!;
  }

  /** A value of the charger, see CHARGE_ROW; of rows that have one. */
  of(row: number, value: keyof typeof CHARGE_ROW): number {
    return this.data[row * this.stride + this.own + CHARGE_ROW[value]]!;
  }

  /** [s] */
  time(row: number): number {
    return this.data[row * this.stride + ROW.time]!;
  }

  /** A stage at a row. */
  stageReading(row: number, k: number): StageReading {
    const from = row * this.stride + stageColumn(k);
    const { data } = this;
    return {
      inputVolts: data[from]!,
      inputAmps: data[from + 1]!,
      outputVolts: data[from + 2]!,
      outputAmps: data[from + 3]!,
      mode: MODES[data[from + 4]!]!,
    };
  }

  /** [W] a load takes at a row. */
  loadWatts(row: number, l: number): number {
    const from = row * this.stride + loadColumn(this.stages, l);
    return this.data[from]! * this.data[from + 1]!;
  }

  /** Last row at or before a time. @param time [s] */
  rowAt(time: number): number {
    let low = 0;
    let high = this.count - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.time(middle) <= time) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /** A value of the cells or the path at a time [s], straight between rows: where cycles were skipped none stands near. */
  between(time: number, column: number | keyof typeof ROW): number {
    const row = this.rowAt(time);
    const here = this.at(row, column);
    if (row + 1 >= this.count || !(time > this.time(row))) return here;
    const share = (time - this.time(row)) / (this.time(row + 1) - this.time(row));
    return here + share * (this.at(row + 1, column) - here);
  }

  /** First time [s] at which so much is charged, between rows; undefined where it never is. */
  timeOf(soc: number): number | undefined {
    for (let row = 0; row < this.count; row++) {
      const here = this.at(row, ROW.soc);
      if (here < soc) continue;
      if (row === 0) return 0;
      const before = this.at(row - 1, ROW.soc);
      const share = here > before ? (soc - before) / (here - before) : 1;
      const from = this.time(row - 1);
      return from + share * (this.time(row) - from);
    }
    return undefined;
  }

  /** Row where a value is largest by a measure, of all rows; the first of several. */
  best(measure: (row: number) => number): number {
    let best = 0;
    for (let row = 1; row < this.count; row++) if (measure(row) > measure(best)) best = row;
    return best;
  }

  /** One column as its own array, every row of it. */
  column(column: number): Float64Array {
    return Float64Array.from({ length: this.count }, (_, row) => this.at(row, column));
  }

  /** Extremes of a column over the useful rows. */
  extremes(column: number): Extremes {
    const first = this.at(0, column);
    let [most, least, mostRow, leastRow] = [first, first, 0, 0];
    for (let row = 1; row <= this.last; row++) {
      const value = this.at(row, column);
      if (value > most) [most, mostRow] = [value, row];
      if (value < least) [least, leastRow] = [value, row];
    }
    return {
      most,
      mostTime: this.time(mostRow),
      mostRow,
      least,
      leastTime: this.time(leastRow),
      leastRow,
      first,
    };
  }

  /** [W] most that the pack gives at a useful row. */
  mostWatts(): number {
    let most = 0;
    for (let row = 0; row <= this.last; row++) {
      most = Math.max(most, this.at(row, ROW.packVolts) * this.at(row, ROW.packAmps));
    }
    return most;
  }

  /** First useful row from which on something is so for the first time; undefined where it never is. */
  firstRow(so: (row: number) => boolean): number | undefined {
    for (let row = 0; row <= this.last; row++) if (so(row)) return row;
    return undefined;
  }

  /**
   * Rows at which a stage is worth looking at: both ends of the useful run, both sides of every change of its mode, the
   * extremes of its volts and amps, and a few between. Rising, about a dozen.
   */
  instants(k: number, between = 4): number[] {
    const rows = new Set([0, this.last]);
    const mode = this.stage(k, 'mode');
    const changes: number[] = [];
    for (let row = 1; row <= this.last; row++) {
      if (this.at(row, mode) !== this.at(row - 1, mode)) changes.push(row);
    }
    // A programme may change it in every cycle: some of them say it.
    const every = Math.ceil(changes.length / MOST_CHANGES);
    changes.forEach((row, n) => n % every === 0 && rows.add(row - 1).add(row));
    for (const value of ['inputVolts', 'inputAmps', 'outputAmps'] as const) {
      // By row: where the loads switch, two rows have one time.
      const { mostRow, leastRow } = this.extremes(this.stage(k, value));
      rows.add(mostRow).add(leastRow);
    }
    // By time rather than by row: steps are short where little happens but much has just happened.
    for (let n = 1; n < between; n++) rows.add(this.rowAt((n / between) * this.time(this.last)));
    return [...rows].filter((row) => row <= this.last).sort((a, b) => a - b);
  }
}

/** Read a run up to where a sizing ends. */
export function readingOf(run: Pick<RunResult, 'series' | 'usefulEnd' | 'deadEnd'>): Reading {
  const until = run.usefulEnd.time > 0 ? run.usefulEnd.time : run.deadEnd.time;
  return new Reading(run.series, until);
}
