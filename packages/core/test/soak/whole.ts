import fc from 'fast-check';
import { anyWhole } from '../everything.ts';
import { nanIn } from '../extreme.ts';
import { QUESTIONS } from '../wholeAnswers.ts';

/**
 * Random threads with everything in them, and everything that is asked of one: no throw, no NaN, every account closed, none
 * over a second of processor time.
 * Arguments: how many, seed.
 */
const count = Number(process.argv[2] ?? 1000);
const seed = Number(process.argv[3] ?? 1);
/** [s] of processor time that a question may take. */
const MOST = 1;
const CLOSED = 1e-6;
/** Threads asked before anything is measured: what the compiler does is then done. */
const WARM = 20;

interface Tally {
  asked: number;
  cut: number;
  closure: number;
  open: number;
  longest: number;
  over: number;
}
const found: Record<string, Tally> = {};
const troubles: { index: number; what: string }[] = [];

const seconds = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
};

fc.sample(anyWhole, { numRuns: count + WARM, seed }).forEach((doc, k) => {
  const index = k - WARM;
  if (index % 100 === 0) process.stderr.write(`${index} of ${count} threads with everything\n`);
  for (const [name, ask] of Object.entries(QUESTIONS)) {
    const note = (what: string) => index >= 0 && troubles.push({ index, what: `${name}: ${what}` });
    const start = seconds();
    try {
      const asked = ask(doc);
      const took = seconds() - start;
      if (!asked || index < 0) continue;
      const tally = (found[name] ??= { asked: 0, cut: 0, closure: 0, open: 0, longest: 0, over: 0 });
      const closure = Math.max(0, ...asked.ledgers.map((l) => l.closure));
      tally.asked++;
      if (asked.cut) tally.cut++;
      tally.closure = Math.max(tally.closure, closure);
      tally.longest = Math.max(tally.longest, took);
      if (took > MOST) {
        tally.over++;
        note(`takes ${took.toFixed(2)} s`);
      }
      if (!(closure < CLOSED)) {
        tally.open++;
        note(`account open by ${closure.toExponential(1)}`);
      }
      const nan = nanIn(asked.answer);
      if (nan !== undefined) note(`NaN at ${nan}`);
      const wrong = asked.words.find((w) => /NaN|undefined|Infinity/.test(w));
      if (wrong) note(`words: ${wrong}`);
    } catch (error) {
      note(`throws: ${(error as Error).stack?.slice(0, 200)}`);
    }
  }
});

console.log(JSON.stringify({ count, seed, found, troubles: troubles.length, first: troubles.slice(0, 12) }));
process.exitCode = troubles.length > 0 ? 1 : 0;
