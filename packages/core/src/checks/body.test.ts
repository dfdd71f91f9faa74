import { describe, expect, it } from 'vitest';
import { load, seriesOhms, thread } from '../../test/build.ts';
import { cellWattHours } from '../body/pack.ts';
import { CELL_LIBRARY } from '../cells/library.ts';
import type { Goals, ThreadDocument } from '../model/thread.ts';
import { simulate } from '../run/rundown.ts';
import { findings } from './checks.ts';

const cell = CELL_LIBRARY['18650-energy']!;

/** 3S2P of 18650 cells with a load of so many amps. */
function pack(goals: Partial<Goals>, amps = 1, more: Partial<ThreadDocument['pack']> = {}): ThreadDocument {
  const doc = thread({
    cell,
    pack: { series: 3, parallel: 2, protection: { ...seriesOhms(0.01, 2.6), tripCurrent: 40 }, ...more },
    loads: [load('current', amps, { range: { min: 8, max: 13 } })],
  });
  return { ...doc, goals: { ...doc.goals, ...goals } };
}

const said = (doc: ThreadDocument, id: string) => findings(doc, simulate(doc)).find((f) => f.id === id);

describe('a pack against its room, its mass, its way', () => {
  it('says which side of a room is short and by how much, and nothing where it fits', () => {
    // Two rows of three standing: 3 × 18.5 + 2 × 0.5 mm, a millimetre of wrap on every side.
    const room = { length: 0.0585, width: 0.0395, height: 0.0672 };
    expect(said(pack({ room }), 'room:cells')).toBeUndefined();
    const low = said(pack({ room: { ...room, height: 0.0642 } }), 'room:cells');
    expect(low).toMatchObject({
      severity: 'fails',
      title: expect.stringContaining('3 mm short in its height'),
    });
    const none = said(pack({ room: { length: 0.01, width: 0.01, height: 0.01 } }), 'room:cells');
    expect(none?.title).toContain('too small for one of them');
  });

  it('weighs the cells against what is allowed', () => {
    const all = 6 * cell.mass!;
    expect(said(pack({ mass: 1.01 * all }), 'mass:cells')).toBeUndefined();
    expect(said(pack({ mass: 0.99 * all }), 'mass:cells')?.excess).toBeCloseTo(1 / 0.99, 6);
  });

  it('lets 70 Wh fly, asks for 140, refuses 210; says nothing where it does not fly', () => {
    const flies = (parallel: number, byAir = true) =>
      said(pack(byAir ? { byAir } : {}, 1, { parallel }), 'carriage:cells')?.severity;
    expect([flies(2), flies(4), flies(6), flies(6, false)]).toEqual([undefined, 'tight', 'fails', undefined]);
  });

  it('notes a cell above 20 Wh, which is shipped by the full rules whatever the pack holds', () => {
    // 3.6 V a cell
    const ships = (capacityAh: number, byAir = true) =>
      said(pack(byAir ? { byAir } : {}, 1, { cell: { ...cell, capacityAh } }), 'shipment:cells')?.severity;
    const edge = 20 / (cellWattHours(cell) / cell.capacityAh);
    expect([ships(0.99 * edge), ships(1.01 * edge), ships(1.01 * edge, false)]).toEqual([
      undefined,
      'note',
      undefined,
    ]);
  });
});

describe('cells against the air', () => {
  const air = (minAir: number, maxAir: number) => ({ conditions: { minAir, air: 25, maxAir } });

  it('is told below and above what they may be discharged at', () => {
    expect(said({ ...pack({}), ...air(-20, 60) }, 'cold:cells')).toBeUndefined();
    expect(said({ ...pack({}), ...air(-21, 60) }, 'cold:cells')?.severity).toBe('fails');
    expect(said({ ...pack({}), ...air(0, 60) }, 'hot:cells')).toBeUndefined();
    expect(said({ ...pack({}), ...air(0, 61) }, 'hot:cells')?.severity).toBe('danger');
  });

  it('counts their own heat: a note where it is much, danger where it takes them past their limit', () => {
    const warmth = { heatCapacity: 270, resistance: 8, grade: 'assumed' as const };
    const mild = { ...pack({}, 4, { warmth }), ...air(0, 30) };
    expect(said(mild, 'self-heat:cells')?.severity).toBe('note');
    expect(said(mild, 'hot:cells')).toBeUndefined();
    expect(said({ ...mild, ...air(0, 58) }, 'hot:cells')?.severity).toBe('danger');
    expect(said({ ...pack({}, 0.2, { warmth }), ...air(0, 30) }, 'self-heat:cells')).toBeUndefined();
  });
});
