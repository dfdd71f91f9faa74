import { describe, expect, it } from 'vitest';
import { defaultBuckBoost } from '../../model/kinds/buckBoost.ts';
import { MODES } from '../modes.ts';
import { compileStage } from '../traits.ts';
import { bothWindow } from './buckBoost.ts';

describe('where all four switches of a buck-boost work', () => {
  const stage = {
    ...defaultBuckBoost('s', 'pack', 9),
    ...{ maxBuckDuty: 0.9, minBoostDuty: 0.08, pathResistance: 0.12, bothLoss: 0.3 },
  };

  it('a buck at its longest duty gives exactly the set volts at the upper edge: D·Vin = Vout + I·R', () => {
    const { high } = bothWindow(stage);
    for (const amps of [0, 0.5, 2]) {
      const vin = high.volts + high.ohms * amps;
      expect(0.9 * vin).toBeCloseTo(9 + 0.12 * amps, 12);
    }
  });

  it('a boost at its shortest duty exactly at the lower: Vin = (1 − D)·Vout + R·I/(1 − D)', () => {
    const { low } = bothWindow(stage);
    for (const amps of [0, 0.5, 2]) {
      const inductor = amps / (1 - 0.08);
      expect(low.volts + low.ohms * amps).toBeCloseTo(0.92 * 9 + 0.12 * inductor, 12);
    }
  });

  it('the law changes its mode at these edges, and loses more between them', () => {
    const { law } = compileStage(stage, 25);
    const amps = 0.5;
    const { low, high } = bothWindow(stage);
    const [from, to] = [low.volts + low.ohms * amps, high.volts + high.ohms * amps];
    const at = (vin: number) => ({ ...law.at(vin, 9, amps) });
    const lost = (vin: number) => vin * at(vin).inputAmps - 9 * amps;
    expect(MODES[at(from - 1e-6).mode]).toBe('boost');
    expect(MODES[at(from + 1e-6).mode]).toBe('both');
    expect(MODES[at(to - 1e-6).mode]).toBe('both');
    expect(MODES[at(to + 1e-6).mode]).toBe('buck');
    expect(lost((from + to) / 2)).toBeGreaterThan(lost(to + 1e-6));
    expect(lost((from + to) / 2)).toBeGreaterThan(lost(from - 1e-6));
  });
});
