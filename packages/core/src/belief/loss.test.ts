import { describe, expect, it } from 'vitest';
import { defaultBoost, defaultBuck, defaultDirect, defaultLinear } from '../../test/core.ts';
import { partsFor } from '../sizing/suggest.ts';
import { compileStage } from '../stages/traits.ts';
import type { Stage } from '../model/kinds/registry.ts';
import { ownDrawOf, withLoss, withOwnDraw } from './loss.ts';

/** [W] lost, and [A] taken in, of a stage at one point, by the law the solvers ask. */
function at(stage: Stage, vin: number, vout: number, amps: number): { lost: number; input: number } {
  const p = compileStage(stage, 25).law.at(vin, vout, amps);
  return { lost: vin * p.inputAmps - vout * amps, input: p.inputAmps };
}

const none = { quiescentCurrent: 0, fixed: 0, perOutputAmp: 0, perInputAmp: 0, perInputAmpSquared: 0 };

describe('a stage that loses so many times as much', () => {
  it('by a formula with every term: each is worth what it was times as much, at the input current that goes with it', () => {
    const loss = {
      ...{ basis: 'polynomial' as const, quiescentCurrent: 0 },
      ...{ fixed: 0.05, perOutputAmp: 0.1, perInputAmp: 0.2, perInputAmpSquared: 0.03 },
    };
    const buck = { ...defaultBuck('b', 'pack', 5), loss };
    const twice = at(withLoss(buck, 2), 10, 5, 2);
    // Loss = 2·(0.05 + 0.1·2 + 0.2·Iin + 0.03·Iin²), and 10·Iin = 10 + loss: by hand.
    const [a, b, c] = [0.06, 0.4 - 10, 0.5 + 10];
    const input = (-b - Math.sqrt(b * b - 4 * a * c)) / (2 * a);
    expect(twice.input).toBeCloseTo(input, 9);
    for (const term of ['fixed', 'perOutputAmp', 'perInputAmp', 'perInputAmpSquared'] as const) {
      const alone = { ...buck, loss: { ...loss, ...none, [term]: loss[term] } };
      const scaled = withLoss(alone, 3) as typeof buck;
      expect((scaled.loss as typeof loss)[term], term).toBeCloseTo(3 * loss[term], 12);
      expect(at(scaled, 10, 5, 2).lost, term).toBeGreaterThan(2.9 * at(alone, 10, 5, 2).lost);
    }
  });

  it('by an efficiency: 90 % that loses twice as much is 1/(1 + 2/9)', () => {
    const boost = {
      ...defaultBoost('b', 'pack', 5),
      loss: { basis: 'efficiency' as const, efficiency: 0.9, quiescentCurrent: 0 },
    };
    const [once, twice] = [at(boost, 3.7, 5, 0.5), at(withLoss(boost, 2), 3.7, 5, 0.5)];
    expect(twice.lost / once.lost).toBeCloseTo(2, 9);
    expect(2.5 / (3.7 * twice.input)).toBeCloseTo(1 / (1 + 2 / 9), 9);
  });

  it('by a table: readings of input current, and of efficiency, lose twice as much', () => {
    const points = [
      { inputVolts: 7, outputAmps: 0.2, inputAmps: 0.2 },
      { inputVolts: 7, outputAmps: 1, efficiency: 0.85 },
    ];
    const buck = {
      ...defaultBuck('b', 'pack', 5),
      loss: { basis: 'points' as const, quiescentCurrent: 0, points },
    };
    const twice = (withLoss(buck, 2) as typeof buck).loss.points;
    // 7 V · 0.2 A less 1 W is 0.4 W; twice that and the watt again by 7 V.
    expect(twice[0]!.inputAmps).toBeCloseTo(1.8 / 7, 12);
    expect(twice[1]!.efficiency).toBeCloseTo(1 / (1 + 2 * (1 / 0.85 - 1)), 12);
  });

  it('by its parts, its drop and its resistance: all of a linear and of a direct way, and parts of a buck but no currents', () => {
    const linear = { ...defaultLinear('l', 'pack', 3.3), dropoutVolts: 0.1, dropoutResistance: 0.2 };
    expect(withLoss(linear, 2)).toMatchObject({
      dropoutVolts: 0.2,
      dropoutResistance: 0.4,
      outputVolts: 3.3,
      quiescentCurrent: linear.quiescentCurrent,
    });
    const direct = { ...defaultDirect('d', 'pack'), forwardVolts: 0.3, resistance: 0.05 };
    expect(withLoss(direct, 2)).toMatchObject({ forwardVolts: 0.6, resistance: 0.1 });
    const base = defaultBuck('b', 'pack', 5);
    const sized = { ...base, parts: partsFor(base, { low: 8, high: 12 }, 2) } as typeof base;
    const more = withLoss(sized, 1.5) as typeof sized;
    expect(more.parts!.main.resistance / sized.parts!.main.resistance).toBeCloseTo(1.5, 9);
    expect(more.parts!.inductor.inductance).toBe(sized.parts!.inductor.inductance);
    expect(more.parts!.frequency).toBe(sized.parts!.frequency);
    const ratio = at(more, 10, 5, 1.5).lost / at(sized, 10, 5, 1.5).lost;
    expect(ratio).toBeGreaterThan(1.25);
    expect(ratio).toBeLessThan(1.5 + 1e-9);
    expect(withLoss(sized, 1)).toBe(sized);
  });
});

describe('what a stage draws for itself', () => {
  it('is found and multiplied wherever it is stated, and nowhere else', () => {
    const buck = defaultBuck('b', 'pack', 5);
    const stages: Stage[] = [buck, defaultLinear('l', 'pack', 3.3), defaultDirect('d', 'pack')];
    for (const stage of stages) {
      const drawn = withOwnDraw(stage, 2.5);
      expect(ownDrawOf(drawn)).toBeCloseTo(2.5 * ownDrawOf(stage), 15);
      expect(withOwnDraw(stage, 1)).toBe(stage);
      expect({ ...drawn, loss: 0, quiescentCurrent: 0 }).toEqual({ ...stage, loss: 0, quiescentCurrent: 0 });
    }
    expect(ownDrawOf(buck)).toBe(buck.loss.quiescentCurrent);
  });
});
