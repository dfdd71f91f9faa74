import { describe, expect, it } from 'vitest';
import { brent, cellCurves, CELL_LIBRARY, pchip, socFromVoltage, decodeThread } from './core.ts';
import { chenRinconMora } from '../src/cells/chenRinconMora2006.ts';
import {
  CHEN_2020_WINDOWS,
  fullCellOcv,
  graphiteSafari2011,
  graphiteSiliconChen2020,
  LFP_WINDOWS,
  lfpSafari2011,
  nmcChen2020,
} from '../src/cells/electrodes.ts';
import { windowsFromLimits } from '../src/cells/windows.ts';
import { gaussPanels as gauss } from '../src/numeric/quadrature.ts';
import { load, thread } from './build.ts';
import { cases, input, meets, type Case } from './cases.ts';

const twentyOne = Array.from({ length: 21 }, (_, k) => k / 20);
const nmc = fullCellOcv(nmcChen2020, graphiteSiliconChen2020, CHEN_2020_WINDOWS);
const lfp = fullCellOcv(lfpSafari2011, graphiteSafari2011, LFP_WINDOWS);
const polymer = cellCurves(CELL_LIBRARY['polymer-850-published']!);

/** State of charge at which a rising curve stands at `volts`. */
const restsAt = (ocv: ReturnType<typeof pchip>, volts: number) =>
  brent((s) => volts - ocv.at(s), 0, 1, 1e-12).x;

const solve: Record<string, (c: Case) => Record<string, unknown>> = {
  'B-NMC-1': () => ({ ocv_table: twentyOne.map(nmc), mean_ocv: gauss(nmc, 0, 1, 40) }),
  'B-LFP-1': () => ({ ocv_table: twentyOne.map(lfp), mean_ocv: gauss(lfp, 0, 1, 200) }),
  'B-NMC-3': (c) => {
    const w = windowsFromLimits(
      nmcChen2020,
      graphiteSiliconChen2020,
      {
        negative: input(c, 'negative_capacity'),
        positive: input(c, 'positive_capacity'),
        lithium: input(c, 'cyclable_lithium'),
      },
      { empty: input(c, 'v_min'), full: input(c, 'v_max') },
    );
    return {
      x_at_soc_0: w.negative[0],
      x_at_soc_1: w.negative[1],
      y_at_soc_0: w.positive[0],
      y_at_soc_1: w.positive[1],
      capacity: w.capacityAh,
    };
  },
  'B-CRM-1': () => ({
    ocv_table: twentyOne.map(polymer.ocv.at),
    total_resistance_table: twentyOne.map((s) =>
      polymer.branches.reduce((sum, b) => sum + b.ohms.at(s), polymer.r0.at(s)),
    ),
  }),
  'B-INV-1': (c) => ({
    soc: (input(c, 'voltages') as unknown as number[]).map((v) =>
      socFromVoltage(CELL_LIBRARY['polymer-850-published']!, v),
    ),
  }),
  'B-FLAT-1': (c) => {
    const knots = Array.from({ length: 401 }, (_, k) => k / 400);
    const ocv = pchip(knots, knots.map(lfp));
    const at = ocv.at(input(c, 'soc'));
    const error = input(c, 'voltage_error');
    return {
      ocv: at,
      soc_low: restsAt(ocv, at - error),
      soc_high: restsAt(ocv, at + error),
    };
  },
};

describe('open-circuit voltage against direct evaluation', () => {
  for (const c of cases('B_ocv')) it(`${c.id}: ${c.description}`, () => meets(c, solve[c.id]!(c)));

  it('the tabulated published cell stays within 0.1 mV and 0.01 % of its formulas between the knots', () => {
    for (let s = 0.0002; s < 1; s += 0.00037) {
      expect(Math.abs(polymer.ocv.at(s) - chenRinconMora.ocv(s))).toBeLessThan(1e-4);
      expect(Math.abs(polymer.r0.at(s) / chenRinconMora.r0(s) - 1)).toBeLessThan(1e-4);
    }
  });

  it('every shipped cell is a valid record', () => {
    for (const cell of Object.values(CELL_LIBRARY)) {
      expect(decodeThread(thread({ cell, loads: [load('power', 1)] }))).toMatchObject({ ok: true });
    }
    expect(Object.values(CELL_LIBRARY).filter((c) => c.grade === 'typical').length).toBeGreaterThanOrEqual(8);
  });
});

describe('PCHIP', () => {
  it('keeps the order of its data, meets the knots and integrates exactly what it evaluates', () => {
    const x = [0, 0.1, 0.4, 0.45, 0.9, 1];
    const y = [0, 2, 2.1, 5, 5, 6];
    const curve = pchip(x, y);
    let last = -1;
    for (let v = 0; v <= 1.0001; v += 0.001) {
      expect(curve.at(v)).toBeGreaterThanOrEqual(last - 1e-12);
      last = curve.at(v);
    }
    x.forEach((v, k) => expect(curve.at(v)).toBeCloseTo(y[k]!, 12));
    for (const to of [0.05, 0.42, 0.77, 1]) {
      const pieces = x.filter((v) => v < to).concat(to);
      const byGauss = pieces.slice(1).reduce((s, b, k) => s + gauss(curve.at, pieces[k]!, b), 0);
      expect(curve.integral(to)).toBeCloseTo(byGauss, 12);
    }
  });
});
