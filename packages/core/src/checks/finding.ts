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

/** One thing a check has to say: what, where, from when, by how much, why, and what can be done. */
export interface Finding {
  /** stable: check's name and the element, so that a finding can be told from its neighbour */
  id: string;
  severity: Severity;
  /** `cells`, `protection`, `fuse`, `leads`, or the id of a stage or load */
  element: string;
  title: string;
  /** the physical reason with its numbers, one or two sentences */
  reason: string;
  /** [s] from when in the run it begins; absent when it always holds */
  from?: number;
  /** what is asked over what is allowed, 1 at the limit; absent where the two cannot be compared */
  excess?: number;
  /** offered only where the changed thread is a valid one and the finding goes away or eases */
  action?: Action;
}

/** Whether a finding is less of one after a change: a lighter severity, a later beginning, or less beyond its limit. */
export function eases(before: Finding, after: Finding): boolean {
  const weight = (f: Finding) => SEVERITIES.indexOf(f.severity);
  if (weight(after) !== weight(before)) return weight(after) > weight(before);
  if ((after.from ?? 0) > (before.from ?? 0)) return true;
  return (after.excess ?? 1) < (before.excess ?? 1);
}
