import { demoThreads } from '@mile-thread/core';
import { simulate } from '@mile-thread/core/solve';
import { expect, it } from 'vitest';
import { accountsOf, lostIn } from './model.ts';

it('what went to loads, what was lost and what is left are what was stored, each once', () => {
  for (const doc of demoThreads()) {
    const run = simulate(doc);
    const accounts = accountsOf(doc, run.ledger);
    const of = (kind: string) =>
      accounts.filter((a) => a.kind === kind).reduce((sum, a) => sum + a.joules, 0);
    expect((of('load') + of('lost') + of('left')) / run.ledger.stored).toBeCloseTo(1, 3);
    expect(of('lost') / lostIn(run, doc)).toBeCloseTo(1, 3);
    expect(new Set(accounts.map((a) => a.element)).size).toBe(accounts.length);
    for (const a of accounts) expect(a.parts.reduce((sum, p) => sum + p.joules, 0)).toBeCloseTo(a.joules, 6);
  }
});
