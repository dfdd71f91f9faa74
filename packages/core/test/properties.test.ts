import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  CELL_LIBRARY,
  decodeThread,
  defaultBuckBoost,
  efficiencyMap,
  findings,
  inputCurve,
  limitsOverRun,
  simulate,
  stageEnvelope,
  type RunResult,
} from './core.ts';
import { anyThread } from './arbitrary.ts';
import { load, seriesOhms, thread } from './build.ts';

/** Everything numeric in a value, for the search for NaN. */
function numbers(value: unknown): number[] {
  if (typeof value === 'number') return [value];
  if (value instanceof Float64Array) return Array.from(value);
  if (typeof value === 'object' && value !== null) return Object.values(value).flatMap(numbers);
  return [];
}

const usable = (run: RunResult) => run.ledger.usable;

describe('sizing of any design', () => {
  it('random designs: every stage is sized, checked and mapped without a fault', () => {
    fc.assert(
      fc.property(anyThread, (doc) => {
        const run = simulate(doc);
        expect(numbers(findings(doc, run)).some(Number.isNaN)).toBe(false);
        for (const stage of doc.stages) {
          const { figures, snapshots, heat, lost, efficiency } = stageEnvelope(doc, run, stage.id);
          expect(numbers({ figures, heat, lost }).some(Number.isNaN)).toBe(false);
          expect(efficiency).toBeGreaterThanOrEqual(0);
          expect(efficiency).toBeLessThanOrEqual(1 + 1e-9);
          expect(snapshots.length).toBeGreaterThan(0);
          for (const l of limitsOverRun(doc, run, stage.id)) expect(l.amps).toBeGreaterThanOrEqual(0);
          const range = { lowVolts: 1, highVolts: 20, leastAmps: 0.01, mostAmps: 5 };
          for (const e of efficiencyMap(stage, range, 8, 25).efficiency.flat()) {
            if (!Number.isNaN(e)) expect(e).toBeLessThanOrEqual(1 + 1e-9);
          }
          inputCurve(stage, 2, 25, 5);
        }
      }),
      { numRuns: 25, seed: 8 },
    );
  });
});

describe('laws of any run', () => {
  it('random designs: the ledger closes to 1e-6, nothing is NaN, every run ends, time never turns back', () => {
    fc.assert(
      fc.property(anyThread, (doc) => {
        const decoded = decodeThread(doc);
        expect(decoded).toMatchObject({ ok: true });
        const run = simulate(doc);
        for (const ledger of [run.ledger, run.ledgerAtDead]) {
          expect(ledger.closure).toBeLessThan(1e-6);
          for (const e of ledger.entries) expect(e.joules).toBeGreaterThan(-1e-9 * ledger.stored);
        }
        expect(numbers(run).some(Number.isNaN)).toBe(false);
        expect(run.usefulEnd.time).toBeLessThanOrEqual(run.deadEnd.time);
        expect(run.deadEnd.reason).not.toBe('');
        const { data, count } = run.series;
        const stride = data.length / Math.max(1, count);
        for (let k = 1; k < count; k++)
          expect(data[k * stride]!).toBeGreaterThanOrEqual(data[(k - 1) * stride]!);
      }),
      { numRuns: 100, seed: 20261124 },
    );
  });

  const regulated = fc.record({
    cell: fc.constantFrom(...Object.values(CELL_LIBRARY)),
    watts: fc.double({ min: 0.2, max: 6, noNaN: true }),
    volts: fc.double({ min: 2.5, max: 9, noNaN: true }),
    ohms: fc.double({ min: 0, max: 0.2, noNaN: true }),
    more: fc.double({ min: 0.001, max: 0.3, noNaN: true }),
    series: fc.integer({ min: 1, max: 4 }),
  });
  const design = (
    r: { cell: never; watts: number; volts: number; series: number },
    ohms: number,
    parallel = 1,
  ) =>
    thread({
      cell: r.cell,
      pack: { series: r.series, parallel, protection: seriesOhms(ohms, 2.2) },
      stages: [{ ...defaultBuckBoost('s', 'pack', r.volts), inputLimit: 50, minInput: 1 }],
      loads: [load('power', r.watts, { from: 's', range: { min: r.volts - 0.1, max: r.volts + 0.1 } })],
    });

  it('more series resistance never adds usable energy for constant power behind a regulating stage', () => {
    fc.assert(
      fc.property(regulated, (r) => {
        const less = usable(simulate(design(r as never, r.ohms)));
        const more = usable(simulate(design(r as never, r.ohms + r.more)));
        expect(more).toBeLessThanOrEqual(less * (1 + 1e-5));
      }),
      { numRuns: 60, seed: 7 },
    );
  });

  it('a pack twice as parallel lasts at least as long', () => {
    fc.assert(
      fc.property(regulated, (r) => {
        const one = simulate(design(r as never, r.ohms)).usefulEnd.time;
        const two = simulate(design(r as never, r.ohms, 2)).usefulEnd.time;
        expect(two).toBeGreaterThanOrEqual(one * (1 - 1e-9));
      }),
      { numRuns: 60, seed: 8 },
    );
  });

  it('a fifth of the step moves the end by less than 0.1 %', () => {
    fc.assert(
      fc.property(regulated, (r) => {
        const doc = design(r as never, r.ohms);
        const coarse = simulate(doc).usefulEnd.time;
        const fine = simulate(doc, { maxSoc: 1 / 400, bend: 5e-5, twist: 2e-6 }).usefulEnd.time;
        expect(Math.abs(coarse - fine)).toBeLessThanOrEqual(1e-3 * fine + 1);
      }),
      { numRuns: 40, seed: 9 },
    );
  });

  it('the same input gives the same output, bit for bit', () => {
    const [doc] = fc.sample(anyThread, { numRuns: 1, seed: 3 });
    expect(simulate(doc!)).toEqual(simulate(structuredClone(doc!)));
  });
});
