import { drainNamed } from '../model/pack.ts';
import { HOURS_PER_MONTH } from '../units/constants.ts';
import { formatDuration, formatQuantity, formatShelf } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

/** [months] on the shelf that are taken for granted where a thread states no wish; common practice, no source. */
const SHELF_WANTED = 3;

/** Current that flows with everything off, against how long the thread is to keep. */
export function idleDrain(c: CheckContext): Said[] {
  const { idle } = c.run;
  const { disconnect } = c.doc.pack;
  const wish = c.doc.goals.shelfMonths;
  const wanted = (wish ?? SHELF_WANTED) * HOURS_PER_MONTH;
  if (idle.hoursToEnd >= wanted || (disconnect && wish === undefined)) return [];
  const name = (id: string) =>
    (c.doc.stages.find((s) => s.id === id) ?? drainNamed(c.doc.pack, id))?.name ?? id;
  const first = idle.items[0];
  const most = first ? ` Most of it, ${formatQuantity(first.amps, 'A')}, is ${name(first.element)}.` : '';
  const short = wish !== undefined;
  return [
    {
      id: 'idle:cells',
      severity: short ? 'fails' : idle.hoursToDamage < 30 * 24 ? 'tight' : 'note',
      element: 'cells',
      title: short
        ? `It keeps ${formatShelf(idle.hoursToEnd)} on the shelf; ${formatDuration(wanted)} are wanted`
        : `${formatQuantity(idle.amps, 'A')} flows with everything off`,
      reason: `Left on the shelf the pack is empty after ${formatShelf(idle.hoursToEnd)} and damaged after ${formatShelf(idle.hoursToDamage)}; ${formatQuantity(idle.amps, 'A')} flows.${most}`,
      excess: wanted / idle.hoursToEnd,
      ...(disconnect || !(idle.amps > 1e-6)
        ? {}
        : {
            action: {
              label: 'Add a switch after the pack',
              edits: [
                {
                  op: 'add' as const,
                  path: ['pack', 'disconnect'],
                  value: { resistance: 0.008, leakage: 1e-6 },
                },
              ],
            },
          }),
    },
  ];
}
