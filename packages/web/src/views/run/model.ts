import type { ThreadDocument } from '@mile-thread/core/model';
import type { Ledger, RunResult } from '@mile-thread/core/solve';

/** What became of the stored energy at one element, and by which mechanism there. [J] */
export interface Account {
  element: string;
  /** whether it is what the thread is for, what is lost on the way, or what stays */
  kind: 'load' | 'lost' | 'left';
  joules: number;
  parts: { mechanism: string; joules: number }[];
}

/** Share of what was stored below which an element is not named by itself. */
const LEAST = 5e-5;

/**
 * Where every watt-hour went, along the way: cells, what lies behind them, stages, loads, and what is left. Together they
 * are what was stored.
 */
export function accountsOf(doc: ThreadDocument, { entries, left, polarisation, stored }: Ledger): Account[] {
  const loads = new Set(doc.loads.map((l) => l.id));
  const order = [
    'cells',
    ...new Set(entries.map((e) => e.element).filter((e) => e !== 'cells' && !loads.has(e))),
  ];
  const account = (element: string, kind: Account['kind']): Account => {
    const parts = entries
      .filter((e) => e.element === element)
      .map(({ mechanism, joules }) => ({ mechanism, joules }))
      .sort((a, b) => b.joules - a.joules);
    return { element, kind, joules: parts.reduce((sum, p) => sum + p.joules, 0), parts };
  };
  const lost = order.map((e) => account(e, 'lost'));
  const used = doc.loads.map((l) => account(l.id, 'load'));
  const rest: Account = {
    element: 'left',
    kind: 'left',
    joules: left + polarisation,
    parts: [
      { mechanism: 'left in the cells', joules: left },
      { mechanism: 'still in their branches', joules: polarisation },
    ],
  };
  return [...used, ...lost, rest].filter((a) => a.joules > LEAST * stored);
}

/** [J] lost between the cells and the loads, cells included. */
export function lostIn(run: RunResult, doc: ThreadDocument): number {
  const loads = new Set(doc.loads.map((l) => l.id));
  return run.ledger.entries.filter((e) => !loads.has(e.element)).reduce((sum, e) => sum + e.joules, 0);
}
