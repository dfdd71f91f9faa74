import { AGED, LATER } from '../model/belief.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { usualWeakest } from '../model/group.ts';
import { compile } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import type { CellWarmth, DeadEnd, GroupsAtEnd, UsefulEnd } from '../run/account/result.ts';
import { answersOf } from '../run/rundown.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { fadeAfter, type FadeRange } from './fade.ts';

/** What a thread is run under beside its own conditions. */
export const CASES = ['usual', 'cold', 'hot', 'aged', 'later', 'weakest', 'worst'] as const;
export type CaseName = (typeof CASES)[number];

/** How a thread fares in one of them. */
export interface CaseRun {
  name: CaseName;
  conditions: Partial<Conditions>;
  /** [h] */
  hours: number;
  /** [h] of cells that have aged by more and by less than the law says; `later` alone */
  range?: [number, number];
  usefulEnd: UsefulEnd;
  deadEnd: DeadEnd;
  /** [V] [A] largest current of one cell, over its capacity per hour */
  rate: number;
  warmth?: CellWarmth;
  /** of a pack whose groups differ */
  groups?: GroupsAtEnd;
}

/**
 * The conditions of each case: new in the usual air, in the coldest, the warmest, aged, after years of this use, with one
 * group weaker than the others, and the worst of all at once.
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
    later: fadeOf(doc).usual,
    weakest: { weakest },
    worst: { air: minAir, ...aged, weakest },
  };
}

/** The cases of a thread: a weaker group is one among several, of which none is stated to differ. */
export function casesOf({ pack }: ThreadDocument): CaseName[] {
  return CASES.filter((name) => name !== 'weakest' || (pack.series > 1 && !pack.groups));
}

/** Years of use, and runs in each: as stated, or the usual, no more than there is time for. */
export function usageOf({ belief, goals }: ThreadDocument): { years: number; runsAYear: number } {
  const most = goals.hours > 0 ? HOURS_PER_YEAR / goals.hours : Infinity;
  const runs = belief?.runsAYear ?? Math.min(LATER.runsAYear, Number(most.toPrecision(2)));
  return { years: belief?.years ?? LATER.years, runsAYear: runs };
}

const HOURS_PER_YEAR = 8766;

/** What years of this use leave of its cells. A run is counted as from its start to empty: it takes no more. */
export function fadeOf(doc: ThreadDocument): FadeRange {
  const { years, runsAYear } = usageOf(doc);
  return fadeAfter(doc.pack.cell, years, runsAYear * doc.pack.startSoc, surroundingsOf(doc).air);
}

function laterRange(doc: ThreadDocument, hours: (under: Partial<Conditions>) => number): [number, number] {
  const { best, worst } = fadeOf(doc);
  return [hours(worst), hours(best)];
}

/** All cases side by side, each with what ends it. */
export function caseRuns(doc: ThreadDocument): CaseRun[] {
  const all = caseConditions(doc);
  return casesOf(doc).map((name) => {
    const conditions = all[name];
    const answers = (under: Partial<Conditions>) => answersOf(compile(doc, under));
    const { usefulEnd, deadEnd, worstCell, warmth, groups } = answers(conditions);
    const hoursOf = (under: Partial<Conditions>) => answers(under).usefulEnd.time / SECONDS_PER_HOUR;
    return {
      name,
      conditions,
      hours: usefulEnd.time / SECONDS_PER_HOUR,
      usefulEnd,
      deadEnd,
      rate: worstCell.rate,
      ...(name === 'later' ? { range: laterRange(doc, hoursOf) } : {}),
      ...(warmth ? { warmth } : {}),
      ...(groups ? { groups } : {}),
    };
  });
}
