import { describe, expect, it } from 'vitest';
import { defaultBoost } from '../../model/kinds/boost.ts';
import { defaultBuck } from '../../model/kinds/buck.ts';
import { partsFor, schottky } from '../../sizing/suggest.ts';
import { CAPACITOR, GATE } from '../point.ts';
import { partsLaw } from '../traits.ts';
import type { Way } from './bridge.ts';
import { edges } from './losses.ts';
import { stressOf } from './stress.ts';

describe('an edge', () => {
  const way = (parts: Partial<Way>) => ({ capacitance: 0, on: 0, off: 0, ...parts }) as Way;

  it('charges both capacitances through the switch: ½·C·V² each, by the square of the volts', () => {
    const [main, other] = [way({ capacitance: 150e-12 }), way({ capacitance: 50e-12 })];
    expect(edges(main, other, 10, 2, 2)).toBeCloseTo(0.5 * 200e-12 * 100, 20);
    expect(edges(main, other, 20, 2, 2) / edges(main, other, 10, 2, 2)).toBeCloseTo(4, 12);
  });

  it('carries volts and current together: the triangle under each, none where the current runs back', () => {
    const main = way({ on: 10e-9, off: 20e-9 });
    // ½·12 V·1 A·10 ns + ½·12 V·3 A·20 ns.
    expect(edges(main, way({}), 12, 1, 3)).toBeCloseTo(60e-9 + 360e-9, 15);
    expect(edges(main, way({}), 12, -1, 3)).toBeCloseTo(360e-9, 15);
  });
});

describe('gates', () => {
  it('of every switch that is driven cost Q·V a period, those of a diode nothing', () => {
    for (const base of [
      defaultBuck('s', 'pack', 5),
      { ...defaultBoost('s', 'pack', 12), rectifierVolts: 0 },
    ]) {
      const parts = structuredClone(partsFor(base, { low: 7, high: 9 }, 0.5));
      Object.assign(parts, { frequency: 500e3, driveVolts: 5, lightLoad: 'forced' });
      Object.assign(parts.main, { gateCharge: 2e-9 });
      Object.assign(parts.rectifier, { gateCharge: 3e-9 });
      const gate = (rectifier: typeof parts.rectifier) => {
        const law = partsLaw({ ...base, parts: { ...parts, rectifier } });
        return stressOf(law, 8, base.outputVolts, 0.5)!.losses[GATE]!;
      };
      expect(gate(parts.rectifier)).toBeCloseTo(500e3 * 5 * 5e-9, 12);
      expect(gate(schottky(0.4, 0.5, 12))).toBeCloseTo(500e3 * 5 * 2e-9, 12);
    }
  });
});

describe('capacitors', () => {
  it('each warms its own resistance by its own RMS current', () => {
    const base = defaultBuck('s', 'pack', 5);
    const parts = structuredClone(partsFor(base, { low: 7, high: 9 }, 0.5));
    const lost = (into: number, out: number) => {
      parts.inputCapacitor.esr = into * parts.inputCapacitor.count;
      parts.outputCapacitor.esr = out * parts.outputCapacitor.count;
      return stressOf(partsLaw({ ...base, parts }), 8, 5, 0.5)!;
    };
    const input = lost(0.02, 0);
    expect(input.losses[CAPACITOR]! / (0.02 * input.input.rms ** 2)).toBeCloseTo(1, 9);
    const output = lost(0, 0.02);
    expect(output.losses[CAPACITOR]! / (0.02 * output.output.rms ** 2)).toBeCloseTo(1, 9);
    // A buck's input is chopped, its output smooth.
    expect(input.input.rms).toBeGreaterThan(2 * input.output.rms);
  });
});
