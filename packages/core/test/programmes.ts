import fc from 'fast-check';
import { CELL_LIBRARY, type Load, type Protection, type ThreadDocument } from './core.ts';
import { defaultBuckBoost } from '../src/model/kinds/buckBoost.ts';
import type { Segment } from '../src/model/programme.ts';
import { load, plainCell, seriesOhms, thread } from './build.ts';

export const BUSY_CELL = { ...plainCell(1, 3, 4, 0.05), selfDischargePerMonth: 0 };
export const MODES = [
  { id: 'on', name: 'On' },
  { id: 'off', name: 'Off' },
];

/** A minute on, a minute off, on a cell of 1 Ah or more that falls from 4 to 3 V behind 50 mΩ. */
export function cycled(
  loads: Partial<Load>[],
  protection?: Partial<Protection>,
  ampHours = 1,
): ThreadDocument {
  const doc = thread({
    cell: { ...BUSY_CELL, capacityAh: ampHours },
    ...(protection ? { pack: { protection: { ...seriesOhms(0, 1), ...protection } } } : {}),
    loads: loads.map((l, k) => load('current', 1, { id: `l${k}`, draws: [{ mode: 'off', value: 0 }], ...l })),
  });
  const segments = MODES.map(({ id }) => ({ mode: id, seconds: 60 }));
  return { ...doc, modes: MODES, programme: { segments, after: 'repeat' } };
}

/** A small pack that some hundreds of cycles empty: a load behind a buck-boost, and one on the pack. */
export const anyProgramme = fc
  .record({
    cell: fc.constantFrom('14500', 'polymer-850-published', 'pouch-high-rate'),
    seconds: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 2, maxLength: 5 }),
    rail: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 5, maxLength: 5 }),
    direct: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 5, maxLength: 5 }),
    cycles: fc.double({ min: 150, max: 500, noNaN: true }),
  })
  .map(({ cell, seconds, rail, direct, cycles }): ThreadDocument => {
    const record = CELL_LIBRARY[cell] ?? CELL_LIBRARY['14500']!;
    const modes = seconds.map((_, k) => ({ id: `m${k}`, name: `Mode ${k}` }));
    const share = seconds.map((s) => 0.05 + s);
    const whole = share.reduce((a, b) => a + b, 0);
    const draws = (values: number[], most: number) =>
      modes.map(({ id }, k) => ({ mode: id, value: values[k]! < 0.15 ? 0 : most * values[k]! ** 2 }));
    const amps = 0.6 * record.capacityAh;
    const drawn = draws(rail, 2.5 * amps);
    const taken = draws(direct, amps);
    const mean = share.reduce(
      (sum, s, k) => sum + (s / whole) * (drawn[k]!.value / 3.4 + taken[k]!.value),
      1e-3,
    );
    const period = (3600 * record.capacityAh) / mean / cycles;
    const segments = share.map((s, k): Segment => ({
      mode: `m${k}`,
      seconds: Math.max(1e-3, (s / whole) * period),
    }));
    const doc = thread({
      cell: record,
      pack: { protection: seriesOhms(0.04, record.endVolts - 0.2) },
      stages: [{ ...defaultBuckBoost('s', 'pack', 3.3), inputLimit: 50, minInput: 1, hysteresis: 0.1 }],
      loads: [
        { ...load('power', 1, { from: 's', range: { min: 3.2, max: 3.4 } }), draws: drawn },
        { ...load('current', 1, { id: 'direct', range: { min: 0, max: 9 } }), draws: taken },
      ],
    });
    return { ...doc, modes, programme: { segments, after: 'repeat' } };
  });

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const busy = fc.record({
  peak: unit,
  seconds: unit,
  every: unit,
  radio: unit,
  min: unit,
  delay: unit,
  below: fc.constantFrom('stops', 'resets', 'works'),
});

/** A cell under peaks of power, with a board and a load that gives way. */
export const anyBusy: fc.Arbitrary<ThreadDocument> = busy.map((p) =>
  cycled(
    [
      {
        draw: 'power',
        power: 1 + 3 * p.radio,
        essential: false,
        peaks: [
          { factor: 1 + 4 * p.peak, seconds: 0.01 + 5 * p.seconds, mode: 'on', every: 8 + 30 * p.every },
        ],
      },
      {
        current: 0.05 + 0.3 * p.radio,
        draws: [],
        range: { min: 3 + 0.4 * p.min, max: 9 },
        essential: p.min > 0.5,
        below: p.below as 'stops',
        restart: { seconds: 1, value: 0.3 },
      },
    ],
    { tripCurrent: 4, tripDelay: 2 * p.delay, cutoffVolts: 2.9 },
  ),
);
