import type { ThreadDocument } from '../../model/thread.ts';
import type { Conditions } from '../../plant/conditions.ts';

export interface Refusal {
  why: 'volts';
}
export function refusal(_doc: ThreadDocument, _c: Partial<Conditions>): Refusal | undefined {
  return undefined;
}
