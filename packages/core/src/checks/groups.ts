import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Finding } from './finding.ts';

const V = (volts: number) => formatQuantity(volts, 'V', 3);
/** Share of what was stored that groups must still hold for the weakest to be worth a word. Common practice, no source. */
const STRANDED = 0.02;

/** What a group is called: counted from the negative end. */
export function groupName(k: number): string {
  return `group ${k + 1}`;
}

/** Groups in series that differ: which ends the run, and what it strands in the others. */
export function groups({ run, needed }: CheckContext): Finding[] {
  const at = run.groups;
  if (!at || run.usefulEnd.load) return [];
  const { weakest, soc, volts, left } = at;
  const others = left.reduce((sum, j, k) => (k === weakest ? sum : sum + j), 0);
  const more = others / Math.max(1, left.length - 1) - left[weakest]!;
  if (!(more * left.length > STRANDED * run.ledger.stored)) return [];
  const fullest = soc.indexOf(Math.max(...soc));
  return [
    {
      id: 'weak-group:cells',
      severity: run.usefulEnd.time < needed ? 'fails' : 'note',
      element: 'cells',
      title: `Its weakest, ${groupName(weakest)}, ends the run with ${formatQuantity(others / 3600, 'Wh', 3)} left in the others`,
      reason: `It stands at ${V(volts[weakest]!)} a cell; ${groupName(fullest)} at ${V(volts[fullest]!)} with ${Math.round(100 * soc[fullest]!)} % of its charge. The same current flows through all: what the others hold beyond the weakest is never used. Match the groups, or charge them all to full.`,
      from: run.deadEnd.time,
    },
  ];
}
