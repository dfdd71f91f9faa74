import {
  guessColumns,
  LOG_KINDS,
  logFigures,
  logLines,
  readLog,
  type LogKind,
  type Log,
} from '@mile-thread/core/logs';
import { formatQuantity, parseQuantity } from '@mile-thread/core/units';
import { say } from '../say.ts';
import { EXIT, type Command } from './command.ts';
import { fail, refused, rowsOfLog } from './files.ts';

const KINDS = Object.entries(LOG_KINDS);

export const log: Command = {
  name: 'log',
  usage: [
    {
      args: `FILE ${KINDS.map(([kind]) => kind).join('|')} LOG.csv [WATTS] [--json]`,
      says: [
        'what one log of the pack tells by itself:',
        ...KINDS.map(([kind, about]) => `${kind}: ${about}`),
      ],
    },
  ],
  options: ['json'],
  reads: true,
  words: { least: 2 },
  refuses([kind, , watts, more]) {
    if (!(kind! in LOG_KINDS))
      return `no kind of log is called ${kind}; there are ${Object.keys(LOG_KINDS).join(', ')}`;
    if (more !== undefined) return `nothing is taken behind ${watts}`;
    if (kind === 'input' && watts === undefined)
      return 'input takes the power of the load behind the log, such as 3.2W';
    return undefined;
  },
  run({ pack }, [kind, file, given], { json }) {
    const watts = given === undefined ? undefined : parseQuantity(given, 'W');
    if (watts && !(watts.ok && watts.value > 0))
      return fail(`mile: ${given} is no power of a load\n`, EXIT.usage);
    const found = logIn(file!, kind === 'discharge' || kind === 'input');
    if (!found) return EXIT.badFile;
    const figures = logFigures(kind as LogKind, found, pack, watts?.ok ? [watts.value] : []);
    if (json) say(`${JSON.stringify(Object.fromEntries(figures.map((f) => [f.key, f])), null, 2)}\n`);
    else {
      const told = (value: number, unit: string) =>
        unit ? formatQuantity(value, unit, 4) : value.toPrecision(4);
      const lines = figures.map(({ value, error, unit, about }) => {
        const within = error === undefined ? '' : `± ${told(error, unit)}`;
        return `${told(value, unit).padStart(12)} ${within.padEnd(14)} ${about}\n`;
      });
      say(lines.join(''));
    }
    return figures.every((f) => Number.isFinite(f.value)) ? EXIT.met : EXIT.notMet;
  },
};

/** A log by the names over its columns; undefined, and told, where it cannot be read. */
function logIn(file: string, current: boolean): Log | undefined {
  const rows = rowsOfLog(file);
  if (!rows) return undefined;
  const lines = logLines(rows);
  const columns = current ? guessColumns(lines) : guessColumns(lines, 'volts');
  if (!columns.ok) return refused(file, columns.issues);
  const read = readLog(lines, columns.value, { broken: 'mend' });
  return read.ok ? read.value : refused(file, read.issues);
}
