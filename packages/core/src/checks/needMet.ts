import { formatDuration } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

/** Whether it lasts. */
export function needMet(c: CheckContext): Said[] {
  return [...lasts(c), ...cyclesDone(c)];
}

/** Whether it does the cycles wanted. */
function cyclesDone(c: CheckContext): Said[] {
  const wanted = c.doc.programme?.wanted;
  const done = c.run.worked?.cycles;
  if (wanted === undefined || done === undefined || done >= wanted) return [];
  return [
    {
      id: 'cycles:cells',
      severity: 'fails',
      element: 'cells',
      title: `It does ${done} cycles; ${wanted} are wanted`,
      reason: `The run is of use for ${formatDuration(c.run.usefulEnd.time / 3600)}.`,
      from: c.run.usefulEnd.time,
      excess: wanted / Math.max(done, 1),
    },
  ];
}

function lasts(c: CheckContext): Said[] {
  const hours = c.run.usefulEnd.time / 3600;
  const wanted = c.doc.goals.hours;
  if (c.doc.loads.length === 0) return [];
  if (hours >= wanted) {
    if (hours >= 1.1 * wanted) return [];
    return [
      {
        id: 'need:cells',
        tried: true,
        severity: 'tight',
        element: 'cells',
        title: `It lasts ${formatDuration(hours)}, only just the ${formatDuration(wanted)} needed`,
        reason: 'Cold or aged cells easily hold a tenth less than new ones at room temperature.',
      },
    ];
  }
  const parallel = Math.ceil((c.doc.pack.parallel * wanted * 1.1) / Math.max(hours, 1e-3));
  const useful = hours > 0.02 && parallel <= 20 && parallel > c.doc.pack.parallel;
  return [
    {
      id: 'need:cells',
      tried: true,
      severity: 'fails',
      element: 'cells',
      title: `It lasts ${formatDuration(hours)}; ${formatDuration(wanted)} are needed`,
      reason: `Short by ${formatDuration(wanted - hours)}.`,
      from: c.run.usefulEnd.time,
      saysWhen: true,
      excess: wanted / Math.max(hours, 1e-9),
      ...(useful
        ? {
            action: {
              label: `Use ${parallel} cells in parallel`,
              edits: [{ op: 'replace' as const, path: ['pack', 'parallel'], value: parallel }],
            },
          }
        : {}),
    },
  ];
}
