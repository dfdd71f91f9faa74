import type { ThreadDocument } from '../../model/thread.ts';
import type { ChargeResult } from '../../solver/chargeResult.ts';
import { SEVERITIES, type Finding } from '../finding.ts';
import { cells } from './cells.ts';
import { chargeContext, type ChargeContext } from './context.ts';
import { current } from './current.ts';
import { ends } from './ends.ts';
import { guards } from './guards.ts';
import { volts } from './volts.ts';

/** The families of checks of a charge: one line and one file each. */
const FAMILIES: ((c: ChargeContext) => Finding[])[] = [volts, current, ends, cells, guards];

/** What there is to say of a thread's charge, worst first. @param result of `charge` for this thread */
export function chargeFindings(doc: ThreadDocument, result: ChargeResult): Finding[] {
  const context = chargeContext(doc, result);
  return FAMILIES.flatMap((family) => family(context)).sort(
    (a, b) =>
      SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) || (a.from ?? 0) - (b.from ?? 0),
  );
}
