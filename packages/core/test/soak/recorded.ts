import fc from 'fast-check';
import { readFileSync, writeFileSync } from 'node:fs';
import { anyCharged } from '../anyCharging.ts';
import { anyThread } from '../arbitrary.ts';
import {
  backupOf,
  backupFindings,
  charge,
  findings,
  simulate,
  type Finding,
  type ThreadDocument,
} from '../core.ts';
import { anyWhole } from '../everything.ts';
import { numbersIn } from '../extreme.ts';
import { anyBusy, anyProgramme } from '../programmes.ts';
import { chargeFindings } from '../../src/checks/charging/charging.ts';
import { outage } from '../../src/run/outage.ts';

/**
 * Figures of many random threads of each kind, written to a file or compared with one: what an engine rebuilt must give again.
 * Arguments: record or compare, the file, how many of each kind, and which kinds where not all.
 */
const [, , what, file, of = '500', ...only] = process.argv;
const count = Number(of);
/** Relative difference that counts as none. */
const SAME = 1e-9;
/** Below which a number is measured against this, and an account's closure counts as rounding. */
const SMALL = 1e-9;
const CLOSED = 1e-8;

/** The ends, answers and accounts of one thread; nothing of rows, counts of work, or words that carry numbers twice. */
type Figures = Record<string, number | string>;

const told = (list: Finding[]) =>
  list
    .map((f) => `${f.severity} ${f.id}`)
    .sort()
    .join(', ');
const LEFT_OUT = /\.(series|counts|envelope)\b/;

function flat(answer: object, found: Finding[]): Figures {
  const figures: Figures = { findings: told(found) };
  for (const { path, value } of numbersIn(answer)) if (!LEFT_OUT.test(path)) figures[path] = value;
  return figures;
}

const KINDS: Record<string, { from: fc.Arbitrary<ThreadDocument>; ask(doc: ThreadDocument): Figures }> = {
  steady: {
    from: anyThread,
    ask: (doc) => {
      const run = simulate(doc);
      return { reason: run.deadEnd.reason, ...flat(run, findings(doc, run, { actions: false })) };
    },
  },
  programmed: {
    from: fc.oneof(anyProgramme, anyBusy),
    ask: (doc) => {
      const run = simulate(doc);
      return { reason: run.deadEnd.reason, ...flat(run, findings(doc, run, { actions: false })) };
    },
  },
  charge: {
    from: anyCharged,
    ask: (doc) => {
      const filled = charge(doc);
      return { reason: filled.end.reason, ...flat(filled, chargeFindings(doc, filled)) };
    },
  },
  outage: {
    from: anyWhole.filter((doc) => doc.charging !== undefined),
    ask: (doc) =>
      flat(
        outage(
          doc,
          [
            { from: 3600, to: 10_800 },
            { from: 90_000, to: 200_000 },
          ],
          4 * 86_400,
        ),
        [],
      ),
  },
  backup: {
    from: anyWhole.filter((doc) => doc.charging !== undefined && doc.backup !== undefined),
    ask: (doc) => {
      const found = backupOf(doc);
      return flat(found, backupFindings(doc, found));
    },
  },
};

const figures = Object.fromEntries(
  Object.entries(KINDS)
    .filter(([kind]) => only.length === 0 || only.includes(kind))
    .map(([kind, { from, ask }]) => {
      process.stderr.write(`${count} of ${kind}\n`);
      return [kind, fc.sample(from, { numRuns: count, seed: 24 }).map(ask)];
    }),
);

function differs(name: string, a: number | string | undefined, b: number | string | undefined): boolean {
  if (typeof a !== 'number' || typeof b !== 'number') return a !== b;
  if (name.endsWith('closure') && Math.max(a, b) < CLOSED) return false;
  return a !== b && !(Math.abs(a - b) <= SAME * Math.max(SMALL, Math.abs(a), Math.abs(b)));
}

if (what === 'record') {
  // Infinity is no number in JSON.
  writeFileSync(
    file!,
    JSON.stringify(figures, (_, v) => (typeof v === 'number' && !Number.isFinite(v) ? String(v) : v)),
  );
} else {
  const before = JSON.parse(readFileSync(file!, 'utf8')) as typeof figures;
  const present = JSON.parse(
    JSON.stringify(figures, (_, v) => (typeof v === 'number' && !Number.isFinite(v) ? String(v) : v)),
  ) as typeof figures;
  const found: Record<string, { threads: number; differ: number; first: string[] }> = {};
  for (const [kind, all] of Object.entries(present)) {
    const tally = (found[kind] = { threads: all.length, differ: 0, first: [] as string[] });
    all.forEach((now, k) => {
      const then = before[kind]?.[k] ?? {};
      const names = [...new Set([...Object.keys(then), ...Object.keys(now)])].filter((n) =>
        differs(n, then[n], now[n]),
      );
      if (names.length === 0) return;
      tally.differ++;
      if (tally.first.length < Number(process.env.SHOW ?? 8))
        tally.first.push(
          `thread ${k}: ${names
            .slice(0, 3)
            .map((n) => `${n} ${then[n]} → ${now[n]}`)
            .join('; ')} (${names.length})`,
        );
    });
  }
  console.log(JSON.stringify(found, null, 1));
  process.exitCode = Object.values(found).some((t) => t.differ > 0) ? 1 : 0;
}
