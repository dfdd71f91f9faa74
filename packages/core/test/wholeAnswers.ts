import { backupOf, charge, findings, outage, simulate, type ThreadDocument } from './core.ts';
import { chargeFindings } from '../src/checks/charging/charging.ts';
import { backupFindings } from '../src/checks/charging/backup.ts';
import { planOf } from '../src/bench/plan.ts';
import { predictions } from '../src/bench/predict.ts';
import type { Ledger } from '../src/run/account/account.ts';
import type { Counts } from '../src/run/account/result.ts';

/** What one question about a thread came to. */
export interface Asked {
  answer: unknown;
  /** accounts that must close */
  ledgers: Ledger[];
  counts?: Counts;
  /** whether it broke off */
  cut: boolean;
  /** sentences a person reads */
  words: string[];
}

/** [s] Two outages where a thread states none. */
const USUAL = [
  { from: 3600, to: 7200 },
  { from: 40_000, to: 86_400 },
];
const DAYS = 3 * 86_400;

/** Everything that is asked of a thread with everything in it, by the name of the question. */
export const QUESTIONS: Readonly<Record<string, (doc: ThreadDocument) => Asked | undefined>> = {
  run: (doc) => {
    const run = simulate(doc);
    const { deadEnd, ledger, ledgerAtDead, counts } = run;
    const told = findings(doc, run, { actions: false });
    return {
      answer: run,
      ledgers: [ledger, ledgerAtDead],
      counts,
      cut: deadEnd.reason === 'unfinished',
      words: told.flatMap((f) => [f.title, f.reason]),
    };
  },
  charge: (doc) => {
    if (!doc.charging) return undefined;
    const filled = charge(doc);
    const told = chargeFindings(doc, filled);
    return {
      answer: filled,
      ledgers: [filled.ledger],
      counts: filled.counts,
      cut: filled.end.reason === 'unfinished',
      words: told.flatMap((f) => [f.title, f.reason]),
    };
  },
  outage: (doc) => {
    if (!doc.charging) return undefined;
    const result = outage(doc, USUAL, DAYS);
    return {
      answer: result,
      ledgers: [result.ledger],
      counts: result.counts,
      cut: !result.end.whole,
      words: [],
    };
  },
  backup: (doc) => {
    if (!doc.charging || !doc.backup) return undefined;
    const found = backupOf(doc);
    const { result } = found;
    return {
      answer: found,
      ledgers: [result.ledger],
      counts: result.counts,
      cut: !result.end.whole || found.unanswered === true,
      words: backupFindings(doc, found).flatMap((f) => [f.title, f.reason]),
    };
  },
  plan: (doc) => {
    const found = predictions(doc);
    const steps = planOf(doc, found);
    return {
      answer: steps,
      ledgers: [],
      cut: found.leftOut > 0,
      words: steps.flatMap((s) => [s.title, s.how, s.settles]),
    };
  },
};
