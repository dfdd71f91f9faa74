import fc from 'fast-check';
import { expect, it } from 'vitest';
import { load, seriesOhms, thread } from './build.ts';
import { applyEdits, CELL_LIBRARY, simulate, STAGE_KINDS, type ThreadDocument } from './core.ts';
import { PACK } from '../src/model/thread.ts';
import { readingOf, type Reading } from '../src/run/reading/reading.ts';
import { ROW } from '../src/run/account/series.ts';
import { fedBy, railHeld, type RailHeld } from '../src/sizing/held.ts';
import { crossing } from '../src/sizing/reach.ts';

/** Relative: what cells of a run may stand above the volts that were told, rows being apart. */
const NEAR = 5e-3;

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const CELLS = ['18650-energy', '21700-energy', '18650-power', '26650-lfp'] as const;

/** A load behind any kind of stage or none, one beside it on the pack: ranges narrow and wide, packs above and below. */
const anyRails: fc.Arbitrary<ThreadDocument> = fc
  .record({
    cell: fc.constantFrom(...CELLS),
    series: fc.integer({ min: 1, max: 6 }),
    parallel: fc.integer({ min: 1, max: 3 }),
    kind: fc.constantFrom('none', 'linear', 'buck', 'boost', 'buckBoost'),
    volts: between(2, 26),
    below: between(0.02, 0.5),
    above: between(0.02, 0.5),
    watts: between(0.2, 12),
    draw: fc.constantFrom('power' as const, 'current' as const),
    minInput: between(0.5, 1.1),
    beside: fc.option(between(0.1, 3)),
    ohms: between(0.01, 0.2),
  })
  .map((r) => {
    const cell = CELL_LIBRARY[r.cell]!;
    const full = r.series * cell.fullVolts;
    const stage = r.kind === 'none' ? undefined : STAGE_KINDS[r.kind as 'buck'].create('s', PACK, r.volts);
    if (stage) Object.assign(stage, { maxInput: 60, minInput: r.minInput * r.series * cell.endVolts });
    const range = { min: r.volts * (1 - r.below), max: r.volts * (1 + r.above) };
    const own = load(r.draw, r.draw === 'power' ? r.watts : r.watts / r.volts);
    const other =
      r.beside === null
        ? []
        : [{ ...load('power', r.beside), id: 'o', range: { min: 0.5 * full, max: 1.2 * full } }];
    return thread({
      cell,
      pack: { series: r.series, parallel: r.parallel, protection: seriesOhms(r.ohms) },
      stages: stage ? [stage] : [],
      loads: [{ ...own, id: 'l', from: stage ? 's' : PACK, range }, ...other],
    });
  });

/** [V] of a cell at an instant, before anything was switched there: cells rise as soon as a load is gone. */
function cellVoltsAt(rows: Reading, time: number): number {
  let row = rows.rowAt(time);
  while (row > 0 && rows.time(row - 1) === rows.time(row)) row--;
  return rows.at(row, ROW.cellVolts);
}

/** Rails on the pack, as they are asked for. */
const railsOn = ({ stages, loads }: ThreadDocument) =>
  [...stages, ...loads].filter((x) => x.from === PACK).map((x) => x.id);

/**
 * A run against what was told of a rail: nothing on it gets too much that was not told, and nothing too little before the cells
 * stand where it was told. @returns whether something fell out of its range where it was told
 */
function agrees(doc: ThreadDocument, rail: string, { misfit, downTo }: RailHeld): boolean {
  const run = simulate(doc);
  const rows = readingOf(run);
  let met = false;
  for (const l of fedBy(doc, rail).loads) {
    for (const { state, from } of run.loadRanges[doc.loads[l]!.id] ?? []) {
      if (state === 'high') expect(['high', 'input'], doc.loads[l]!.id).toContain(misfit?.why);
      if (state !== 'low' || misfit?.why === 'input' || Number.isNaN(downTo)) continue;
      // Where the pack gives nothing more all is low at once.
      if (from >= run.deadEnd.time * (1 - 1e-9)) continue;
      const cells = doc.pack.series * cellVoltsAt(rows, from);
      expect(cells / downTo, `${doc.loads[l]!.id} at ${from} s`).toBeLessThanOrEqual(1 + NEAR);
      met = true;
    }
  }
  return met;
}

it('what is told of the pack in use is what its run does', () => {
  let met = 0;
  fc.assert(
    fc.property(anyRails, (doc) => {
      for (const rail of railsOn(doc)) if (agrees(doc, rail, railHeld(doc, rail))) met++;
    }),
    { numRuns: 200, seed: 41, endOnFailure: true },
  );
  expect(met).toBeGreaterThan(20);
});

it('a way taken from the matrix holds in its run', () => {
  let taken = 0;
  fc.assert(
    fc.property(anyRails, fc.integer({ min: 1, max: 6 }), (doc, series) => {
      for (const rail of railsOn(doc)) {
        const { way, edits, held } = crossing(doc, rail, series);
        if (way === 'not') continue;
        expect(held.misfit).toBeUndefined();
        const then = applyEdits(doc, edits);
        const id = then.loads.find((l) => l.id === rail)?.from ?? rail;
        agrees(then, id === PACK ? rail : id, held);
        taken++;
      }
    }),
    { numRuns: 120, seed: 42, endOnFailure: true },
  );
  expect(taken).toBeGreaterThan(30);
});
