// `npm run soak [-- designs seed [part]]`, a part being files, programmes, whole, look, quick, soak or practice: random designs through run, sizing and checks, broken files through every reader;
// minutes. Writes docs/benchmarks.md.
// Fails when anything happened that may never happen.
import { spawnSync } from 'node:child_process';
import { bundle } from './bundle.mjs';
import { where, writePart } from './figures.mjs';
import { install, root } from './prepare.mjs';

install();
const few = (values) => values.map((v) => v.toExponential(1)).join(', ');
const programs = await bundle({
  soak: 'packages/core/test/soak/run.ts',
  hostile: 'packages/core/test/soak/hostile.ts',
  programmes: 'packages/core/test/soak/programmes.ts',
  whole: 'packages/core/test/soak/whole.ts',
  look: 'packages/core/test/soak/look.ts',
  quick: 'packages/core/test/soak/quick.ts',
});
const [designs = '10000', seed = '1', only] = process.argv.slice(2);
const wanted = (part) => only === undefined || only === part;
if (wanted('files')) {
  const files = outcome(programs.hostile, String(10 * Number(designs)), seed);
  writePart(
    'files',
    `## Broken files

${where('soak')}
Threads, shelves, records and tables of readings with random damage, through the readers. Seed ${files.seed}.

| what | measured | aim |
| --- | --- | --- |
| broken inputs | ${files.count} | 100,000 |
| thrown, refused in raw words, or refused once written again | ${files.troubles} | 0 |
| longest | ${files.longest.toFixed(0)} ms | ≤ 1 s |
${files.large.map((l) => `| ${l.name} | ${l.ms.toPrecision(3)} ms | ≤ 1 s |`).join('\n')}
${files.first.map((t) => `\n- ${t.what.slice(0, 200)} (input ${t.index})`).join('')}`,
  );
}

if (wanted('programmes')) {
  const work = outcome(programs.programmes, String(Math.ceil(Number(designs) / 25)), seed);
  writePart(
    'programmes',
    `## Random programmes

${where('soak')}
Two to five modes over some hundreds of cycles; half of them a load under peaks, a board with delays, and a load that stops or starts anew. Seed ${work.seed}.

| what | measured | aim |
| --- | --- | --- |
| programmes | ${work.count} | 400 |
| useful end within 0.5 % of cycle by cycle | ${work.within} | all |
| largest differences | ${few(work.ends)} | 5e-3 |
| energy ledgers close to | ${few(work.closures)} | 1e-6 |
| cycles skipped | ${work.skipped} | |
| longest run | ${work.longest.toFixed(0)} ms | ≤ 1 s |
| other ends, NaN, refused actions, exceptions | ${work.troubles} | 0 |
${work.first.map((t) => `\n- ${t.what.slice(0, 200)} (programme ${t.index})`).join('')}`,
  );
}

if (wanted('whole')) {
  const whole = outcome(programs.whole, String(Math.ceil(Number(designs) / 10)), seed);
  const asked = Object.entries(whole.found);
  const rowOf = (what, of) => `| ${what} | ${asked.map(([, tally]) => of(tally)).join(' | ')} | `;
  writePart(
    'whole',
    `## Threads with everything in them

${where('soak')}
A tree of stages, a programme with peaks and loads that give way, unlike groups or cells, a board that balances, cold or warm air through a day, a charger, mains that comes and goes; all that is asked of each. Seed ${whole.seed}.

| what | ${asked.map(([name]) => name).join(' | ')} | aim |
| --- | ${asked.map(() => '---').join(' | ')} | --- |
${rowOf('threads', (t) => t.asked)}${whole.count} |
${rowOf('broken off, and told', (t) => t.cut)}|
${rowOf('largest opening of an account', (t) => t.closure.toExponential(1))}1e-6 |
${rowOf('accounts open', (t) => t.open)}0 |
${rowOf('longest, processor time', (t) => `${t.longest.toFixed(2)} s`)}1 s |
${rowOf('over a second', (t) => t.over)}0 |

NaN, exceptions, words that say nothing and the above: ${whole.troubles}.
${whole.first.map((t) => `\n- ${t.what.slice(0, 200)} (thread ${t.index})`).join('')}`,
  );
}

if (wanted('look')) {
  const look = outcome(programs.look, String(Math.ceil(Number(designs) / 50)), seed);
  const half = (values) => values[values.length >> 1] ?? 0;
  writePart(
    'look',
    `## A long look against steps

${where('soak')}
Random threads with everything in them over two months of outages as chance brings them, some 17 each. Seed ${look.seed}.

| what | measured | aim |
| --- | --- | --- |
| threads | ${look.count}, of them ${look.unfinished} that steps or look did not finish | ${look.count} |
| dark hours within one of those by steps | ${look.within.hour} of ${look.compared} | all |
| they differ by, at most and half of them | ${look.dark
      .slice(0, 4)
      .map((d) => d.toPrecision(2))
      .join(', ')} … ${half(look.dark).toExponential(0)} h of 1,440 | |
| lowest charge within 1 % | ${look.within.percent} of ${look.compared} | all |
| it differs by, at most and half of them | ${look.lowest
      .slice(0, 4)
      .map((d) => (100 * d).toPrecision(2))
      .join(', ')} … ${(100 * half(look.lowest)).toExponential(0)} % | |
| accounts close to | ${few(look.closures.slice(0, 3))} | 1e-4 |
| an hour by steps | ${look.perHour.march.toPrecision(3)} µs | |
| an hour of the first look at a thread | ${look.perHour.first.toPrecision(3)} µs | |
| an hour of the next | ${look.perHour.again.toPrecision(3)} µs | 1 µs |
`,
  );
}

