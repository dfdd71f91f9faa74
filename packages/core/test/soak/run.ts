import fc from 'fast-check';
import { anyThread } from '../arbitrary.ts';
import {
  applyEdits,
  decodeThread,
  findings,
  eases,
  simulate,
  stageEnvelope,
  type Finding,
  type RunResult,
  type ThreadDocument,
} from '../core.ts';
import { extremeThread, numbersIn } from '../extreme.ts';
import { compareToFine, type Comparison } from '../fine.ts';

/**
 * Random designs through run, sizing and checks, half of them extreme but legal: what may never happen, and how long the
 * longest run takes. Minutes; stands apart from the tests.
 * Arguments: how many designs, seed.
 */
const count = Number(process.argv[2] ?? 10_000);
const seed = Number(process.argv[3] ?? 1);

interface Trouble {
  index: number;
  what: string;
}
const troubles: Trouble[] = [];
const families = new Map<string, { offered: number; refused: number; useless: number }>();
const reasons = new Map<string, number>();
const times: { ms: number; index: number }[] = [];
let abandoned = 0;

function look(doc: ThreadDocument, index: number): void {
  if (index % 500 === 0) process.stderr.write(`${index} of ${count}\n`);
  const note = (what: string) => troubles.push({ index, what });
  const start = performance.now();
  let run: RunResult;
  try {
    run = simulate(doc);
  } catch (error) {
    note(`run throws: ${(error as Error).stack?.slice(0, 200)}`);
    return;
  }
  times.push({ ms: performance.now() - start, index });
  reasons.set(run.deadEnd.reason, (reasons.get(run.deadEnd.reason) ?? 0) + 1);
  if (run.counts.abandoned > 0) abandoned++;
  for (const { path, value } of numbersIn(run)) if (Number.isNaN(value)) note(`NaN in the run at ${path}`);
  // How full unlike cells side by side are is followed to the tolerance of steps.
  const closed = doc.pack.odd ? 1e-6 : 1e-8;
  if (!(run.ledger.closure < closed) || !(run.ledgerAtDead.closure < closed)) {
    note(`ledger open by ${Math.max(run.ledger.closure, run.ledgerAtDead.closure).toExponential(1)}`);
  }
  for (const e of run.ledgerAtDead.entries) {
    if (!(e.joules > -1e-9 * run.ledger.stored)) note(`negative ${e.element} ${e.mechanism}`);
  }
  if (run.series.count < 1) note('no row');
  if (!(run.usefulEnd.time <= run.deadEnd.time)) note('useful end behind the dead end');
  try {
    for (const stage of doc.stages) {
      const { figures, heat, lost } = stageEnvelope(doc, run, stage.id);
      for (const { path, value } of numbersIn({ figures, heat, lost })) {
        if (Number.isNaN(value)) note(`NaN in the envelope at ${path}`);
      }
    }
    for (const f of findings(doc, run)) finding(doc, f, note);
  } catch (error) {
    note(`checks throw: ${(error as Error).stack?.slice(0, 300)}`);
  }
}

/** A finding has no NaN in its words, and its action is a valid one that takes it away or eases it. */
function finding(doc: ThreadDocument, f: Finding, note: (what: string) => void): void {
  if (/NaN|undefined|Infinity/.test(`${f.title} ${f.reason} ${f.action?.label ?? ''}`))
    note(`words of ${f.id}: ${f.title} ${f.reason}`);
  if (!f.action) return;
  const family = f.id.split(':')[0]!;
  const tally = families.get(family) ?? { offered: 0, refused: 0, useless: 0 };
  families.set(family, tally);
  tally.offered++;
  const decoded = decodeThread(applyEdits(doc, f.action.edits));
  if (!decoded.ok) {
    tally.refused++;
    return note(`action of ${f.id} refused: ${JSON.stringify(decoded.issues[0])}`);
  }
  const after = findings(decoded.value, simulate(decoded.value)).find((x) => x.id === f.id);
  if (after && !eases(f, after)) {
    tally.useless++;
    note(`action of ${f.id} eases nothing: ${f.title} → ${after.title}`);
  }
}

const half = Math.floor(count / 2);
fc.sample(anyThread, { numRuns: half, seed }).forEach((doc, k) => look(doc, k));
fc.sample(extremeThread, { numRuns: count - half, seed }).forEach((doc, k) => look(doc, half + k));

/** Some of the ordinary ones against a fine reference. */
const FINE_COUNT = Math.min(500, Math.ceil(count / 2));
const compared = fc.sample(anyThread, { numRuns: FINE_COUNT, seed: seed + 1 }).map(compareToFine);
const told = compared.filter((c) => c !== undefined);
const largest = (of: (c: Comparison) => number) =>
  told
    .map(of)
    .sort((a, b) => b - a)
    .slice(0, 5);

times.sort((a, b) => b.ms - a.ms);
const kinds = new Map<string, { count: number; first: Trouble }>();
for (const t of troubles) {
  const kind = t.what.replace(/[\d.e+-]+/g, '#').slice(0, 60);
  kinds.set(kind, { count: (kinds.get(kind)?.count ?? 0) + 1, first: kinds.get(kind)?.first ?? t });
}
console.log(
  JSON.stringify(
    {
      designs: count,
      seed,
      longestMs: times.slice(0, 5),
      overSecond: times.filter((t) => t.ms > 1000).length,
      medianMs: times[times.length >> 1]!.ms,
      fine: {
        compared: told.length,
        gaveUp: compared.length - told.length,
        ends: largest((c) => c.ends),
        accounts: largest((c) => c.account),
        within: told.filter((c) => c.ends < 1e-5 && c.account < 1e-5).length,
        otherModes: told.filter((c) => !c.sameModes).length,
      },
      reasons: Object.fromEntries(reasons),
      abandoned,
      actions: Object.fromEntries(families),
      troubles: [...kinds].map(([kind, { count: n, first }]) => ({ kind, count: n, first })).slice(0, 60),
    },
    null,
    1,
  ),
);
process.exitCode = troubles.length > 0 ? 1 : 0;
