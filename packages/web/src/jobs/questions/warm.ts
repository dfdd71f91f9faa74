import { demoThreads, findings } from '@mile-thread/core';
import { simulate } from '@mile-thread/core/solve';

/** [ms] of one go: a question that comes meanwhile waits no longer. */
const GO = 12;

/**
 * Run the demo threads for a moment, so that the first question of a person finds compiled code. Nothing of it is kept.
 * @param cut factor on what they need, so that no go is like the last
 */
export function warm(cut: number): number {
  let runs = 0;
  const until = performance.now() + GO;
  for (const doc of demoThreads()) {
    if (performance.now() > until) break;
    findings(doc, simulate({ ...doc, goals: { hours: doc.goals.hours * cut } }, { rows: 400 }));
    runs++;
  }
  return runs;
}
