import { describe, expect, it } from 'vitest';
import { FORMULAS } from './formulas.ts';

const of = (name: string, given: Record<string, number>) => {
  const formula = FORMULAS.find((f) => f.name === name)!;
  const usual = Object.fromEntries(
    formula.inputs.flatMap((i) => (i.usual === undefined ? [] : [[i.key, i.usual]])),
  );
  return formula.of({ ...usual, ...given });
};

describe('closed forms by themselves', () => {
  it('a divider: the volts, and the variance shared by its parts', () => {
    // 2.5 V, 1 % even; 10 kΩ over 10 kΩ, 1 %: slopes 2·0.025, 0.025, 0.025; squares over three add up.
    const found = of('divider', { reference: 2.5, top: 1e4, bottom: 1e4 });
    expect(found.volts).toBeCloseTo(5, 12);
    expect(found.deviation).toBeCloseTo(Math.sqrt((0.05 ** 2 + 2 * 0.025 ** 2) / 3), 12);
    expect(found.ofReference).toBeCloseTo(2 / 3, 12);
    expect(found.ofTop).toBeCloseTo(found.ofBottom!, 12);
  });

  it('a wire: IEC 60228 has 7.41 and 7.98 Ω/km at 2.5 mm² (from memory); no solid one of 3 mm²', () => {
    expect(of('wire', { area: 2.5, metres: 100 })).toEqual({
      solid: expect.closeTo(0.741, 9),
      flexible: expect.closeTo(0.798, 9),
    });
    expect(of('wire', { area: 3 }).solid).toBeNaN();
  });

  it('each gives just what it says it gives, for numbers that make sense', () => {
    for (const { name, inputs, outputs, of: count } of FORMULAS) {
      const given = Object.fromEntries(inputs.map((i) => [i.key, i.usual ?? Math.min(i.most ?? 1, 1)]));
      expect(Object.keys(count(given)).sort(), name).toEqual(outputs.map((o) => o.key).sort());
    }
  });
});
