import type { Finding, WorkPlace, Severity } from '@mile-thread/core';
import { isSizable, type ThreadDocument } from '@mile-thread/core/model';

/**
 * The one list of places: router, row of views, keys and finder follow it. A step of the work has a place in the order
 * and a key of its own, whether or not those before it are there.
 */
export interface Step {
  /** that of what is found and mended there; at the bench nothing is, the view itself says how it stands */
  id: WorkPlace | 'bench';
  name: string;
  key: string;
  /** its address below the thread's, as the router has it */
  route: string;
  /** the same for a thread; undefined where a thread has nothing to show there */
  to(doc: ThreadDocument): string | undefined;
  /** whether a thread says anything of it; where not told it always does */
  planned?(doc: ThreadDocument): boolean;
}

export const STEPS: readonly Step[] = [
  {
    id: 'needs',
    name: 'Needs',
    key: '1',
    route: 'needs',
    to: () => 'needs',
  },
  {
    id: 'path',
    name: 'Path',
    key: '2',
    route: 'path',
    to: () => 'path',
  },
  {
    id: 'sizing',
    name: 'Sizing',
    key: '3',
    route: 'sizing/:stageId',
    to: (doc) => {
      const first = doc.stages.find(isSizable);
      return first && `sizing/${first.id}`;
    },
  },
  {
    id: 'run',
    name: 'Run-down',
    key: '4',
    route: 'run',
    to: () => 'run',
  },
  {
    id: 'charge',
    name: 'Charging',
    key: '5',
    route: 'charge',
    to: () => 'charge',
    planned: (doc) => doc.charging !== undefined,
  },
  {
    id: 'outage',
    name: 'Outage',
    key: '7',
    route: 'outage',
    to: () => 'outage',
    planned: (doc) => doc.backup !== undefined,
  },
  {
    id: 'bench',
    name: 'Bench',
    key: '9',
    route: 'bench',
    to: () => 'bench',
    planned: () => false,
  },
];

/** How a place stands: its worst kind of finding and how many of it, or met. */
export interface Standing {
  worst: Severity | 'met';
  count: number;
}

/** Notes do not count against a place: they say something, nothing fails by them. */
export function standing(findings: readonly Finding[]): Standing {
  const worst = (['danger', 'fails', 'tight'] as const).find((s) => findings.some((f) => f.severity === s));
  return worst
    ? { worst, count: findings.filter((f) => f.severity === worst).length }
    : { worst: 'met', count: 0 };
}
