import {
  charge as chargeThread,
  chargeFindings,
  Reading,
  chargeTogether,
  type ChargeEnd,
  type ChargeResult,
  type Keeps,
  type Together,
} from '@mile-thread/core/charging';
import type { Finding } from '@mile-thread/core';
import type { Source, ThreadDocument } from '@mile-thread/core/model';
import { threadKey } from '@mile-thread/core/solve';
import { kept } from './runs.ts';

const charges = new Map<string, ChargeResult>();

function chargeOf(doc: ThreadDocument, source?: Source): ChargeResult {
  const key = source ? `${threadKey(doc)} ${JSON.stringify(source)}` : threadKey(doc);
  return kept(charges, key, () => chargeThread(doc, source));
}

/** The charge of a thread that says how it is charged; null of one that does not. */
export function charge(doc: ThreadDocument): ChargeResult | null {
  return doc.charging ? chargeOf(doc) : null;
}

/** What the checks say of a thread's charge. */
export function chargeChecks(doc: ThreadDocument): Finding[] {
  return doc.charging ? chargeFindings(doc, chargeOf(doc)) : [];
}

/** What a source comes to before a thread's charger. */
export interface TriedSource {
  source: Source;
  /** whether it is the one the thread has */
  inUse: boolean;
  to80: number | undefined;
  end: { time: number; reason: ChargeEnd; soc: number; keeps?: Keeps };
  celsius: number | undefined;
  /** the worst that is said of it; none where it fits */
  worst: Finding | undefined;
  /** [s], state of charge and share of the largest current, a few dozen */
  course: { time: number[]; soc: number[]; amps: number[] };
}

/** Points of a small course. */
const POINTS = 60;

/** The thread's source and those kept beside it, each with its charge. */
export function sources(doc: ThreadDocument): TriedSource[] {
  const { charging } = doc;
  if (!charging) return [];
  return [charging.source, ...(charging.tries ?? [])].map((source, k) => {
    const result = chargeOf(doc, k === 0 ? undefined : source);
    const about = { ...doc, charging: { ...charging, source } };
    const worst = chargeFindings(about, result).find((f) => OF_SOURCE.has(f.id.split(':')[0]!));
    const { end, to80, hottest, series } = result;
    return {
      source,
      inUse: k === 0,
      to80,
      end: { time: end.time, reason: end.reason, soc: end.soc, ...(end.keeps ? { keeps: end.keeps } : {}) },
      celsius: hottest?.celsius,
      worst,
      course: chargeCourse(new Reading(series), end.time),
    };
  });
}

/** Families of findings that another source would change. */
const OF_SOURCE = new Set([
  'charge-through',
  'over-charged',
  'no-charger',
  'charge-input',
  'charge-rate',
  'contract',
  'source-asked',
  'never-ends',
  'charge-late',
  'charge-drained',
  'charge-heat',
  'charge-cable',
  'precharge-timer',
]);

function chargeCourse(rows: Reading, until: number) {
  const time = Array.from({ length: POINTS + 1 }, (_, k) => (until * k) / POINTS);
  const at = time.map((t) => rows.rowAt(t));
  const most = Math.max(1e-9, ...at.map((r) => rows.of(r, 'outAmps')));
  return {
    time,
    soc: time.map((t) => rows.between(t, 'soc')),
    amps: at.map((r) => rows.of(r, 'outAmps') / most),
  };
}

/** All packs on a thread's source, its own first; null of one that is alone on it. */
export function stations(doc: ThreadDocument): Together | null {
  const { charging } = doc;
  if (!charging?.stations?.length) return null;
  return chargeTogether(doc, [charging.from, ...charging.stations.map((s) => s.from)]);
}
