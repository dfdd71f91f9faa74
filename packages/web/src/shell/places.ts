import type { Finding, Severity } from '@mile-thread/core';
import { isSizable, type ThreadDocument } from '@mile-thread/core/model';

/**
 * The one list of places: router, row of views, keys and finder follow it. A step of the work has a place in the order
 * and a key of its own, whether or not those before it are there.
 */
export interface Step {
  id: 'needs' | 'path' | 'sizing' | 'run' | 'charge' | 'outage' | 'bench';
  name: string;
  key: string;
  /** its address below the thread's, as the router has it */
  route: string;
  /** the same for a thread; undefined where a thread has nothing to show there */
  to(doc: ThreadDocument): string | undefined;
  /** whether a thread says anything of it; where not told it always does */
  planned?(doc: ThreadDocument): boolean;
  /** whether a finding is mended there */
  mends(finding: Finding): boolean;
}

/** Families of findings about the parts of a stage: what its sizing settles. */
const OF_PARTS = ['junction', 'divider', 'filter', 'listing', 'on-time', 'ratings'];
/** Families of findings about what is wanted. */
const OF_NEEDS = ['need', 'cycles', 'waits'];
/** Families of findings about what is left over. */
const OF_RUN = ['broken-off'];
/** Families of findings about how the pack is filled. */
const OF_CHARGE = [
  'charge-volts',
  'charge-low',
  'charge-rate',
  'charge-cable',
  'charge-input',
  'charge-late',
  'charge-through',
  'charge-heat',
  'charge-air',
  'charge-stops',
  'charge-drained',
  'charge-wakes',
  'no-charger',
  'no-balance',
  'slow-balance',
  'contract',
  'source-asked',
  'never-ends',
  'precharge-timer',
  'over-charged',
  'board-stops',
  'group-over',
  'emptied',
  'works-below',
  'two-guards',
  'reversed',
];
/** Whether a finding is about what happens without mains. */
const ofBackup = ({ id }: Finding) => id.endsWith(':backup');
const family = ({ id }: Finding) => id.split(':')[0]!;

export const STEPS: readonly Step[] = [
  {
    id: 'needs',
    name: 'Needs',
    key: '1',
    route: 'needs',
    to: () => 'needs',
    mends: (f) => OF_NEEDS.includes(family(f)),
  },
  {
    id: 'path',
    name: 'Path',
    key: '2',
    route: 'path',
    to: () => 'path',
    mends: (f) => !ofBackup(f) && ![...OF_NEEDS, ...OF_PARTS, ...OF_RUN, ...OF_CHARGE].includes(family(f)),
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
    mends: (f) => OF_PARTS.includes(family(f)),
  },
  {
    id: 'run',
    name: 'Run-down',
    key: '4',
    route: 'run',
    to: () => 'run',
    mends: (f) => OF_RUN.includes(family(f)),
  },
  {
    id: 'charge',
    name: 'Charging',
    key: '5',
    route: 'charge',
    to: () => 'charge',
    planned: (doc) => doc.charging !== undefined,
    mends: (f) => OF_CHARGE.includes(family(f)),
  },
  {
    id: 'outage',
    name: 'Outage',
    key: '7',
    route: 'outage',
    to: () => 'outage',
    planned: (doc) => doc.backup !== undefined,
    mends: ofBackup,
  },
  {
    id: 'bench',
    name: 'Bench',
    key: '9',
    route: 'bench',
    to: () => 'bench',
    // What was read is no finding: the view itself says how it stands.
    planned: () => false,
    mends: () => false,
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
