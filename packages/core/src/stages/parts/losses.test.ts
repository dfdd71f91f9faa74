import { describe, expect, it } from 'vitest';
import type { Way } from './bridge.ts';
import { edges } from './losses.ts';

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
