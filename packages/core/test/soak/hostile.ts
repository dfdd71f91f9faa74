import { LARGE, randomFrom, tryHostile } from '../hostile.ts';

/** Broken inputs through every reader: what may never happen, and how long the longest takes. Arguments: how many, seed. */
const count = Number(process.argv[2] ?? 100_000);
const seed = Number(process.argv[3] ?? 1);
const random = randomFrom(seed);
const troubles: { index: number; what: string }[] = [];
let longest = 0;
let overSecond = 0;

function timed(index: number, call: () => string | undefined): void {
  const start = performance.now();
  let what: string | undefined;
  try {
    what = call();
  } catch (error) {
    what = `throws ${(error as Error).stack?.slice(0, 300)}`;
  }
  const ms = performance.now() - start;
  longest = Math.max(longest, ms);
  if (ms > 1000) overSecond++;
  if (what !== undefined) troubles.push({ index, what });
}

for (let n = 0; n < count; n++) {
  if (n % 10_000 === 0) process.stderr.write(`${n} of ${count} broken inputs\n`);
  timed(n, () => tryHostile(random));
}
const large = Object.entries(LARGE).map(([name, read]) => {
  const start = performance.now();
  timed(-1, () => void read());
  return { name, ms: performance.now() - start };
});
console.log(
  JSON.stringify({
    count,
    seed,
    longest,
    overSecond,
    large,
    troubles: troubles.length,
    first: troubles.slice(0, 20),
  }),
);
process.exitCode = troubles.length > 0 ? 1 : 0;
