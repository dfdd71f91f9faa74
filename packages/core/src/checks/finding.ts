import type { Edit } from '../model/edit.ts';

/** danger: someone can be hurt or a cell destroyed; fails: it will not do its job; tight: little room; note. */
export const SEVERITIES = ['danger', 'fails', 'tight', 'note'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** A change that answers a finding. */
export interface Action {
  /** what the button says */
  label: string;
  edits: Edit[];
}

/** The steps of the work at which findings are mended. */
export const WORK_PLACES = ['needs', 'path', 'sizing', 'run', 'charge', 'outage'] as const;
export type WorkPlace = (typeof WORK_PLACES)[number];

/** One thing a check has to say: what, where, from when, by how much, why, and what can be done. */
export interface Finding {
  /** stable: check's name and the element, so that a finding can be told from its neighbour */
  id: string;
  severity: Severity;
  /** where it is mended */
  place: WorkPlace;
  /** `cells`, `protection`, `fuse`, `leads`, or the id of a stage or load */
  element: string;
  title: string;
  /** the physical reason with its numbers, one or two sentences */
  reason: string;
  /** [s] from when in the run it begins; absent when it always holds */
  from?: number;
  /** its title says itself when that is */
  saysWhen?: true;
  /** what is asked over what is allowed, 1 at the limit; absent where the two cannot be compared */
  excess?: number;
  /** offered only where the changed thread is a valid one and the finding goes away or eases */
  action?: Action;
}

/** A finding as its check says it. */
export interface Said extends Omit<Finding, 'place'> {
  /** where it is mended, if not where its family is */
  place?: WorkPlace;
  /** whether its way out may lead straight into the next limit: it is tried before it is offered */
  tried?: true;
}

/** A family of checks. @typeParam C what they look at */
export interface Family<C> {
  /** where what they find is mended, as a rule */
  place: WorkPlace;
  check(context: C): Said[];
}

/**
 * What the families find, worst first, then by when it begins.
 * @param offers whether a way out is offered; left out, every one is
 */
export function found<C>(
  families: readonly Family<C>[],
  context: C,
  offers: (said: Said, family: Family<C>) => boolean = () => true,
): Finding[] {
  return families
    .flatMap((family) =>
      family.check(context).map((said): Finding => {
        const { tried, action, ...rest } = said;
        void tried;
        const offered = action && offers(said, family);
        return { place: family.place, ...rest, ...(offered && { action }) };
      }),
    )
    .sort(
      (a, b) =>
        SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || (a.from ?? 0) - (b.from ?? 0),
    );
}

/** Whether a finding is less of one after a change: a lighter severity, a later beginning, or less beyond its limit. */
export function eases(before: Said, after: Said): boolean {
  const weight = (f: Said) => SEVERITIES.indexOf(f.severity);
  if (weight(after) !== weight(before)) return weight(after) > weight(before);
  if ((after.from ?? 0) > (before.from ?? 0)) return true;
  return (after.excess ?? 1) < (before.excess ?? 1);
}

/** [s] From when on a finding holds, where that is not from the beginning and its title does not say it. */
export function sinceOf({ from, saysWhen }: Pick<Finding, 'from' | 'saysWhen'>): number | undefined {
  return from !== undefined && from > 0 && !saysWhen ? from : undefined;
}
