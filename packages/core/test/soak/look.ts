import fc from 'fast-check';
import { darkSeconds, LongLook, outage, randomYear, type OutageResult } from '../core.ts';
import { anyWhole } from '../everything.ts';

/**
 * A long look against steps: random threads with everything in them over two months of outages as chance brings them. Arguments: how many
 * threads, seed.
 */
const count = Number(process.argv[2] ?? 200);
const seed = Number(process.argv[3] ?? 1);
const SPAN = 60 * 86_400;

const darkHours = (of: OutageResult) => darkSeconds(of) / 3600;
const cpu = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};
const falling = (of: number[]) => of.sort((a, b) => b - a);

const dark: number[] = [];
const lowest: number[] = [];
const closures: number[] = [];
const ms = { march: 0, first: 0, again: 0 };
let unfinished = 0;
let year = 0;
const threads = fc.sample(
  anyWhole.filter((d) => d.charging !== undefined),
  { numRuns: count, seed },
);
for (const doc of threads) {
  const gone = randomYear({ perYear: 100, half: 3, sixth: 12 }, ++year, SPAN);
  const t0 = cpu();
  const march = outage(doc, gone, SPAN, {}, { rows: 0 });
  const t1 = cpu();
  const look = new LongLook(doc);
  const found = look.over(gone, SPAN, { rows: 0 });
  const t2 = cpu();
  look.over(gone, SPAN, { rows: 0 });
  const t3 = cpu();
  ms.march += t1 - t0;
  ms.first += t2 - t1;
  ms.again += t3 - t2;
  if (!march.end.whole || !found.end.whole) {
    unfinished++;
    continue;
  }
  dark.push(Math.abs(darkHours(found) - darkHours(march)));
  lowest.push(Math.abs(Math.min(1, found.lowest.soc) - Math.min(1, march.lowest.soc)));
  closures.push(found.ledger.closure);
}
const hours = (count * SPAN) / 3600;
console.log(
  JSON.stringify({
    ...{ count, seed, unfinished, compared: dark.length },
    within: { hour: dark.filter((d) => d <= 1).length, percent: lowest.filter((d) => d <= 0.01).length },
    ...{ dark: falling(dark), lowest: falling(lowest), closures: falling(closures) },
    perHour: {
      march: (1000 * ms.march) / hours,
      first: (1000 * ms.first) / hours,
      again: (1000 * ms.again) / hours,
    },
  }),
);
