import { demoThreads, findings } from '@mile-thread/core';
import { simulate } from '@mile-thread/core/solve';

/** Of the demo threads those that are soon through even by code that nobody has compiled yet. */
const SHORT = ['Tide-pool microscope', 'Lake water sampler', 'Library door lock'];

/**
 * Run one of the demo threads' last tenth, so that the first question of a person finds compiled code. Nothing of it is
 * kept. Short, since a question that comes meanwhile waits for it.
 * @param go counts them, so that each takes another thread and none is like the last
 */
export function warm(go: number): void {
  const docs = demoThreads().filter((doc) => SHORT.includes(doc.name));
  const doc = docs[go % docs.length]!;
  const pack = { ...doc.pack, startSoc: 0.08 + 0.002 * go };
  findings(doc, simulate({ ...doc, pack }, { rows: 400 }));
}
