import type { ThreadDocument } from '../../model/thread.ts';
import type { ChargeResult } from '../../run/account/chargeResult.ts';
import { found, type Family, type Finding } from '../finding.ts';
import { cells } from './cells.ts';
import { chargeContext, type ChargeContext } from './context.ts';
import { current } from './current.ts';
import { ends } from './ends.ts';
import { guards } from './guards.ts';
import { volts } from './volts.ts';

/** The families of checks of a charge: one line and one file each. */
const FAMILIES: readonly Family<ChargeContext>[] = [volts, current, ends, cells, guards].map((check) => ({
  place: 'charge',
  check,
}));

/** What there is to say of a thread's charge, worst first. @param result of `charge` for this thread */
export function chargeFindings(doc: ThreadDocument, result: ChargeResult): Finding[] {
  return found(FAMILIES, chargeContext(doc, result));
}
