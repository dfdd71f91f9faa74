import { formatDuration, formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Finding } from './finding.ts';

/** [h] Three months on the shelf are taken for granted; common practice, no source. */
const SHELF_WANTED = 90 * 24;

/** Current that flows with everything off. */
export function idleDrain(c: CheckContext): Finding[] {
  const { idle } = c.run;
  const { disconnect } = c.doc.pack;
  if (disconnect || idle.amps <= 0 || idle.hoursToEnd > SHELF_WANTED) return [];
  const name = (id: string) => c.doc.stages.find((s) => s.id === id)?.name ?? id;
  const first = idle.items[0];
  const most = first ? ` Most of it, ${formatQuantity(first.amps, 'A')}, is ${name(first.element)}.` : '';
  return [
    {
      id: 'idle:cells',
      severity: idle.hoursToDamage < 30 * 24 ? 'tight' : 'note',
      element: 'cells',
      title: `${formatQuantity(idle.amps, 'A')} flows with everything off`,
      reason: `Left on the shelf the pack is empty after ${formatDuration(idle.hoursToEnd)} and damaged after ${formatDuration(idle.hoursToDamage)}.${most}`,
      action: {
        label: 'Add a switch after the pack',
        edits: [{ op: 'add', path: ['pack', 'disconnect'], value: { resistance: 0.008, leakage: 1e-6 } }],
      },
    },
  ];
}
