import { describe, expect, it } from 'vitest';
import { StagePoint } from '../stages/point.ts';
import { partsLaw, stageSolver } from '../stages/traits.ts';
import { defaultBoost } from '../model/kinds/boost.ts';
import { defaultBuck } from '../model/kinds/buck.ts';
import { defaultLinear } from '../model/kinds/linear.ts';
import { stressOf } from '../stages/parts/stress.ts';
import type { Converter } from '../model/kinds/registry.ts';
import { inputCapacitance, outputCapacitance } from './choose.ts';
import { roomOf } from './envelope.ts';
import { figuresOf } from './figures.ts';
import { bare } from './inductors.ts';
import { partsFor, transistor } from './suggest.ts';
import { frequencyTrade } from './trade.ts';

/** A stage whose parts lose next to nothing, with a winding so large that its current hardly ripples. */
function nearlyIdeal<C extends Converter>(
  base: C,
  range: { low: number; high: number },
  amps: number,
  henries: number,
): C {
  const parts = structuredClone(partsFor(base, range, amps)) as NonNullable<C['parts']>;
  parts.inductor = { ...parts.inductor, inductance: henries, resistance: 1e-5, saturationCurrent: 100 };
  for (const way of ['main', 'rectifier'] as const) {
    if (way in parts) Object.assign((parts as unknown as Record<string, object>)[way]!, { resistance: 1e-5 });
  }
  return { ...base, parts: { ...parts, lightLoad: 'forced', deadTime: 0 } };
}

/** Ceramics as they are counted: all of the capacitance there, no resistance. */
const plain = (capacitance: number) => ({ capacitance, count: 1, biasShare: 1, esr: 0 });

describe('capacitance for a ripple', () => {
  // What the closed form sizes is what the period, integrated piece by piece, then shows.
  it('of a buck’s input: Iout·D·(1 − D)/(f·ΔV)', () => {
    const stage = nearlyIdeal(defaultBuck('s', 'pack', 3.3), { low: 8, high: 12 }, 1, 1e-3);
    const { frequency } = stage.parts!;
    for (const vin of [5, 12]) {
      const farads = inputCapacitance('buck', vin, 3.3, 1, frequency, 1e-3, 0.05);
      Object.assign(stage.parts!.inputCapacitor, plain(farads));
      const ripple = stressOf(partsLaw(stage), vin, 3.3, 1)!.input.ripple;
      expect(Math.abs(ripple / 0.05 - 1)).toBeLessThan(0.02);
    }
  });

  it('of a boost’s two sides: ΔI/(8·f·ΔV) in, Iout·D/(f·ΔV) out', () => {
    const flat = { ...defaultBoost('s', 'pack', 12), rectifierVolts: 0 };
    const stage = nearlyIdeal(flat, { low: 3, high: 4.2 }, 0.3, 100e-6);
    const { frequency } = stage.parts!;
    const [into, out] = (['input', 'output'] as const).map((side) => {
      const farads =
        side === 'input'
          ? inputCapacitance('boost', 3.7, 12, 0.3, frequency, 100e-6, 0.02)
          : outputCapacitance('boost', 3.7, 12, 0.3, frequency, 100e-6, 0.02);
      Object.assign(stage.parts![`${side}Capacitor`], plain(farads));
      return stressOf(partsLaw(stage), 3.7, 12, 0.3)![side].ripple;
    });
    expect(Math.abs(into! / 0.02 - 1)).toBeLessThan(0.03);
    expect(Math.abs(out! / 0.02 - 1)).toBeLessThan(0.03);
  });
});

describe('parts proposed', () => {
  it('a transistor drops 40 mV at the mean current', () => {
    for (const amps of [0.5, 2, 5]) {
      // To the two digits values are given in.
      expect(Math.abs((transistor(amps, 12).resistance * amps) / 0.04 - 1)).toBeLessThan(0.05);
    }
  });

  it('a trade of frequencies tells what the stage then loses, by its own account', () => {
    const base = defaultBuck('s', 'pack', 5);
    const range = { low: 9, high: 13 };
    const stage = { ...base, parts: partsFor(base, range, 1) };
    const points = frequencyTrade(stage, range, 1).filter((p) => p.inductor);
    expect(points.length).toBeGreaterThan(5);
    for (const { frequency, inductance, inductor, loss } of points) {
      const parts = {
        ...stage.parts,
        used: true,
        frequency,
        inductor: { ...bare(inductor!), inductance },
      };
      const point = new StagePoint();
      stageSolver({ ...stage, parts })(11, () => 1, point);
      expect(Math.abs(point.loss.reduce((a, b) => a + b, 0) / loss - 1)).toBeLessThan(1e-6);
    }
  });
});

describe('a stage that burns what is over', () => {
  it('has the headroom its input leaves above set volts and dropout', () => {
    const stage = { ...defaultLinear('s', 'pack', 3.3), dropoutVolts: 0.2, dropoutResistance: 0.5 };
    const { read } = figuresOf(stage).find((f) => f.id === 'headroom')!;
    const at = (vin: number) => read({ vin, vout: 3.3, iin: 0.4, iout: 0.4, air: 25 });
    // 3.3 V + 0.2 V + 0.5 Ω · 0.4 A = 3.7 V.
    expect(at(5)).toBeCloseTo(1.3, 12);
    expect(at(3.5)).toBeCloseTo(-0.2, 12);
  });
});

describe('room below a rating', () => {
  it('is the share of it left: of a most, and of a least that may not be fallen below', () => {
    expect(roomOf({ rating: 4 }, 3)).toBeCloseTo(0.25, 12);
    expect(roomOf({ rating: 4 }, 5)).toBeLessThan(0);
    // 100 ns at the least, 400 ns there are: three quarters of it could go.
    expect(roomOf({ rating: 100e-9, floor: true }, 400e-9)).toBeCloseTo(0.75, 12);
    expect(roomOf({ rating: 100e-9, floor: true }, 80e-9)).toBeLessThan(0);
    expect(roomOf({}, 1)).toBeNaN();
  });
});
