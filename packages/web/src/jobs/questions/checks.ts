import { findings, type Finding } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { threadKey } from '@mile-thread/core/solve';
import { kept, runOf } from './runs.ts';

const found = new Map<string, Finding[]>();

/** What the checks say of a thread's run; ways out are tried before they are offered, so it takes longer than the run. */
export function checks(doc: ThreadDocument): Finding[] {
  return kept(found, threadKey(doc), () => findings(doc, runOf(doc)));
}
