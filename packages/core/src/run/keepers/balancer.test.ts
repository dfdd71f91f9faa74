import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../../test/build.ts';
import { PAST_FULL } from '../../plant/cellTable.ts';
import { charge, Reading, defaultLinear, outage, type Charging } from '../../../test/core.ts';

/** Groups of three cells side by side of 2 Ah, 3 V to 4.2 V straight, 20 mΩ. */
const cell = { ...plainCell(2, 3, 4.2, 0.02), fullVolts: 4.2 };
const groups = [
  { capacity: 1, resistance: 1, startSoc: 0.5 },
  { capacity: 0.9, resistance: 1.2, startSoc: 0.8 },
  { capacity: 1, resistance: 1, startSoc: 0.5 },
];
const charging: Charging = {
  source: { kind: 'supply', name: 'S', volts: 16, droop: 0, limit: 5, beyond: 'hard', grade: 'assumed' },
  stage: { ...defaultLinear('c', 'source', 12.3), outputLimit: 5, maxInput: 30, thermalResistance: 1 },
  control: { current: 3, sense: 'output', terminate: 0.3 },
  meanwhile: 'off',
  from: 0.5,
};

function balanced(bleed: number | undefined, above = 4.0) {
  const protection = {
    ...seriesOhms(0),
    overVolts: 4.35,
    ...(bleed === undefined ? {} : { balanceCurrent: bleed, balanceVolts: above }),
  };
  const doc = thread({
    cell,
    pack: { series: 3, parallel: 3, groups, startSoc: 0.5, protection },
    loads: [load('current', 0.1)],
  });
  return charge({ ...doc, charging });
}

describe('a board that bleeds the groups that stand high', () => {
  it('would take what they lack over its current to bring them level, all cells of a group counted', () => {
    // The first lacks 3·2 Ah·0.5 = 3 Ah, the second 3·1.8 Ah·0.2 = 1.08 Ah: 1.92 Ah at 0.1 A.
    expect(balanced(0.1).groups!.toEven! / 3600).toBeCloseTo(1.92 / 0.1, 6);
    expect(balanced(undefined).groups!.toEven).toBeUndefined();
  });

  it('bleeds only the one that stands above, for as long as it does, and closes the account', () => {
    const result = balanced(0.1);
    const { bled, soc, volts, highest, fullest } = result.groups!;
    expect(bled[0]).toBe(0);
    expect(bled[2]).toBe(0);
    expect(bled[1]!).toBeGreaterThan(600);
    expect(bled[1]!).toBeLessThan(result.end.time);
    expect(fullest).toBe(1);
    expect(highest[0]).toEqual({ group: 1, from: 0 });
    expect(result.ledger.closure).toBeLessThan(1e-6);
    // What came into each is one charge; the second has less by what was bled.
    // It stands a little past full, which is told as full: by its volts, less those of 1 A through 24 mΩ.
    const past = [0, (volts[1]! - (result.end.amps / 3) * 0.024 - 4.2) / PAST_FULL, 0];
    const came = (k: number) => 3 * 2 * groups[k]!.capacity * (soc[k]! + past[k]! - groups[k]!.startSoc);
    expect(came(0)).toBeCloseTo(came(2), 4);
    expect((came(0) - came(1)) / ((0.1 * bled[1]!) / 3600)).toBeCloseTo(1, 2);
    // Its energy is booked where the board's losses are.
    const joules = result.ledger.entries
      .filter((e) => e.element === 'protection')
      .reduce((s, e) => s + e.joules, 0);
    expect(joules / (0.1 * bled[1]! * 4.15)).toBeCloseTo(1, 1);
  });

  it('begins later where it bleeds only higher up, and twice the current bleeds twice the charge', () => {
    const [low, high] = [balanced(0.1, 4.0), balanced(0.1, 4.15)];
    expect(high.groups!.bled[1]!).toBeLessThan(low.groups!.bled[1]!);
    const strong = balanced(0.2, 4.0);
    expect((2 * strong.groups!.bled[1]!) / low.groups!.bled[1]!).toBeGreaterThan(1.6);
    expect(balanced(undefined).groups!.bled).toEqual([0, 0, 0]);
  });
});

describe('days on mains', () => {
  /** Kept at 4.1 V a cell; the second group begins 0.3 Ah fuller, and bleeds 50 mA above 4.05 V. */
  const kept = (bleed: number | undefined) => {
    const protection = {
      ...seriesOhms(0),
      overVolts: 4.35,
      ...(bleed === undefined ? {} : { balanceCurrent: bleed, balanceVolts: 4.05 }),
    };
    const doc = thread({
      cell,
      pack: {
        series: 2,
        parallel: 1,
        groups: [
          { capacity: 1, resistance: 1, startSoc: 0.5 },
          { capacity: 1, resistance: 1, startSoc: 0.65 },
        ],
        startSoc: 0.5,
        protection,
      },
      loads: [load('current', 0.2, { range: { min: 6, max: 9 } })],
    });
    return {
      ...doc,
      charging: {
        ...charging,
        source: { ...charging.source, volts: 12 },
        stage: { ...charging.stage, outputVolts: 8.2 },
        control: { current: 1, sense: 'output', terminate: 0.1, endsBy: 'battery', recharge: 4.0 },
        meanwhile: 'battery',
      } as Charging,
    };
  };
  const day = 86_400;

  it('bring unlike groups level: they then pass as much together as each of them holds', () => {
    const gone = [{ from: 2 * day, to: 3 * day }];
    const held = (bleed: number | undefined) => {
      const r = outage(kept(bleed), gone, 3 * day, { startSoc: 0.5 });
      expect(r.end.whole).toBe(true);
      expect(r.ledger.closure).toBeLessThan(1e-6);
      const rows = new Reading(r.series);
      const charge = (0.2 * (r.dark[0]!.from - gone[0]!.from)) / 3600;
      // All of what the groups can pass together, from what of it was there.
      return charge / rows.at(rows.rowAt(gone[0]!.from), 'soc');
    };
    // Of 2 Ah: all of it, or 0.3 Ah less.
    expect(held(0.05)).toBeGreaterThan(1.95);
    expect(held(undefined)).toBeCloseTo(1.7, 2);
  });

  it('a thermistor keeps the pack from being charged there too', () => {
    const doc = kept(undefined);
    doc.charging.control = { ...doc.charging.control!, coldest: 5, hottest: 40 };
    const left = (air: number) => outage({ ...doc, loads: [] }, [], day, { startSoc: 0.5, air }).lowest;
    const end = (air: number) => {
      const { series } = outage({ ...doc, loads: [] }, [], day, { startSoc: 0.5, air });
      return series.data[(series.count - 1) * (series.data.length / series.count) + 1]!;
    };
    expect(left(0).soc).toBeCloseTo(left(20).soc, 3);
    expect(end(0)).toBeLessThan(0.7);
    expect(end(45)).toBeLessThan(0.7);
    expect(end(20)).toBeGreaterThan(0.8);
  });
});
