import { issue } from '../../model/issue.ts';
import { ReadSource, SourceReading } from '../../model/sources/readings.ts';
import { formatQuantity } from '../../units/formatQuantity.ts';
import type { SourceKind } from './kind.ts';
import { straight } from './straight.ts';

/**
 * Open volts and droop of an adapter by its readings: least squares. A droop that rises with the current is noise and counts
 * as none.
 * @returns [V] [Ω], and [V] the largest reading beside the line
 */
export function throughReadings(readings: readonly SourceReading[]): {
  volts: number;
  droop: number;
  off: number;
} {
  const n = readings.length;
  const mean = readings.reduce((s, r) => s + r.amps, 0) / n;
  const level = readings.reduce((s, r) => s + r.volts, 0) / n;
  const square = readings.reduce((s, r) => s + (r.amps - mean) ** 2, 0);
  const product = readings.reduce((s, r) => s + (r.amps - mean) * (r.volts - level), 0);
  const droop = square > 0 ? Math.max(0, -product / square) : 0;
  const volts = level + droop * mean;
  const off = Math.max(...readings.map((r) => Math.abs(volts - droop * r.amps - r.volts)));
  return { volts, droop, off };
}

/** A plug adapter whose true curve comes from readings. */
export const readings: SourceKind<ReadSource> = {
  kind: 'readings',
  model: ReadSource,
  label: 'readings',
  words: (source) => `${source.readings.length} readings · ${formatQuantity(source.limit, 'A')}`,
  issues: (source, at) =>
    new Set(source.readings.map((r) => r.amps)).size > 1
      ? []
      : [issue('range', `${at}.readings`, 'one current', 'readings at two currents or more')],
  law: (source) => {
    const { volts, droop } = throughReadings(source.readings);
    return straight(source, { open: volts, droop, limit: source.limit });
  },
  said: (source) => ({ volts: source.readings[0]!.volts, amps: source.limit }),
  retold: (rest, { volts, amps }) => ({
    ...rest,
    kind: 'readings',
    limit: amps,
    readings: [
      { amps: Number((amps / 4).toPrecision(2)), volts },
      { amps, volts: Number((0.98 * volts).toPrecision(3)) },
    ],
  }),
  // At nothing and at half its limit.
  withCurve: (source, { open, droop }) => ({
    ...source,
    readings: [0, source.limit / 2].map((amps) => ({ amps, volts: open - droop * amps })),
  }),
  lists: [
    {
      ...{ name: 'Reading', field: 'readings', model: SourceReading, least: 2 },
      fresh: (source) => ({ amps: 1, volts: source.readings[0]!.volts }),
    },
  ],
};
