import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { load, plainCell, thread } from './build.ts';
import {
  charge,
  defaultLinear,
  outage,
  Reading,
  simulate,
  type Charging,
  type ThreadDocument,
} from './core.ts';
import { anyCharged } from './anyCharging.ts';
import { anyWhole } from './everything.ts';
import { ChargerLaw } from '../src/charging/law.ts';
import { LIMIT } from '../src/charging/limits.ts';
import { windowOf, groupsOf } from '../src/model/group.ts';

const day = 86_400;

/** [V] of one cell that nothing lifts it above at rest: its own record, what it was full to, what the charger can hold. */
function mostAtRest({ pack, charging }: ThreadDocument): number {
  const ceiling = charging ? new ChargerLaw(charging, 25).ceiling / pack.series : 0;
  return Math.max(...pack.cell.ocv.volts, ceiling) + 1e-3;
}

describe('full is full', () => {
  it('in any charge and over any timeline of mains the charge stays within nothing and all, volts at rest within what is held', () => {
    fc.assert(
      fc.property(anyWhole, (doc) => {
        if (!doc.charging || doc.pack.groups || doc.pack.odd) return;
        const most = mostAtRest(doc);
        const filled = charge(doc, undefined, {}, { effort: 40_000 });
        const kept = outage(doc, [{ from: 3600, to: 2 * 3600 }], day, {}, { effort: 40_000 });
        expect(filled.end.soc).toBeLessThanOrEqual(1);
        for (const { series } of [filled, kept]) {
          const rows = new Reading(series);
          for (let k = 0; k < rows.count; k++) {
            expect(rows.at(k, 'soc')).toBeLessThanOrEqual(1);
            expect(rows.at(k, 'soc')).toBeGreaterThan(-1e-6);
            expect(rows.at(k, 'restVolts')).toBeLessThanOrEqual(most);
          }
        }
      }),
      { numRuns: 60, seed: 25, endOnFailure: true },
    );
  });

  it('a charge and a timeline of mains agree on whether it ends, and when', () => {
    let ended = 0;
    fc.assert(
      fc.property(anyCharged, (doc) => {
        const { end } = charge(doc, undefined, {}, { effort: 60_000 });
        if (end.reason !== 'terminated' && end.reason !== 'never') return;
        const at = end.reason === 'never' ? 3 * day : end.time;
        if (at < 60) return;
        const soon = outage(
          doc,
          [],
          1.02 * at + 60,
          { startSoc: doc.charging.from },
          { rows: 200, effort: 60_000 },
        );
        if (!soon.end.whole) return;
        const rows = new Reading(soon.series);
        const off = (k: number) => rows.of(k, 'limit') === LIMIT.off;
        if (end.reason === 'never') return void expect(off(rows.count - 1)).toBe(false);
        ended++;
        const first = Array.from({ length: rows.count }, (_, k) => k).find(off);
        expect(first).toBeDefined();
        expect(rows.at(first!, 'time') / end.time).toBeCloseTo(1, 3);
      }),
      { numRuns: 60, seed: 26, endOnFailure: true },
    );
    expect(ended).toBeGreaterThan(8);
  });

  it('unlike groups that were run down come to where they were as the first of them is full', () => {
    const unlike = fc.array(
      fc.record({ capacity: fc.double({ min: 0.7, max: 1.2, noNaN: true }), resistance: fc.constant(1) }),
      { minLength: 2, maxLength: 4 },
    );
    fc.assert(
      fc.property(unlike, fc.double({ min: 0.05, max: 0.9, noNaN: true }), (groups, from) => {
        const series = groups.length;
        const cell = { ...plainCell(2, 3, 4.2, 0.02), fullVolts: 4.2 };
        const charging: Charging = {
          source: {
            kind: 'supply',
            name: 'S',
            volts: 30,
            droop: 0,
            limit: 5,
            beyond: 'hard',
            grade: 'assumed',
          },
          stage: {
            ...defaultLinear('c', 'source', series * 4.19),
            outputLimit: 5,
            maxInput: 60,
            thermalResistance: 1,
          },
          control: { current: 0.5, sense: 'output', terminate: 0.05 },
          meanwhile: 'off',
          from,
        };
        const doc = {
          ...thread({
            cell,
            pack: { series, parallel: 1, groups, startSoc: 1 },
            loads: [load('current', 0.5)],
          }),
          charging,
        };
        expect(windowOf(groupsOf(doc.pack)!).start).toBe(1);
        const filled = charge(doc);
        expect(filled.end.reason).toBe('terminated');
        // The same charge has left each since all were full, so the same is missing: none stands over its volts.
        const { soc, volts } = filled.groups!;
        const missing = soc.map((s, k) => groups[k]!.capacity * (1 - s));
        for (const m of missing) expect(m).toBeCloseTo(missing[0]!, 6);
        expect(Math.max(...volts)).toBeLessThan(4.2);
        expect(simulate(doc).deadEnd.time).toBeGreaterThan(0);
      }),
      { numRuns: 25, seed: 27, endOnFailure: true },
    );
  });
});
