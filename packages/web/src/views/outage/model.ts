import { ChargeReading, type BackupAnswers, type Hold } from '@mile-thread/core/charging';
import { JOINS, type Charging, type Edit, type ThreadDocument } from '@mile-thread/core/model';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';

/** Ways source and battery may meet, as they are offered. */
export type Way = 'bus' | (typeof JOINS)[number];
export const WAYS: readonly Way[] = ['bus', 'diode', 'ideal', 'managed'];

/** How a thread's source and battery meet. */
export function wayOf({ meanwhile, join }: Charging): Way {
  return meanwhile === 'path' ? (join?.kind ?? 'managed') : 'bus';
}

/** What the ways of a kind lose: a Schottky diode, a transistor that is driven as one. Common practice, no source. */
const LOSES: Readonly<Record<Exclude<Way, 'bus'>, { volts: number; resistance: number }>> = {
  diode: { volts: 0.35, resistance: 0.12 },
  ideal: { volts: 0, resistance: 0.02 },
  managed: { volts: 0, resistance: 0.03 },
};

/** Let source and battery meet in another way, on the rail they met on, or that of the first stage. */
export function meeting({ stages, charging }: ThreadDocument, way: Way): Edit[] {
  const path = ['charging', 'meanwhile'];
  if (way === 'bus') return [{ op: 'replace', path, value: 'battery' }];
  const { join } = charging!;
  const at = join?.at ?? stages.find((s) => s.from === 'pack')?.id ?? 'pack';
  const value = {
    ...(join ?? { wake: 1e-3, capacitance: 1e-3, esr: 0.04 }),
    at,
    kind: way,
    adapter: { ...LOSES[way] },
    battery: { ...LOSES[way] },
  };
  return [
    { op: 'replace', path, value: 'path' },
    { op: join ? 'replace' : 'add', path: ['charging', 'join'], value },
  ];
}

/** Hold time [s] of a curve from a state of charge. */
export function heldFrom({ soc, seconds }: Hold, from: number): number {
  for (let k = 1; k < soc.length; k++) {
    if (soc[k]! > from) continue;
    const share = (soc[k - 1]! - from) / (soc[k - 1]! - soc[k]!);
    return seconds[k - 1]! + share * (seconds[k]! - seconds[k - 1]!);
  }
  return 0;
}

/** Least state of charge from which it holds so long [s]; undefined where not even a full pack does. */
export function neededFor({ soc, seconds }: Hold, wanted: number): number | undefined {
  if (seconds[0]! < wanted) return undefined;
  for (let k = 1; k < soc.length; k++) {
    if (seconds[k]! >= wanted) continue;
    const share = (seconds[k - 1]! - wanted) / (seconds[k - 1]! - seconds[k]!);
    return soc[k - 1]! + share * (soc[k]! - soc[k - 1]!);
  }
  return 0;
}

/** Columns of the timeline for its lanes: hours, share of charge, adapter's amps, volts of the first load. */
export function lanesOf(doc: ThreadDocument, { result }: BackupAnswers) {
  const { series } = result;
  const rows = new ChargeReading(series);
  const all = Array.from({ length: rows.count }, (_, k) => k);
  const essential = doc.loads.findIndex((l) => l.essential);
  return {
    hours: all.map((k) => rows.at(k, 'time') / SECONDS_PER_HOUR),
    soc: all.map((k) => rows.at(k, 'soc')),
    amps: all.map((k) => rows.of(k, 'sourceAmps')),
    volts: all.map((k) => (essential < 0 ? rows.at(k, 'packVolts') : rows.load(k, essential))),
  };
}

/** What moving or stretching an outage makes of it, within the timeline and to a quarter of an hour. [h] */
export function dragged(
  { from, hours }: { from: number; hours: number },
  grip: 'whole' | 'begin' | 'end',
  by: number,
  span: number,
): { from: number; hours: number } {
  const round = (h: number) => Math.round(4 * h) / 4;
  if (grip === 'whole') {
    return { from: Math.max(0, Math.min(round(from + by), span - Math.min(hours, span))), hours };
  }
  if (grip === 'end') {
    return { from, hours: Math.max(0.25, Math.min(round(hours + by), span - from)) };
  }
  const end = from + hours;
  const begin = Math.max(0, Math.min(round(from + by), end - 0.25));
  return { from: begin, hours: end - begin };
}
