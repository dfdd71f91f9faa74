import { applyEdits } from '../model/edit.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { RunResult } from '../solver/result.ts';
import { simulate } from '../solver/rundown.ts';
import { body } from './body.ts';
import { brokenOff } from './brokenOff.ts';
import { checkContext, type CheckContext } from './context.ts';
import { current } from './current.ts';
import { eases, SEVERITIES, type Finding } from './finding.ts';
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

/** The families of checks: one line and one file each. */
const FAMILIES: ((c: CheckContext) => Finding[])[] = [
  needMet,
  brokenOff,
  current,
  protection,
  groups,
  capacitances,
  brownOut,
  voltageFit,
  peaks,
  heat,
  parts,
  idleDrain,
  asleep,
  gauge,
  warmth,
  body,
];

/** Findings whose way out may lead straight into the next limit: it is tried before it is offered. */
const TRIED = new Set(['need', 'current-limit', 'under-volts', 'headroom', 'c-rate', 'brown-out', 'waits']);

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
  const context = checkContext(doc, run);
  return FAMILIES.flatMap((family) =>
    family(context).map((f) => (f.action && !(actions && isWorthwhile(doc, f, family)) ? without(f) : f)),
  ).sort(
    (a, b) =>
      SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || (a.from ?? 0) - (b.from ?? 0),
  );
}

/** Whether an action takes its finding away or eases it. */
function isWorthwhile(doc: ThreadDocument, f: Finding, family: (c: CheckContext) => Finding[]): boolean {
  if (!TRIED.has(f.id.split(':')[0]!)) return true;
  const tried = applyEdits(doc, f.action!.edits);
  const after = family(checkContext(tried, simulate(tried))).find((x) => x.id === f.id);
  return after === undefined || eases(f, after);
}

function without({ action, ...rest }: Finding): Finding {
  void action;
  return rest;
}
