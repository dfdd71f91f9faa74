import { formatDuration } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

/** Whether the run is known to its end. */
export function brokenOff({ run }: CheckContext): Said[] {
  if (run.deadEnd.reason !== 'unfinished') return [];
  const { time } = run.deadEnd;
  return [
    {
      id: 'broken-off:cells',
      severity: 'tight',
      element: 'cells',
      title: `The run breaks off after ${formatDuration(time / 3600)}: what comes then is not known`,
      reason:
        'Stages behind stages all drop out or fold there at once, and no operating point was found within the work allowed. What is shown holds until then; fewer stages in one chain would say more.',
      from: time,
    },
  ];
}
