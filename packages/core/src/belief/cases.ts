import { AGED } from '../model/belief.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { usualWeakest } from '../plant/groups.ts';
import { compile } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import type { CellWarmth, DeadEnd, GroupsAtEnd, UsefulEnd } from '../solver/result.ts';
import { answersOf } from '../solver/rundown.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** What a thread is run under beside its own conditions. */
export const CASES = ['usual', 'cold', 'hot', 'aged', 'weakest', 'worst'] as const;
export type CaseName = (typeof CASES)[number];

/** How a thread fares in one of them. */
export interface CaseRun {
  name: CaseName;
  conditions: Partial<Conditions>;
  hours: number;
  usefulEnd: UsefulEnd;
  deadEnd: DeadEnd;
  /** [V] [A] largest current of one cell, over its capacity per hour */
  rate: number;
  warmth?: CellWarmth;
  /** of a pack whose groups differ */
  groups?: GroupsAtEnd;
}

/**
 * The conditions of each case: new in the usual air, in the coldest, the warmest, aged, with one group weaker
 * than the others, and the worst of all at once.
 */
export function caseConditions(doc: ThreadDocument): Record<CaseName, Partial<Conditions>> {
  const { minAir, maxAir } = surroundingsOf(doc);
  const { agedCapacity, agedResistance, weakest = usualWeakest(doc.pack) } = doc.belief ?? {};
  const aged = {
    capacity: agedCapacity ?? AGED.capacity,
    resistance: agedResistance ?? AGED.resistance,
  };
  return {
    usual: {},
    cold: { air: minAir },
    hot: { air: maxAir },
    aged,
    weakest: { weakest },
    worst: { air: minAir, ...aged, weakest },
  };
}

/** Whether a weaker group is a case of its own: among several, of which none is stated to differ. */
function hasWeakest({ pack }: ThreadDocument): boolean {
  return pack.series > 1 && !pack.groups;
}

/** All cases side by side, each with what ends it. */
export function caseRuns(doc: ThreadDocument): CaseRun[] {
  const all = caseConditions(doc);
  return CASES.filter((name) => name !== 'weakest' || hasWeakest(doc)).map((name) => {
    const conditions = all[name];
    const { usefulEnd, deadEnd, worstCell, warmth, groups } = answersOf(compile(doc, conditions));
    return {
      name,
      conditions,
      hours: usefulEnd.time / SECONDS_PER_HOUR,
      usefulEnd,
      deadEnd,
      rate: worstCell.rate,
      ...(warmth ? { warmth } : {}),
      ...(groups ? { groups } : {}),
    };
  });
}
