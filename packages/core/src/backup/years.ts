import type { Chance } from '../model/backup.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { normalQuantile, randomOf } from '../numeric/random.ts';
import { darkSeconds, type Gone } from '../run/account/outageResult.ts';
import { LongLook } from '../run/longLook.ts';
import { handOver, type Transfer } from '../transients/transfer.ts';
import { HOURS_PER_MONTH, SECONDS_PER_HOUR } from '../units/constants.ts';
import { meetings, recurringOf } from './timeline.ts';
import type { AskedFor } from './atTransfer.ts';

/** [s] */
const YEAR = 12 * HOURS_PER_MONTH * SECONDS_PER_HOUR;
/** Years of chance that are looked at. */
export const YEARS = 100;
/** Seed of the first of them: the same years each time, so that a change of the design shows and not chance. */
const SEED = 7;

/**
 * The outages of a random year: they begin by a Poisson process, their lengths are log-normal, with the median stated and one
 * in six above the other length stated. Elementary.
 * @param year its number; the same has the same outages @param span [s]
 */
export function randomYear({ perYear, half, sixth }: Chance, year: number, span = YEAR): Gone[] {
  const random = randomOf(SEED, year);
  const spread = Math.log(sixth / half) / normalQuantile(5 / 6);
  const gone: Gone[] = [];
  for (let at = 0; ;) {
    at += (-Math.log(random()) / perYear) * YEAR;
    if (at >= span) return meetings(gone).gone;
    const hours = half * Math.exp(spread * normalQuantile(random()));
    gone.push({ from: at, to: Math.min(span, at + hours * SECONDS_PER_HOUR) });
  }
}

/** What a year of chance did. */
export interface Year {
  year: number;
  /** how many outages, and [s] the longest */
  outages: number;
  longest: number;
  /** [s] in which the loads were dropped, and how often */
  dark: number;
  drops: number;
  /** how often the rail fell below what is wanted as mains went */
  dips: number;
  /** state of charge at its lowest */
  lowest: number;
}

/** What years are asked with: a transfer under nothing, and what the rail is asked for over the programme. */
export interface DipOdds {
  task: Transfer;
  /** [V] */
  wanted: number;
  asked: readonly AskedFor[];
}

/** Chance that the rail falls below what is wanted when mains goes at any instant: the time in which it is asked for so much. */
export function dipChance({ task, wanted, asked }: DipOdds): number {
  if (!(wanted > 0)) return 0;
  const falls = (watts: number) => {
    const { lowest, settles } = handOver({ ...task, watts });
    return Math.min(lowest, settles) < wanted;
  };
  // The more is asked for, the lower it falls: the least that makes it fall too low is closed in on.
  const rising = [...new Set(asked.filter((a) => a.share > 0).map((a) => a.watts))].sort((a, b) => a - b);
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (falls(rising[middle]!)) high = middle;
    else low = middle + 1;
  }
  const least = rising[low] ?? Infinity;
  return Math.min(
    1,
    asked.reduce((sum, { watts, share }) => sum + (watts >= least ? share : 0), 0),
  );
}

/**
 * Years of chance, one after the other; gives way between them.
 * @param doc a thread whose `backup` says a chance; a programmer's error otherwise
 * @param dips chance that a transfer dips, see `dipChance`
 */
export function* yearsOf(
  doc: ThreadDocument,
  from: number,
  to: number,
  dips: number,
): Generator<number, Year[], undefined> {
  const { chance, recurring } = doc.backup!;
  const look = new LongLook(doc);
  const found: Year[] = [];
  for (let year = from; year < to; year++) {
    const { gone } = meetings([...randomYear(chance!, year), ...recurringOf(recurring, YEAR)]);
    found.push(yearOf(look, year, gone, dips));
    yield (year + 1 - from) / (to - from);
  }
  return found;
}

function yearOf(look: LongLook, year: number, gone: readonly Gone[], dips: number): Year {
  const found = look.over(gone, YEAR, { rows: 0 });
  // Numbers of their own: which transfers dip says nothing of when mains goes.
  const random = randomOf(SEED + 1, year);
  return {
    year,
    outages: gone.length,
    longest: Math.max(0, ...gone.map((g) => g.to - g.from)),
    dark: darkSeconds(found),
    drops: found.dark.length,
    dips: gone.filter(() => random() < dips).length,
    lowest: found.lowest.soc,
  };
}

/** [fraction] 95 % interval of a share of so many. Wilson, J. Am. Stat. Assoc. 22 (1927) 209 (from memory). */
export function shareRange(count: number, of: number): { low: number; high: number } {
  const z = 1.959964;
  const p = count / of;
  const middle = (p + (z * z) / (2 * of)) / (1 + (z * z) / of);
  const half = (z / (1 + (z * z) / of)) * Math.sqrt((p * (1 - p)) / of + (z * z) / (4 * of * of));
  return { low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}
