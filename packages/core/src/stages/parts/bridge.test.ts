import { describe, expect, it } from 'vitest';
import { defaultBuck } from '../../model/kinds/buck.ts';
import { defaultSepic } from '../../model/kinds/sepic.ts';
import { partsFor } from '../../sizing/suggest.ts';
import { CORE } from '../point.ts';
import { partsLaw } from '../traits.ts';
import { bank, corePower } from './bridge.ts';
import { stressOf } from './stress.ts';

describe('parts as numbers', () => {
  it('pieces side by side add their capacitance and share their resistance', () => {
    const c = { capacitance: 22e-6, count: 4, biasShare: 0.5, esr: 8e-3 };
    expect(bank(c)).toEqual({ farads: 44e-6, ohms: 2e-3 });
  });

  it('core loss is what was stated at the stated ripple and frequency, and grows by their powers', () => {
    const stage = defaultBuck('b', 'pack', 5);
    const parts = partsFor(stage, { low: 8, high: 12 }, 1);
    const inductor = {
      inductance: 10e-6,
      resistance: 0.05,
      coreLoss: 0.2,
      coreRipple: 0.8,
      coreFrequency: 500e3,
    };
    stage.parts = { ...parts, frequency: 500e3, inductor, lightLoad: 'forced' };
    const at500 = stressOf(partsLaw(stage), 12, 5, 1)!;
    expect(at500.losses[CORE]!).toBeCloseTo((0.2 * corePower(at500.inductor.ripple)) / corePower(0.8), 12);
    const at1000 = stressOf(partsLaw({ ...stage, parts: { ...stage.parts, frequency: 1e6 } }), 12, 5, 1)!;
    const per = (s: typeof at500) => s.losses[CORE]! / corePower(s.inductor.ripple);
    expect(per(at1000) / per(at500)).toBeCloseTo(2 ** 1.4, 9);
  });

  it('a SEPIC’s coupling capacitor carries the output current while the switch is on', () => {
    const stage = defaultSepic('s', 'pack', 5);
    stage.parts = partsFor(stage, { low: 4, high: 9 }, 0.5) as NonNullable<typeof stage.parts>;
    const s = stressOf(partsLaw(stage), 4, 5, 0.5)!;
    const { coupling } = partsLaw(stage).bridge;
    // Charge balance: ΔV·C = I2·D/f, and as much comes back by I1 while it is off.
    expect(s.coupling!.ripple * coupling!.farads).toBeCloseTo((0.5 * s.duty) / s.frequency, 12);
    expect(s.duty).toBeGreaterThan(0.52);
    expect(s.inductor.mean * (1 - s.duty)).toBeCloseTo(0.5 * s.duty, 2);
  });
});
