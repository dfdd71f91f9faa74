import type { ThreadDocument } from '../model/thread.ts';
import type { RunResult } from '../solver/result.ts';
import { checkContext, type CheckContext } from './context.ts';
import { current } from './current.ts';
import { SEVERITIES, type Finding } from './finding.ts';
import { heat } from './heat.ts';
import { idleDrain } from './idle.ts';
import { needMet } from './needMet.ts';
import { parts } from './parts.ts';
import { voltageFit } from './voltageFit.ts';

/** The families of checks: one line and one file each. */
const FAMILIES: ((c: CheckContext) => Finding[])[] = [needMet, current, voltageFit, heat, parts, idleDrain];

/** All findings on a design and its run, worst first, then by when they begin. */
export function findings(doc: ThreadDocument, run: RunResult): Finding[] {
  const context = checkContext(doc, run);
  return FAMILIES.flatMap((family) => family(context)).sort(
    (a, b) =>
      SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || (a.from ?? 0) - (b.from ?? 0),
  );
}
