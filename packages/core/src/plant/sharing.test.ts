import { describe, expect, it } from 'vitest';
import { plainCell } from '../../test/build.ts';
import { cellTable, LOOK } from './cellTable.ts';
import { meanOf, oddOf, Sharing, startOf } from './sharing.ts';

/** 2 Ah from 3 V to 4 V straight, 0.1 Ω; of four side by side one holds 60 % and resists twice as much. */
const cell = cellTable(plainCell(2, 3, 4, 0.1));
const pack = {
  ...{ cell: plainCell(2, 3, 4, 0.1), series: 1, parallel: 4, startSoc: 0.9, leads: [] },
  odd: { count: 1, capacity: 0.6, resistance: 2, startSoc: 0.5 },
};
const odd = oddOf(pack)!;
const CHARGE = 7200;

/** [A] out of each by nodes: volts V at which all of `amps` flows out of OCVs behind resistances. */
function byNodes(one: number, other: number, amps: number) {
  const [g1, g2] = [3 / 0.1, 1 / 0.2];
  const volts = (g1 * one + g2 * other - 4 * amps) / (g1 + g2);
  return { volts, others: (one - volts) / 0.1, odd: (other - volts) / 0.2 };
}

describe('cells side by side that differ', () => {
  it('mean and start count every cell by what it holds and lets through', () => {
    expect(meanOf(odd).capacity).toBeCloseTo((3 + 0.6) / 4, 12);
    expect(meanOf(odd).resistance).toBeCloseTo(4 / (3 + 1 / 2), 12);
    expect(startOf(odd)).toBeCloseTo((3 * 0.9 + 0.6 * 0.5) / 3.6, 12);
    // None where all of them would be odd.
    expect(oddOf({ ...pack, parallel: 1 })).toBeUndefined();
    expect(oddOf({ ...pack, odd: undefined })).toBeUndefined();
  });

  it.each([0, 0.8, -1.5])('who gives what at %f A a cell is what nodal analysis gives', (amps) => {
    const sharing = new Sharing(cell, odd, CHARGE);
    const soc = startOf(odd);
    const fuller = sharing.start;
    expect(fuller).toBeCloseTo(-0.4, 12);
    const got = sharing.at(soc, fuller, amps);
    const wanted = byNodes(3.9, 3.5, amps);
    expect(got.othersSoc).toBeCloseTo(0.9, 12);
    expect(got.oddSoc).toBeCloseTo(0.5, 12);
    expect(got.others).toBeCloseTo(wanted.others, 9);
    expect(got.odd).toBeCloseTo(wanted.odd, 9);
    expect(3 * got.others + got.odd).toBeCloseTo(4 * amps, 9);
    // The one that stands for all has these volts, and what flows between is its heat.
    const looked = cell.room();
    sharing.look(soc, fuller, looked);
    expect(looked[LOOK.ocv]! - amps * looked[LOOK.r0]!).toBeCloseTo(wanted.volts, 9);
    if (amps === 0) {
      const heat = 3 * wanted.others ** 2 * 0.1 + wanted.odd ** 2 * 0.2;
      expect(4 * sharing.between).toBeCloseTo(heat, 9);
    }
  });

  it('come level as two charges through a loop: exactly, warm or cold, at rest or at a current', () => {
    const sharing = new Sharing(cell, odd, CHARGE);
    const looked = cell.room();
    for (const holds of [1, 0.7]) {
      for (const amps of [0, 0.5]) {
        // By small steps of both charges.
        let [one, other] = [0.9, 0.5];
        const h = 0.02;
        for (let t = 0; t < 60 - h / 2; t += h) {
          const by = byNodes(3 + one, 3 + other, amps);
          one -= (by.others * h) / (CHARGE * holds);
          other -= (by.odd * h) / (0.6 * CHARGE * holds);
        }
        sharing.look(startOf(odd), sharing.start, looked);
        const gone = sharing.comes(looked[LOOK.slope]!, amps, holds, 60);
        expect((sharing.start + gone) / (other - one)).toBeCloseTo(1, 4);
      }
    }
  });

  it('what they hold is the sum of what each holds, and above a voltage only of those that are above', () => {
    const sharing = new Sharing(cell, odd, CHARGE);
    const soc = startOf(odd);
    const area = (z: number) => 3 * z + z ** 2 / 2;
    const held = (3 * area(0.9) + 0.6 * area(0.5)) / 3.6;
    expect(sharing.area(soc, sharing.start) - sharing.area(0, 0)).toBeCloseTo(held, 9);
    // Above 3.6 V at rest the odd one, at 3.5 V, has nothing.
    expect(sharing.above(soc, sharing.start, 3.6)).toBeCloseTo((3 / 3.6) * (area(0.9) - area(0.6)), 6);
    // What drains away by itself drains each at its own volts.
    sharing.look(soc, sharing.start, cell.room());
    const looked = cell.room();
    sharing.look(soc, sharing.start, looked);
    expect(sharing.leak).toBeCloseTo((3 * 3.9 + 0.6 * 3.5) / 3.6 - looked[LOOK.ocv]!, 9);
  });
});
