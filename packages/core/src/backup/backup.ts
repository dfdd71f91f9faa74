import type { ThreadDocument } from '../model/thread.ts';
import { Allowance } from '../numeric/allowance.ts';
import { Reading } from '../run/reading/reading.ts';
import { endsFull } from '../run/account/chargeResult.ts';
import type { Gone } from '../run/account/outageResult.ts';
import { outage } from '../run/outage.ts';
import type { OutageResult } from '../run/account/outageResult.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { askedOf, meanWatts, mostOf } from './atTransfer.ts';
import { adapterAt, chargedAlone, dipOf, filledFrom, meetingVolts, type Dip } from './meeting.ts';
import { goneOf } from './timeline.ts';
import { floatLevels, type FloatLevel } from './float.ts';
import { holdTimes, type Hold } from './hold.ts';
import { dipChance } from './years.ts';

/** What one outage did. [s] */
export interface OutageRow {
  /** [s] */
  from: number;
  to: number;
  /** state of charge when it ends */
  left: number;
  /** time until the charge it began with is back; absent where the next comes first or the timeline ends */
  recharge?: number;
  /** from its end to the next */
  gap: number;
  dark: boolean;
}

/** All that is asked of a thread that is to carry its loads without mains. */
export interface BackupAnswers {
  result: OutageResult;
  merged: boolean;
  holds: Hold[];
  rows: OutageRow[];
  /**
   * the rail at the heaviest transfer, and the chance that it falls too low when mains goes at any instant; absent where they meet
   * on the battery, which drops nothing
   */
  dip?: Dip & { chance: number };
  /** [V] the rail stands at on the adapter, and on the battery */
  rail: { adapter: number; battery: number };
  /** [A] the adapter is asked for at worst, charge and heaviest loads together, and what it gives */
  adapter: { worst: number; limit: number };
  /** [W] the rail is asked for in the mean and at the heaviest */
  asked: { mean: number; most: number };
  /** what it holds where cells stand less than full, see `floatLevels` */
  levels: FloatLevel[];
  /** [s] from empty to full, mains there; absent where it never is */
  refill?: number;
  /** whether something of it took more work than is allowed, and so is not known to its end */
  unanswered?: boolean;
}

/** What all of it may cost. */
const EFFORT = 220_000;

/** Work out a thread's backup. @throws Error where it says nothing of mains: a programmer's mistake */
export function backupOf(doc: ThreadDocument): BackupAnswers {
  const { backup, charging } = doc;
  if (!backup || !charging) throw new Error('backupOf: the thread says nothing of mains');
  const { gone, merged } = goneOf(backup);
  const allowance = new Allowance(EFFORT);
  const result = outage(doc, gone, backup.span * SECONDS_PER_HOUR, {}, { allowance });
  const filled = filledFrom(doc, allowance);
  const rail = meetingVolts(doc, charging);
  const holds = holdTimes(doc, allowance);
  const asked = askedOf(doc, charging, rail.adapter, allowance);
  const alone = chargedAlone(doc, allowance);
  const watts = mostOf(asked);
  const dip = dipOf(charging, rail, watts);
  return {
    result,
    merged,
    holds,
    levels: floatLevels(doc, holds),
    rows: rowsOf(result, gone, backup.span * SECONDS_PER_HOUR, filled.end.soc),
    ...(dip ? { dip: { ...dip, chance: dipChance({ ...dip, asked }) } } : {}),
    rail: { adapter: rail.adapter, battery: rail.battery },
    adapter: adapterAt(charging, alone, watts, rail.adapter),
    asked: { mean: meanWatts(asked), most: watts },
    ...(endsFull(filled.end.reason) ? { refill: filled.end.time } : {}),
    ...(allowance.spent ? { unanswered: true } : {}),
  };
}

function rowsOf(
  { series, dark }: OutageResult,
  gone: readonly Gone[],
  span: number,
  full: number,
): OutageRow[] {
  const rows = new Reading(series);
  const socAt = (time: number) => rows.at(rows.rowAt(time), 'soc');
  return gone.map(({ from, to }, k) => {
    const next = gone[k + 1]?.from ?? span;
    const before = Math.min(full, socAt(from - 1e-3));
    let recharge: number | undefined;
    for (let row = rows.rowAt(to); row < rows.count && rows.at(row, 'time') <= next; row++) {
      if (rows.at(row, 'time') < to || rows.at(row, 'soc') < before - BACK) continue;
      recharge = rows.at(row, 'time') - to;
      break;
    }
    return {
      from,
      to,
      left: Math.max(0, socAt(to - 1e-3)),
      ...(recharge === undefined ? {} : { recharge }),
      gap: next - to,
      dark: dark.some((d) => d.from < to && d.to > from),
    };
  });
}

/** Share of the charge by which it may be less than before an outage and count as back. */
const BACK = 0.005;
