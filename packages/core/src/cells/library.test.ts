import { describe, expect, it } from 'vitest';
import { cellTable, LOOK } from '../plant/cellTable.ts';
import { CELL_LIBRARY } from './library.ts';

/**
 * [Ω] direct-current resistance at half charge that typical cells show after minutes, fast and slow parts together.
 * Common practice, no source: energy 18650 50–70 mΩ, power 18650 15–30 mΩ, 21700 20–35 mΩ.
 */
const TYPICAL: Record<string, readonly [number, number]> = {
  '18650-energy': [0.055, 0.085],
  '18650-balanced': [0.045, 0.065],
  '18650-power': [0.015, 0.03],
  '21700-published': [0.025, 0.04],
};

describe('typical cells', () => {
  it('show the resistance of their class at half charge, three fifths of it at once', () => {
    for (const [name, [low, high]] of Object.entries(TYPICAL)) {
      const cell = CELL_LIBRARY[name]!;
      const found = new Float64Array(3 + 2 * cell.branches.length);
      cellTable(cell).look(0.5, found);
      const branches = found.slice(LOOK.branches, LOOK.branches + cell.branches.length);
      const all = branches.reduce((sum, r) => sum + r, found[LOOK.r0]!);
      expect(all, name).toBeGreaterThan(low);
      expect(all, name).toBeLessThan(high);
      expect(found[LOOK.r0]! / all, name).toBeCloseTo(0.6, 5);
    }
  });
});
