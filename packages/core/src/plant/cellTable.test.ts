import { describe, expect, it } from 'vitest';
import { CELL_LIBRARY } from '../cells/library.ts';
import { pchip } from '../numeric/pchip.ts';
import { gaussPanels } from '../numeric/quadrature.ts';
import { CellTable } from './cellTable.ts';

describe('the curves of a cell on one set of knots', () => {
  for (const [name, cell] of Object.entries(CELL_LIBRARY)) {
    it(`${name}: each is the curve it was made of, its slope and its integral`, () => {
      const table = CellTable.of(cell);
      const ocv = pchip(cell.ocv.soc, cell.ocv.volts);
      const r0 = pchip(cell.r0.soc, cell.r0.ohms);
      const found = new Float64Array(3 + 2 * cell.branches.length);
      for (let s = 0.0037; s < 1; s += 0.0173) {
        table.look(s, found);
        expect(found[0]).toBeCloseTo(ocv.at(s), 10);
        expect(found[1]).toBeCloseTo(r0.at(s), 10);
        cell.branches.forEach((b, k) => {
          expect(found[3 + k]).toBeCloseTo(pchip(b.soc, b.ohms).at(s), 10);
          const farads = pchip(b.soc, b.farads).at(s);
          expect(found[3 + cell.branches.length + k]! / farads).toBeCloseTo(1, 8);
        });
        const slope = (ocv.at(s + 1e-6) - ocv.at(s - 1e-6)) / 2e-6;
        expect(Math.abs(found[2]! - slope)).toBeLessThan(1e-3 * (1 + Math.abs(slope)));
        expect(table.socAt(ocv.at(s))).toBeCloseTo(s, 6);
      }
      const area = gaussPanels((s) => ocv.at(s), 0.2, 0.7, 400);
      expect(table.area(0.7) - table.area(0.2)).toBeCloseTo(area, 7);
      expect(table.area(-0.01)).toBeCloseTo(-0.01 * ocv.at(0), 12);
    });
  }
});