if (wanted('quick')) {
  const quick = outcome(programs.quick, String(Math.ceil(Number(designs) / 5)), seed);
  const share = (x) => x.toExponential(1);
  const three = ({ half, nine, most }, of) => [half, nine, most].map(of).join(', ');
  const time = (x) => `${x.toPrecision(2)} ms`;
  writePart(
    'quick',
    `## A quick look against runs

${where('soak')}
Random threads with everything in them. Three figures are those that half, nine in ten and 99 in a hundred stay below. Seed ${quick.seed}.

| what | measured | aim |
| --- | --- | --- |
| threads | ${quick.count} | ${quick.count} |
| left to the run | ${list(quick.open)} | |
| answered where the run is broken off | ${quick.cut} | |
| the run ends between its bounds | ${quick.compared - quick.outside.length} of ${quick.compared} | all |
| the others are off by | ${quick.outside.map(share).join(', ') || '–'} | |
| likely end within 1e-3 of the run | ${quick.within} of ${quick.long} | all |
| it differs by | ${three(quick.off, share)} | 1e-3 |
| bounds apart | ${three(quick.apart, share)} | |
| the first of a path, compiled and looked at | ${three(quick.ms.first, time)} | |
| other cells on that path, with a programme | ${three(quick.ms.programme, time)} | ≤ 1 ms, half of them |
| the same, steady | ${three(quick.ms.steady, time)} | ≤ 0.3 ms, half of them |
| by a run | ${three(quick.ms.run, time)} | |
| refused before it is compiled | ${three(quick.refused, (x) => `${x.toPrecision(2)} µs`)} | ≤ 10 µs |
`,
  );
}

if (wanted('soak')) {
  const found = outcome(programs.soak, designs, seed);
  const actions = Object.values(found.actions);
  const sum = (field) => actions.reduce((total, a) => total + a[field], 0);
  randomDesigns(found, sum);
}
if (wanted('practice')) practice();

/** What a program found, as JSON on its output. */
function outcome(program, ...args) {
  const done = spawnSync(process.execPath, [program, ...args], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
    maxBuffer: 1 << 28,
  });
  if (!done.stdout) throw new Error('the soak ended without a word');
  if (done.status !== 0) process.exitCode = 1;
  return JSON.parse(done.stdout);
}

/** Counts by their names, in words. */
function list(counts) {
  return Object.entries(counts)
    .map(([name, n]) => `${n} ${name}`)
    .join(', ');
}

function randomDesigns(found, sum) {
  writePart(
    'soak',
    `## Random designs

${where('soak')}
Half of them ordinary, half extreme but legal; run, sized and checked, every action on offer tried. Seed ${found.seed}.

| what | measured | aim |
| --- | --- | --- |
| designs | ${found.designs} | 10,000 |
| longest run | ${found.longestMs[0].ms.toFixed(0)} ms (median ${found.medianMs.toPrecision(3)} ms) | ≤ 1 s |
| runs above a second | ${found.overSecond} | 0 |
| how they end | ${list(found.reasons)} | each has a reason |
| with a stage given up after too long a search | ${found.abandoned} | |
| actions on offer | ${sum('offered')} | |
| of them refused by the model | ${sum('refused')} | 0 |
| of them that ease nothing | ${sum('useless')} | 0 |
| ordinary designs against steps forty times as short, worked out exactly | ${found.fine.compared} compared, ${found.fine.gaveUp} where a search was given up or the demand jumps | 500 |
| of them with both ends and every line of the account within 1e-5 | ${found.fine.within} | all |
| largest differences of an end | ${few(found.fine.ends)} | 1e-5 |
| largest differences of a line of the account | ${few(found.fine.accounts)} | 1e-5 |
| with other modes | ${found.fine.otherModes} | 0 |
| NaN, open ledgers, exceptions and the like | ${found.troubles.reduce((total, t) => total + t.count, 0)} | 0 |
${found.troubles.length > 0 ? `\n${found.troubles.map((t) => `- ${t.count} ×: ${t.first.what.slice(0, 200)} (design ${t.first.index})`).join('\n')}\n` : ''}`,
  );
}

/** A plan practised on fifty hidden truths, and what explains as many misses: tests that take minutes with so many. */
function practice() {
  const hidden = spawnSync(
    'npx',
    [
      'vitest',
      'run',
      'packages/server/src/standins/practice.test.ts',
      'packages/core/src/bench/explain.test.ts',
    ],
    { cwd: root, stdio: 'inherit', env: { ...process.env, SEEDS: '50', TRUTHS: '50' } },
  );
  if (hidden.status !== 0) process.exitCode = 1;
}
