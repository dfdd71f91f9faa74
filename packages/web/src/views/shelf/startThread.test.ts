import { CELL_LIBRARY, decodeThread } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { MOST_PARALLEL, startThread } from './startThread.ts';

it('the short start gives a valid design that regulates from the first instant and comes near the need', () => {
  const cells = Object.values(CELL_LIBRARY);
  fc.assert(
    fc.property(
      fc.double({ min: 1.8, max: 24, noNaN: true }),
      fc.double({ min: 0.05, max: 2, noNaN: true }),
      fc.double({ min: 0.5, max: 12, noNaN: true }),
      fc.constantFrom(...cells),
      (volts, amps, hours, cell) => {
        const doc = startThread({
          name: 'x',
          volts,
          amps,
          range: { min: 0.95 * volts, max: 1.05 * volts },
          hours,
          cell,
        });
        expect(decodeThread(doc)).toMatchObject({ ok: true });
        const run = simulate(doc);
        // Of a tiny cell no pack is large enough for some needs: the check of the need says so then.
        if (doc.pack.parallel < MOST_PARALLEL)
          expect(run.usefulEnd.time / 3600).toBeGreaterThan(0.75 * hours);
        else expect(run.usefulEnd.time).toBeGreaterThan(0);
      },
    ),
    { numRuns: 120, seed: 12 },
  );
});
