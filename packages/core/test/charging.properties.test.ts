import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  charge,
  Reading,
  CHARGE_LIMIT,
  decodeThread,
  LIMITS,
  simulate,
  sourceLaw,
  type ThreadDocument,
} from './core.ts';
import { anyCharged } from './anyCharging.ts';
import { load } from './build.ts';

/** Relative room of comparisons with limits: the searches' own. */
const NEAR = 1e-6;

describe('laws of any charge', () => {
  it('random sources, chargers and packs: what is supplied is stored or lost, nothing is beyond a limit, it ends', () => {
    fc.assert(
      fc.property(anyCharged, (doc) => {
        expect(decodeThread(doc)).toMatchObject({ ok: true });
        const r = charge(doc);
        const { ledger, end, counts } = r;
        // A step by the present current alone, where none could be solved, is an approximation by nature.
        expect(ledger.closure).toBeLessThan(counts.crept > 0 ? 1e-5 : 1e-6);
        const all = ledger.stored + ledger.supplied!;
        for (const e of ledger.entries) expect(e.joules, JSON.stringify(e)).toBeGreaterThan(-1e-9 * all);
        expect(end.time).toBeLessThanOrEqual(CHARGE_LIMIT);
        expect(end.soc).toBeLessThanOrEqual(1 + 1e-6);
        const { limit, beyond } = sourceLaw(doc.charging.source);
        const { control, stage } = doc.charging;
        const rows = new Reading(r.series);
        for (let k = 0; k < rows.count; k++) {
          const amps = rows.of(k, 'outAmps');
          expect(amps).toBeGreaterThanOrEqual(0);
          for (const of of ['inVolts', 'sourceAmps', 'supplied', 'heat'] as const)
            expect(rows.of(k, of)).toBeGreaterThanOrEqual(-NEAR);
          if (beyond !== 'soft') expect(rows.of(k, 'sourceAmps')).toBeLessThanOrEqual(limit * (1 + NEAR));
          // What reaches the pack past a boost nobody limits.
          if (!control || LIMITS[rows.of(k, 'limit')] === 'through') continue;
          const sensed = control.sense === 'input' ? rows.of(k, 'inAmps') : amps;
          if (amps > 0) expect(sensed).toBeLessThanOrEqual(control.current * (1 + NEAR));
          if (amps > 0 && 'outputVolts' in stage)
            expect(rows.of(k, 'outVolts')).toBeLessThanOrEqual(stage.outputVolts * (1 + NEAR));
        }
      }),
      { numRuns: 60, seed: 5, endOnFailure: true },
    );
  });

  it('a weaker source never fills faster; a charge gives back less than was put in', () => {
    fc.assert(
      fc.property(anyCharged, fc.double({ min: 0.3, max: 1, noNaN: true }), (any, share) => {
        const { source } = any.charging;
        if (source.kind !== 'supply' || source.beyond !== 'hard') return;
        const doc: ThreadDocument = { ...any, charging: { ...any.charging, meanwhile: 'off', from: 0.1 } };
        const whole = charge(doc);
        const weak = charge(doc, { ...source, limit: share * source.limit, droop: source.droop + 1 - share });
        // Of charge by a time, since a weak one may end early by its small current.
        const [a, b] = [whole, weak].map((r) => new Reading(r.series));
        for (const soc of [0.2, 0.4, 0.6]) {
          const slow = b!.timeOf(soc);
          if (slow !== undefined) expect(slow).toBeGreaterThanOrEqual(a!.timeOf(soc)! * (1 - NEAR) - 1e-3);
        }
        const { end, ledger } = whole;
        const back = simulate({
          ...doc,
          loads: [load('current', 0.2, { range: { min: 0, max: 1000 } })],
          pack: { ...doc.pack, startSoc: Math.min(1, end.soc) },
        });
        const given = back.ledgerAtDead.entries
          .filter((e) => e.mechanism === 'delivered')
          .reduce((s, e) => s + e.joules, 0);
        expect(given).toBeLessThan(ledger.stored + ledger.supplied!);
      }),
      { numRuns: 60, seed: 3, endOnFailure: true },
    );
  });

  it('nothing at all between charge and loads: a pack charged by nobody runs down as it does', () => {
    fc.assert(
      fc.property(anyCharged, (any) => {
        const dead = { ...any.charging.source, kind: 'supply', volts: 0.5, droop: 0, limit: 1e-3 } as never;
        const doc: ThreadDocument = {
          ...any,
          pack: { ...any.pack, startSoc: any.charging.from },
          // Within the thirty days that a charge may take.
          loads: [load('power', 2)],
          charging: { ...any.charging, meanwhile: 'battery' },
        };
        const charging = { ...doc.charging! };
        delete charging.diode;
        const fed = charge({ ...doc, charging }, dead);
        const run = simulate(doc);
        expect(fed.end.reason).toBe('drained');
        expect(Math.abs(fed.end.time - run.deadEnd.time)).toBeLessThan(1e-5 * run.deadEnd.time + 1e-3);
      }),
      { numRuns: 40, seed: 2, endOnFailure: true },
    );
  });
});
