import { describe, expect, it } from 'vitest';
import { load, plainCell, thread } from '../../test/build.ts';
import { conditionsOf } from './conditions.ts';
import { monthlyRate, packPlant, seriesElements } from './pack.ts';

const doc = thread({ cell: plainCell(2, 3, 4, 0.05), loads: [load('current', 1)] });

describe('a pack as numbers', () => {
  it('counts every contact, both poles, and nothing that has no resistance', () => {
    const pack = { ...doc.pack, connectors: { contacts: 4, contactResistance: 1.5e-3 } };
    expect(seriesElements(pack)).toEqual([{ id: 'connectors', ohms: 6e-3 }]);
  });

  it('an aged cell holds less and resists more, and its curves are its own', () => {
    const aged = packPlant(doc.pack, conditionsOf(doc, { capacity: 0.8, resistance: 1.5 }));
    const fresh = packPlant(doc.pack, conditionsOf(doc));
    expect(aged.charge).toBeCloseTo(0.8 * 2 * 3600, 9);
    const at = (p: typeof aged) => {
      const found = new Float64Array(3);
      p.cell.look(0.5, found);
      return found;
    };
    expect(at(aged)[1]! / at(fresh)[1]!).toBeCloseTo(1.5, 12);
    expect(at(aged)[0]).toBe(at(fresh)[0]);
    expect(packPlant(doc.pack, conditionsOf(doc)).cell).toBe(fresh.cell);
  });

  it('a loss of a share a month is that share after a month', () => {
    const month = 730.5 * 3600;
    expect(Math.exp(-monthlyRate(0.02) * month)).toBeCloseTo(0.98, 12);
  });
});
