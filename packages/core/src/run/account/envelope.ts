import type { Plant } from '../../plant/compile.ts';
import type { EnvelopeRow } from './result.ts';
import type { LedgerSum } from './ledger.ts';
import type { Trace } from './trace.ts';

interface Taken {
  /** [s], and state of charge */
  time: number;
  soc: number;
  /** share of the charge it took */
  took: number;
  trace: Pick<Trace, 'least' | 'most'>;
  /** [s] it lasted; the last one of a run may be cut short */
  seconds: number;
  /** how often it was booked */
  weight: number;
  /** whether the run ended in it: its mean says nothing of a whole one */
  cut?: boolean;
}

/** Collects what cycles did, so that a plot of a year shows its peaks. */
export class EnvelopeSum {
  readonly rows: EnvelopeRow[] = [];
  private before = 0;

  constructor(
    private readonly plant: Plant,
    private readonly ledger: LedgerSum,
  ) {}

  /** A cycle begins. */
  begin(): void {
    this.before = this.ledger.joules;
  }

  /** The cycle begun last is over. */
  keep({ time, soc, took, trace, seconds, weight, cut }: Taken): void {
    if (!(seconds > 0)) return;
    const { charge, parallel, quiescent, selfDischarge } = this.plant.pack;
    const joules = (this.ledger.joules - this.before) / weight;
    const coulombs =
      parallel * charge * (took - selfDischarge * Math.max(0, soc) * seconds) - quiescent * seconds;
    const { least, most } = trace;
    const mean = coulombs > 0 ? Math.min(most, Math.max(least, joules / coulombs)) : most;
    const last = cut ? this.rows.at(-1)?.watts : undefined;
    this.rows.push({ time, soc, least, mean, most, watts: last ?? joules / seconds });
  }
}
