import { groupsOf, windowOf, type CellGroup } from '../model/group.ts';
import { repeats } from '../model/cycle.ts';
import type { Source } from '../model/sources/registry.ts';
import { cycleSeconds } from '../model/programme.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { DailyAir, goesWithDays } from './warmth.ts';
import { oddOf, startOf } from './sharing.ts';

/** Under what a thread is run. All of it is applied once, when its plant is compiled. */
export interface Conditions {
  /** [°C] around the pack and the stages */
  air: number;
  /** [K/W] of the air in the box above that outside; 0 in the open */
  box: number;
  /** charge left of the rated, 1 for a new cell */
  capacity: number;
  /** resistance over that of a new cell, 1 for a new one */
  resistance: number;
  /** self-discharge over that stated */
  selfDischarge: number;
  /** state of charge at the start, 0…1; where groups differ, of the pack: see `windowOf` */
  startSoc: number;
  /** a group that is weaker than the others, where the thread states none */
  weakest?: CellGroup;
  /** the air through the day, around `air` */
  daily?: DailyAir;
  /** id of the mode that is held throughout; absent: the thread's programme */
  mode?: string;
  /** the pack is being charged as the thread says, by this source where one is given */
  charge?: { source?: Source };
}

/** The conditions a thread states itself: usual air, new cells, its own start and programme. */
export function conditionsOf(doc: ThreadDocument, more: Partial<Conditions> = {}): Conditions {
  const { air, boxResistance = 0, daily } = surroundingsOf(doc);
  // What comes again and again at other hours has the mean of the day.
  // A coldest or warmest air is already that of its hour.
  const usual = more.air === undefined || more.air === air;
  const days =
    more.mode !== undefined || !repeats(doc) || goesWithDays(doc.programme && cycleSeconds(doc.programme));
  const groups = groupsOf(doc.pack, more.weakest);
  const odd = oddOf(doc.pack);
  return {
    air,
    box: boxResistance,
    capacity: 1,
    resistance: 1,
    selfDischarge: 1,
    ...(daily && days && usual ? { daily: DailyAir.of(daily.swing, daily.warmestAt, daily.startsAt) } : {}),
    startSoc: groups ? windowOf(groups).start : odd ? startOf(odd) : doc.pack.startSoc,
    ...more,
  };
}
