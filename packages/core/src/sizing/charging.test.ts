import { describe, expect, it } from 'vitest';
import { load, thread } from '../../test/build.ts';
import { CELL_LIBRARY, charge } from '../../test/core.ts';
import { contractSource, suggestCharging, usualSources } from './charging.ts';

const cell = CELL_LIBRARY['18650-energy']!;
const doc = (series: number, parallel: number) =>
  thread({ cell, pack: { series, parallel }, loads: [load('current', 0.1)] });
const bench = usualSources().find((s) => s.name === 'Bench supply')!;
const named = (name: string) => usualSources().find((s) => s.name === name)!;

describe('a charger for a pack and a source', () => {
  it('charges at half the rate of all cells side by side, a tenth of it to end and to begin with', () => {
    for (const parallel of [1, 3]) {
      const { control } = suggestCharging(doc(2, parallel), bench);
      const wanted = Math.min(0.5, 0.9 * cell.chargeRate) * cell.capacityAh * parallel;
      expect(control!.current / wanted).toBeCloseTo(1, 1);
      expect(control!.terminate! / control!.current!).toBeCloseTo(0.1, 2);
      expect(control!.precharge).toMatchObject({ below: cell.endVolts });
      // Four times what the charge itself takes, and six hours at least.
      expect(control!.timer).toBe(
        Math.max(6, Math.ceil((4 * cell.capacityAh * parallel) / control!.current!)),
      );
    }
  });

  it('takes no more than the source gives: nine tenths of its power through a charger of 90 %, or of its current', () => {
    const port = suggestCharging(doc(3, 2), named('USB port 0.5 A'));
    // 2.5 W on 12.45 V.
    expect(port.control!.current! / ((0.81 * 2.5) / (3 * 4.15))).toBeCloseTo(1, 1);
    const linear = suggestCharging(doc(1, 3), named('USB port 0.5 A'));
    expect(linear.stage.kind).toBe('linear');
    expect(linear.control!.current).toBeCloseTo(0.45, 9);
    expect(linear.control!.inputLimit).toBeCloseTo(0.475, 9);
  });

  it('is of the kind that the volts ask for, and trimmed so that a per cent more is still no overcharge', () => {
    const kinds = [
      [1, 'USB-C 5 V 3 A', 'linear'],
      [1, 'Bench supply', 'buck'],
      [2, 'USB-C 5 V 3 A', 'boost'],
      [3, 'Adapter 12 V 2 A', 'buckBoost'],
      [4, 'Bench supply', 'buck'],
    ] as const;
    for (const [series, source, kind] of kinds) {
      const { stage } = suggestCharging(doc(series, 1), named(source));
      expect(stage.kind, `${series}S from ${source}`).toBe(kind);
      const per = (stage as { outputVolts: number }).outputVolts / series;
      expect(per / cell.fullVolts).toBeCloseTo(4.15 / 4.2, 3);
      expect(per * 1.01).toBeLessThan(cell.fullVolts);
      expect(stage.maxInput).toBeGreaterThan(0);
    }
  });

  it('fills three cells side by side as fast as it fills one, from a source that can', () => {
    const time = (parallel: number) => {
      const d = doc(2, parallel);
      const result = charge({ ...d, charging: suggestCharging(d, bench) });
      expect(result.end.reason).toBe('terminated');
      return result.end.time;
    };
    expect(time(3) / time(1)).toBeCloseTo(1, 1);
  });

  it('contracts give what their watts allow: 45 W are 3 A at 15 V and 2.25 A at 20 V, 140 W reach 28 V at 5 A', () => {
    // USB Power Delivery: 3 A up to 60 W, 5 A above, 28, 36 and 48 V above 100 W (from memory).
    const offers = (watts: number) => {
      const source = contractSource(5, watts);
      return source.kind === 'contracts' ? source.offers.map((o) => [o.volts, o.amps]) : [];
    };
    expect(offers(45)).toEqual([
      [5, 3],
      [9, 3],
      [12, 3],
      [15, 3],
      [20, 2.25],
    ]);
    expect(offers(15)[1]).toEqual([9, 1.67]);
    expect(offers(100).at(-1)).toEqual([20, 5]);
    expect(offers(140)).toContainEqual([28, 5]);
    expect(offers(140)).toContainEqual([48, 2.92]);
  });
});
