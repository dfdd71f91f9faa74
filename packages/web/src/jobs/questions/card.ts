import { findings, type Severity } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { worstInstants, type RunResult } from '@mile-thread/core/solve';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';
import type { Flows } from '../../drawing/ribbon.ts';
import { largestFlows, sampleRun } from '../../drawing/sample.ts';
import { runOf } from './runs.ts';

/** What a card on the shelf says of a thread; few numbers, so that they can be kept. */
export interface Card {
  /** [h] */
  lasts: number;
  /** [Wh] */
  stored: number;
  /** [W] on each edge where most is drawn of a programme, else a third into the run, and the largest ever on the trunk and on a branch: for the small picture */
  flows: Flows;
  trunk: number;
  branch: number;
  worst?: { severity: Severity; title: string };
}

/** [s] Of a programme most of the time is waiting: the small picture shows it at work. */
function lookedAt(doc: ThreadDocument, run: RunResult): number {
  return run.worked ? worstInstants(doc, run)[0]!.look : run.usefulEnd.time / 3;
}

/** Answers of a thread on the shelf. Once it has run, whoever has opened a thread meanwhile comes first. */
export function* card(doc: ThreadDocument): Generator<number, Card, undefined> {
  const run = runOf(doc);
  yield 0.5;
  // Nothing is offered on a card: no way out is tried.
  const [worst] = findings(doc, run, { actions: false });
  return {
    lasts: run.usefulEnd.time / SECONDS_PER_HOUR,
    stored: run.ledger.stored / SECONDS_PER_HOUR,
    flows: sampleRun(doc, run, lookedAt(doc, run)).flows,
    ...largestFlows(doc, run),
    ...(worst ? { worst: { severity: worst.severity, title: worst.title } } : {}),
  };
}
