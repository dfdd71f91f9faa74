import fc from 'fast-check';
import { applyEdits, decodeThread, findings, simulate, type ThreadDocument } from '../core.ts';
import { numbersIn } from '../extreme.ts';
import { anyBusy, anyProgramme } from '../programmes.ts';

/**
 * Random programmes, half of them with peaks, boards and loads that give way: skipped cycles against every one of them.
 * Arguments: how many, seed.
 */
const count = Number(process.argv[2] ?? 400);
const seed = Number(process.argv[3] ?? 1);
const half = Math.floor(count / 2);
const designs = [
  ...fc.sample(anyProgramme, { numRuns: half, seed }),
  ...fc.sample(anyBusy, { numRuns: count - half, seed }),
];
const troubles: { index: number; what: string }[] = [];
const ends: number[] = [];
const closures: number[] = [];
const times: number[] = [];
let skipped = 0;
designs.forEach((doc, index) => look(doc, index));

function look(doc: ThreadDocument, index: number): void {
  if (index % 50 === 0) process.stderr.write(`${index} of ${count} programmes\n`);
  const note = (what: string) => troubles.push({ index, what });
  try {
    const start = performance.now();
    const run = simulate(doc);
    times.push(performance.now() - start);
    const every = simulate(doc, { everyCycle: true });
    ends.push(Math.abs(run.usefulEnd.time - every.usefulEnd.time) / Math.max(1, every.usefulEnd.time));
    closures.push(Math.max(run.ledger.closure, run.ledgerAtDead.closure));
    skipped += run.counts.skipped;
    if (run.deadEnd.reason !== every.deadEnd.reason)
      note(`ends by ${run.deadEnd.reason}, not ${every.deadEnd.reason}`);
    for (const { path, value } of numbersIn(run)) if (Number.isNaN(value)) note(`NaN at ${path}`);
    for (const f of findings(doc, run)) {
      if (/NaN|undefined|Infinity/.test(`${f.title} ${f.reason}`)) note(`words of ${f.id}: ${f.title}`);
      if (f.action && !decodeThread(applyEdits(doc, f.action.edits)).ok) note(`action of ${f.id} refused`);
    }
  } catch (error) {
    note(`throws: ${(error as Error).stack?.slice(0, 200)}`);
  }
}

const most = (list: number[]) => [...list].sort((a, b) => b - a).slice(0, 3);
console.log(
  JSON.stringify({
    count,
    seed,
    skipped,
    ends: most(ends),
    within: ends.filter((e) => e < 5e-3).length,
    closures: most(closures),
    longest: most(times)[0],
    troubles: troubles.length,
    first: troubles.slice(0, 10),
  }),
);
process.exitCode = troubles.length > 0 ? 1 : 0;
