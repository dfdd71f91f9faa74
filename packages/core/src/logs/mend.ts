import type { TimeForm } from './columns.ts';

/** A line of a log. [s] [V] [A] */
export interface LogRow {
  /** [s] [V] [A] */
  s: number;
  v: number;
  a: number;
}

/** Something that was made good in a log. `gap` and `spike` count all of them. */
export interface LogNote {
  what: 'newestFirst' | 'summerTime' | 'midnight' | 'restart' | 'gap' | 'spikes';
  /** line of the file where it is, of the first where there are several */
  line?: number;
  /** [s] of a gap, lines left out, spikes */
  by: number;
}

/** Share of what a clock has run that it may go back and still be lines out of order, not a clock that began anew. */
const BACK = 0.02;
const HOUR = 3600;
const DAY = 24 * HOUR;
/** [s] within which an hour that comes again is one of summer time, where lines follow each other more quickly. */
const NEAR = 60;
/** Times the usual interval, and [s] at least, from which there is a gap. */
const GAP = 20;
const GAP_SECONDS = 60;

/** The clock of a log: counted on over midnight and the end of summer time, cut where it began anew. */
export class MendedClock {
  readonly notes: LogNote[] = [];
  private runs: LogRow[][] = [[]];
  private offset = 0;
  private earliest = Infinity;
  private latest = -Infinity;
  private step = 0;

  /** @param bare dates without a zone: of a clock on the wall */
  constructor(
    private readonly form: TimeForm,
    private readonly bare: boolean,
  ) {}

  /** Take the next line. @returns false where the clock began anew with it */
  take(row: LogRow, line: number): boolean {
    let s = row.s + this.offset;
    const back = this.latest - s;
    if (back > 0) {
      const again = Math.abs(back - (HOUR - this.step)) <= Math.max(NEAR, 3 * this.step);
      if (this.form === 'date' && this.bare && again) {
        this.notes.push({ what: 'summerTime', line, by: HOUR });
        s += this.forward(HOUR);
      } else if (this.form === 'clock' && back > DAY / 2) {
        this.notes.push({ what: 'midnight', line, by: DAY });
        s += this.forward(DAY);
      } else if (back > Math.max(60, BACK * (this.latest - this.earliest))) {
        this.notes.push({ what: 'restart', line, by: 0 });
        this.runs.push([]);
        this.earliest = this.latest = s;
        this.runs.at(-1)!.push({ ...row, s });
        return false;
      }
    } else if (Number.isFinite(back)) {
      if (this.step > 0 && -back > Math.max(GAP_SECONDS, GAP * this.step))
        this.notes.push({ what: 'gap', line, by: -back });
      this.step = this.step === 0 ? -back : 0.9 * this.step + 0.1 * Math.min(-back, 3 * this.step);
    }
    this.latest = Math.max(this.latest, s);
    this.earliest = Math.min(this.earliest, s);
    this.runs.at(-1)!.push({ ...row, s });
    return true;
  }

  /** The run of the clock that went on for longest. */
  longest(): { rows: LogRow[]; notes: LogNote[] } {
    const span = (rows: LogRow[]) => (rows.length > 0 ? rows.at(-1)!.s - rows[0]!.s : -1);
    const rows = this.runs.reduce((a, b) => (span(b) > span(a) ? b : a));
    const left = this.runs.reduce((n, r) => n + r.length, 0) - rows.length;
    const notes = this.notes.map((n) => (n.what === 'restart' ? { ...n, by: left } : n));
    return { rows, notes };
  }

  private forward(by: number): number {
    this.offset += by;
    return by;
  }
}

/** Share of the volts by which one line alone must stand out to be a fault of the logger, and of the current that must not. */
const SPIKE = 0.04;
const STEADY = 0.2;

/** Rows without those where the volts alone jump for a single line while the current stays. */
export function withoutSpikes(rows: readonly LogRow[], notes: LogNote[]): LogRow[] {
  const mean = rows.reduce((s, r) => s + Math.abs(r.a), 0) / rows.length;
  const kept = rows.filter((r, k) => {
    const [before, after] = [rows[k - 1], rows[k + 1]];
    if (!before || !after || mean === 0) return true;
    const beside = (before.v + after.v) / 2;
    const alike = Math.abs(before.v - after.v) < (SPIKE / 2) * beside;
    const steady = Math.abs(r.a - (before.a + after.a) / 2) < STEADY * mean;
    return !(alike && steady && Math.abs(r.v - beside) > SPIKE * beside);
  });
  if (kept.length < rows.length) notes.push({ what: 'spikes', by: rows.length - kept.length });
  return kept;
}
