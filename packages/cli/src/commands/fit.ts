import { explain, loggedCurve, planOf, readingsFrom } from '@mile-thread/core/bench';
import { issueSentence, type BenchCurve } from '@mile-thread/core/model';
import { finish } from '@mile-thread/core/solve';
import Papa from 'papaparse';
import { complain, say } from '../say.ts';
import { EXIT, type Command } from './command.ts';
import { fail, refused, rowsOfLog, textOf } from './files.ts';
import { fitText } from './fitText.ts';

export const fit: Command = {
  name: 'fit',
  usage: [
    {
      args: 'FILE READINGS.csv [--log LOG.csv] [--json]',
      says: [
        "which figures explain what was read: the plan's CSV with its column read filled in,",
        'and a log of a run-down',
      ],
    },
  ],
  options: ['json', 'log'],
  reads: true,
  words: 1,
  run(doc, [file], { json, log }) {
    const text = textOf(file!);
    if (text === undefined) return EXIT.badFile;
    const { data } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' });
    const { readings, issues } = readingsFrom(data, planOf(doc));
    const lines = issues.map((i) => `  ${issueSentence(i)}\n`).join('');
    if (readings.length === 0 && log === undefined)
      return fail(`mile: no readings in ${file}\n${lines}`, EXIT.badFile);
    if (lines) complain(`mile: passed over in ${file}:\n${lines}`);
    const curve = log === undefined ? undefined : curveIn(log);
    if (log !== undefined && !curve) return EXIT.badFile;
    const found = finish(explain({ ...doc, readings, ...(curve ? { curves: [curve] } : {}) }));
    if (!found) return fail('mile: these readings say nothing of cells, losses and draws\n', EXIT.notMet);
    say(json ? `${JSON.stringify(found, null, 2)}\n` : fitText(doc, found));
    return found.settled ? EXIT.met : EXIT.notMet;
  },
};

/** The run-down in a log; undefined, and told, where it cannot be read. */
function curveIn(file: string): BenchCurve | undefined {
  const rows = rowsOfLog(file);
  if (!rows) return undefined;
  const { curve, issues } = loggedCurve(rows, file, new Date().toISOString(), undefined);
  return curve ?? refused(file, issues);
}
