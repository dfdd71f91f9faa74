import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import {
  findings,
  issueSentence,
  parseThread,
  seriesCsv,
  simulate,
  threadSchema,
  type ThreadDocument,
} from '@mile-thread/core';
import { findingsText, runJson, runText } from './report.ts';

/** What the exit codes say; documented in the README. */
export const EXIT = { met: 0, notMet: 1, usage: 2, badFile: 3 } as const;

const USAGE = `mile: plan the power path from lithium cell to load

  mile run FILE [--json] [--csv OUT]   run the thread down and say how long it lasts
  mile check FILE [--json]             list what is wrong with it, worst first
  mile schema                          print the JSON Schema of a thread file

FILE is NAME.thread.json, or - for standard input. OUT may be - for standard output.
Exit: 0 need met and nothing fails, 1 need not met or something fails, 2 wrong use, 3 file cannot be read.
`;

/** Run the command line. @returns the exit code */
export async function main(args: string[]): Promise<number> {
  let parsed;
  try {
    parsed = parseArgs({
      args,
      allowPositionals: true,
      options: { json: { type: 'boolean' }, csv: { type: 'string' }, help: { type: 'boolean', short: 'h' } },
    });
  } catch (error) {
    return fail(`${(error as Error).message}\n\n${USAGE}`, EXIT.usage);
  }
  const { positionals, values } = parsed;
  const [command, file, ...rest] = positionals;
  if (values.help || command === 'help') {
    process.stdout.write(USAGE);
    return EXIT.met;
  }
  if (command === 'schema' && file === undefined) {
    process.stdout.write(`${JSON.stringify(threadSchema(), null, 2)}\n`);
    return EXIT.met;
  }
  if ((command !== 'run' && command !== 'check') || file === undefined || rest.length > 0) {
    return fail(USAGE, EXIT.usage);
  }
  if (values.csv !== undefined && command !== 'run') return fail('mile: --csv goes with run\n', EXIT.usage);
  const doc = load(file);
  if (!doc) return EXIT.badFile;
  return command === 'run' ? run(doc, values) : check(doc, values.json ?? false);
}

function run(doc: ThreadDocument, { json, csv }: { json?: boolean; csv?: string }): number {
  const result = simulate(doc);
  const found = findings(doc, result);
  if (csv !== undefined) {
    const text = seriesCsv(doc, result.series);
    try {
      if (csv === '-') process.stdout.write(text);
      else writeFileSync(csv, text);
    } catch (error) {
      return fail(`mile: cannot write ${csv}: ${(error as Error).message}\n`, EXIT.usage);
    }
  }
  if (csv !== '-') process.stdout.write(json ? runJson(doc, result, found) : runText(doc, result, found));
  return result.usefulEnd.time >= doc.need.hours * 3600 ? EXIT.met : EXIT.notMet;
}

function check(doc: ThreadDocument, json: boolean): number {
  const found = findings(doc, simulate(doc));
  process.stdout.write(json ? `${JSON.stringify(found, null, 2)}\n` : findingsText(found));
  return found.some((f) => f.severity === 'danger' || f.severity === 'fails') ? EXIT.notMet : EXIT.met;
}

function load(file: string): ThreadDocument | undefined {
  let text: string;
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    fail(`mile: cannot read ${file}: ${(error as Error).message}\n`, EXIT.badFile);
    return undefined;
  }
  const outcome = parseThread(text);
  if (outcome.ok) return outcome.value;
  const lines = outcome.issues.map((i) => `  ${issueSentence(i)}\n`);
  fail(`mile: ${file} is not a thread that can be used:\n${lines.join('')}`, EXIT.badFile);
  return undefined;
}

function fail(message: string, code: number): number {
  process.stderr.write(message);
  return code;
}
