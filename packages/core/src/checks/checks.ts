import { applyEdits } from '../model/edit.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { RunResult } from '../run/account/result.ts';
import { simulate } from '../run/rundown.ts';
import { body } from './body.ts';
import { brokenOff } from './brokenOff.ts';
import { checkContext, type CheckContext } from './context.ts';
import { current } from './current.ts';
import { eases, found, type Family, type Finding, type Said } from './finding.ts';
import { heat } from './heat.ts';
import { gauge } from './gauge.ts';
import { groups } from './groups.ts';
import { idleDrain } from './idle.ts';
import { capacitances } from './inrush.ts';
import { needMet } from './needMet.ts';
import { parts } from './parts.ts';
import { peaks } from './peaks.ts';
import { protection } from './protection.ts';
import { asleep } from './asleep.ts';
import { brownOut } from './brownOut.ts';
import { voltageFit } from './voltageFit.ts';
import { warmth } from './warmth.ts';

/** The families of checks of a run: one line and one file each. */
const FAMILIES: readonly Family<CheckContext>[] = [
  { place: 'needs', check: needMet },
  { place: 'run', check: brokenOff },
  { place: 'path', check: current },
  { place: 'path', check: protection },
  { place: 'path', check: groups },
  { place: 'path', check: capacitances },
  { place: 'path', check: brownOut },
  { place: 'path', check: voltageFit },
  { place: 'path', check: peaks },
  { place: 'sizing', check: heat },
  { place: 'sizing', check: parts },
  { place: 'path', check: idleDrain },
  { place: 'path', check: asleep },
  { place: 'path', check: gauge },
  { place: 'path', check: warmth },
  { place: 'path', check: body },
];

export interface CheckOptions {
  /** false where nobody will be offered anything: many candidates, a command line */
  actions?: boolean;
}

/** All findings on a design and its run, worst first, then by when they begin. */
export function findings(
  doc: ThreadDocument,
  run: RunResult,
  { actions = true }: CheckOptions = {},
): Finding[] {
  return found(
    FAMILIES,
    checkContext(doc, run),
    (said, { check }) => actions && isWorthwhile(doc, said, check),
  );
}

/** Whether an action takes its finding away or eases it. */
function isWorthwhile(doc: ThreadDocument, said: Said, check: Family<CheckContext>['check']): boolean {
  if (!said.tried) return true;
  const tried = applyEdits(doc, said.action!.edits);
  const after = check(checkContext(tried, simulate(tried))).find((x) => x.id === said.id);
  return after === undefined || eases(said, after);
}
