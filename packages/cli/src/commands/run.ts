import { findings, seriesCsv } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { cycleAt, readingOf, ROW, simulate } from '@mile-thread/core/solve';
import { EXIT, type Command } from './command.ts';
import { fail, give, notATime, timeOf, write } from './files.ts';
import { runJson, runText } from './runText.ts';

/** Rows of a run for a whole charge, where they are written out. */
export const ROWS = 400;

export const run: Command = {
  name: 'run',
  usage: [
    { args: 'FILE [--json] [--csv OUT]', says: ['run the thread down and say how long it lasts'] },
    {
      args: 'FILE --cycle HOURS [--csv OUT]',
      says: ['one cycle of its programme at that time, every step of it, as CSV'],
    },
  ],
  options: ['json', 'csv', 'cycle'],
  reads: true,
  words: 0,
  refuses: (_, { cycle, json }) =>
    cycle !== undefined && json ? '--cycle goes with run, and is CSV' : undefined,
  run(doc, _, { json, csv, cycle }) {
    if (cycle !== undefined) return oneCycle(doc, cycle, csv ?? '-');
    const result = simulate(doc, { rows: ROWS });
    const found = findings(doc, result);
    const rows = () => seriesCsv(doc, result.series);
    const words = () => (json ? runJson(doc, result, found) : runText(doc, result, found));
    const met = result.usefulEnd.time >= doc.goals.hours * 3600;
    return give(csv, { rows, words }, met ? EXIT.met : EXIT.notMet);
  },
};

function oneCycle(doc: ThreadDocument, when: string, csv: string): number {
  const result = simulate(doc);
  const time = timeOf(when, result.usefulEnd.time * (1 - 1e-9));
  if (time === undefined) return fail(notATime('cycle', when), EXIT.usage);
  const reading = readingOf(result);
  const found = cycleAt(doc, Math.max(1e-3, reading.at(reading.rowAt(time), ROW.soc)));
  if (!found) return fail('mile: this thread has no programme, so it has no cycle\n', EXIT.usage);
  return write(seriesCsv(doc, found.series), csv) ?? (found.through ? EXIT.met : EXIT.notMet);
}
