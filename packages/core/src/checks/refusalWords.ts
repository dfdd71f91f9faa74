import { modeName } from '../model/programme.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { Refusal } from '../sizing/refusal.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import { nameOf } from './context.ts';

/** Why a thread cannot be, in one sentence. */
export function refusalWords(doc: ThreadDocument, of: Refusal): string {
  if (of.why === 'volts') {
    const load = nameOf(doc, of.load);
    const [has, needs] = [formatQuantity(of.has, 'V', 3), formatQuantity(of.needs, 'V', 3)];
    if (of.stage === undefined)
      return `${load} needs ${needs}; a full pack brings its rail to ${has} at the most.`;
    return `${nameOf(doc, of.stage)}, which feeds ${load}, starts at ${needs}; a full pack brings it ${has} at the most.`;
  }
  if (of.why === 'current') {
    const [takes, limit] = [formatQuantity(of.takes, 'A', 3), formatQuantity(of.limit, 'A', 3)];
    const when = of.mode === undefined ? '' : ` in ${modeName(doc, of.mode)}`;
    return `Its loads take ${takes} of a full pack at the least${when}; its board opens at ${limit}.`;
  }
  if (of.why === 'mass') {
    const [weighs, allowed] = [formatQuantity(of.weighs, 'kg', 3), formatQuantity(of.allowed, 'kg', 3)];
    return `Its cells weigh ${weighs}; ${allowed} are allowed.`;
  }
  return `The room holds ${of.holds} of its ${of.cells} cells.`;
}
