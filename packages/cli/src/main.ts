import { readFileSync, realpathSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { findings, pathNetlist, seriesCsv, stageEnvelope, stageNetlist } from '@mile-thread/core';
import {
  backupFindings,
  backupOf,
  charge,
  chargeFindings,
  chargeNetlist,
  transferNetlist,
  yearsOf,
  type ChargeResult,
} from '@mile-thread/core/charging';
import {
  type BenchCurve,
  isConverter,
  issueSentence,
  parseThread,
  threadSchema,
  type Stage,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { cycleAt, finish, readingOf, ROW, simulate, type RunResult } from '@mile-thread/core/solve';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { sizeJson, sizeText } from './size.ts';
import { chargeJson, chargeText } from './charge.ts';
import { outageJson, outageText } from './outage.ts';
import {
  explain,
  leftOutWords,
  loggedCurve,
  planCsv,
  planOf,
  predictions,
  readingsFrom,
} from '@mile-thread/core/bench';
import { separatorOf } from '@mile-thread/core/logs';
import Papa from 'papaparse';
import { fitText } from './fit.ts';
import { planText } from './plan.ts';
import { findingsText, runJson, runText } from './report.ts';
import { complain, say } from './say.ts';

/** What the exit codes say; documented in the README. */
export const EXIT = { met: 0, notMet: 1, usage: 2, badFile: 3 } as const;

const USAGE = `mile: plan the power path from lithium cell to load

  mile run FILE [--json] [--csv OUT]   run the thread down and say how long it lasts
  mile run FILE --cycle HOURS [--csv OUT]
                                       one cycle of its programme at that time, every step of it, as CSV
  mile charge FILE [--json] [--csv OUT]
                                       charge its pack and say how long that takes and what is wrong with it
  mile outage FILE [--years N] [--json] [--csv OUT]
                                       its timeline of mains: who carries, how long it holds, what a transfer does;
                                       in how many of N random years it drops its loads
  mile plan FILE [--json] [--csv OUT]  what to measure, in safe order, with what to expect and a blank for each reading
  mile fit FILE READINGS.csv [--log LOG.csv] [--json]
                                       which figures explain what was read: the plan's CSV with its column read filled in,
                                       and a log of a run-down
  mile check FILE [--json]             list what is wrong with it, worst first
  mile size FILE STAGE [--json]        the sizing table of a stage: every part over the run
  mile netlist FILE [--at WHEN]        a SPICE netlist of the path, to check an operating point by
  mile netlist FILE --charge [--at WHEN]
                                       the same of its charge, WHEN hours into it
  mile netlist FILE --transfer         the rail on which adapter and battery meet, as mains goes
  mile netlist FILE --stage ID         a switched netlist of a stage with parts
  mile schema                          print the JSON Schema of a thread file

STAGE and ID are a stage's id or name. WHEN is hours into the run, or end, the useful end; 0 where not given
for the path, end for a stage.
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
      options: {
        json: { type: 'boolean' },
        csv: { type: 'string' },
        stage: { type: 'string' },
        at: { type: 'string' },
        cycle: { type: 'string' },
        charge: { type: 'boolean' },
        transfer: { type: 'boolean' },
        years: { type: 'string' },
        log: { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    });
  } catch (error) {
    return fail(`${(error as Error).message}\n\n${USAGE}`, EXIT.usage);
  }
  const { positionals, values } = parsed;
  const [command, file, ...rest] = positionals;
  if (values.help || command === 'help') {
    say(USAGE);
    return EXIT.met;
  }
  if (command === 'schema' && file === undefined) {
    say(`${JSON.stringify(threadSchema(), null, 2)}\n`);
    return EXIT.met;
  }
  const words = { run: 0, charge: 0, outage: 0, plan: 0, fit: 1, check: 0, size: 1, netlist: 0 }[
    command as string
  ];
  if (words === undefined || file === undefined || rest.length !== words) return fail(USAGE, EXIT.usage);
  if (values.csv !== undefined && !['run', 'charge', 'outage', 'plan'].includes(command as string)) {
    return fail('mile: --csv goes with run, charge, outage and plan\n', EXIT.usage);
  }
  if (values.cycle !== undefined && (command !== 'run' || values.json)) {
    return fail('mile: --cycle goes with run, and is CSV\n', EXIT.usage);
  }
  for (const name of ['stage', 'at', 'charge', 'transfer'] as const) {
    if (values[name] === undefined || command === 'netlist') continue;
    return fail(`mile: --${name} goes with netlist\n`, EXIT.usage);
  }
  if (values.years !== undefined && command !== 'outage') {
    return fail('mile: --years goes with outage\n', EXIT.usage);
  }
  if (values.log !== undefined && command !== 'fit') return fail('mile: --log goes with fit\n', EXIT.usage);
  if (values.json && command === 'netlist') return fail('mile: a netlist is no JSON\n', EXIT.usage);
  if (values.csv !== undefined && same(values.csv, file)) {
    return fail(`mile: --csv ${values.csv} is the thread file itself; name another\n`, EXIT.usage);
  }
  const doc = load(file);
  if (!doc) return EXIT.badFile;
  if (command === 'run' && values.cycle !== undefined) return oneCycle(doc, values.cycle, values.csv ?? '-');
  if (command === 'run') return run(doc, values);
  if (command === 'charge') return charging(doc, values);
  if (command === 'outage') return mains(doc, values);
  if (command === 'plan') return plan(doc, values);
  if (command === 'fit') return fit(doc, rest[0]!, values);
  if (command === 'check') return check(doc, values.json ?? false);
  return command === 'size'
    ? size(doc, rest[0]!, values.json ?? false)
    : values.transfer
      ? transferCircuit(doc)
      : values.charge
        ? chargeCircuit(doc, values.at)
        : netlist(doc, values.stage, values.at);
}

/** Rows of a run for a whole charge, where they are written out. */
const ROWS = 400;

function size(doc: ThreadDocument, name: string, json: boolean): number {
  const stage = stageNamed(doc, name);
  if (!stage) return EXIT.usage;
  const result = simulate(doc);
  say(json ? sizeJson(doc, result, stage) : sizeText(doc, result, stage));
  return EXIT.met;
}

function netlist(doc: ThreadDocument, name: string | undefined, when: string | undefined): number {
  const result = simulate(doc, { rows: ROWS });
  const at = when ?? (name === undefined ? '0' : 'end');
  const time = timeOf(at, result);
  if (time === undefined) {
    return fail(`mile: --at takes hours, such as 2.5, or end, not ${at || 'nothing'}\n`, EXIT.usage);
  }
  if (name === undefined) {
    say(pathNetlist(doc, result, time));
    return EXIT.met;
  }
  const stage = stageNamed(doc, name);
  if (!stage) return EXIT.usage;
  if (!isConverter(stage) || !stage.parts) {
    return fail(`mile: ${stage.name} has no parts to draw a netlist of\n`, EXIT.usage);
  }
  const switching = stageEnvelope(doc, result, stage.id).snapshots.filter((s) => s.period);
  const point = switching.findLast((s) => s.time <= time) ?? switching[0];
  if (!point) return fail(`mile: ${stage.name} never switches in this run\n`, EXIT.notMet);
  say(stageNetlist(stage, point));
  return EXIT.met;
}

/** [s] of hours into the run, or of `end`; undefined where it is neither. */
function timeOf(text: string, { usefulEnd }: RunResult): number | undefined {
  if (text === 'end') return usefulEnd.time * (1 - 1e-9);
  const hours = /^\d+(\.\d+)?$|^\.\d+$/.test(text) ? Number(text) : NaN;
  return Number.isFinite(hours) ? hours * SECONDS_PER_HOUR : undefined;
}

function oneCycle(doc: ThreadDocument, when: string, csv: string): number {
  const result = simulate(doc);
  const time = timeOf(when, result);
  if (time === undefined) {
    return fail(`mile: --cycle takes hours, such as 2.5, or end, not ${when || 'nothing'}\n`, EXIT.usage);
  }
  const reading = readingOf(result);
  const found = cycleAt(doc, Math.max(1e-3, reading.at(reading.rowAt(time), ROW.soc)));
  if (!found) return fail('mile: this thread has no programme, so it has no cycle\n', EXIT.usage);
  return write(seriesCsv(doc, found.series), csv) ?? (found.through ? EXIT.met : EXIT.notMet);
}

/** Write a text out. @returns the exit code where that fails */
function write(text: string, to: string): number | undefined {
  try {
    if (to === '-') say(text);
    else writeFileSync(to, text);
    return undefined;
  } catch (error) {
    return fail(`mile: cannot write ${to}: ${(error as Error).message}\n`, EXIT.usage);
  }
}

function stageNamed(doc: ThreadDocument, name: string): Stage | undefined {
  const stage = doc.stages.find((s) => s.id === name) ?? doc.stages.find((s) => s.name === name);
  if (!stage) {
    const known = doc.stages.map((s) => `${s.id} (${s.name})`).join(', ') || 'none';
    fail(`mile: no stage ${name}; this thread has ${known}\n`, EXIT.usage);
  }
  return stage;
}

function run(doc: ThreadDocument, { json, csv }: { json?: boolean; csv?: string }): number {
  const result = simulate(doc, { rows: ROWS });
  const found = findings(doc, result);
  if (csv !== undefined) {
    const failed = write(seriesCsv(doc, result.series), csv);
    if (failed !== undefined) return failed;
  }
  if (csv !== '-') say(json ? runJson(doc, result, found) : runText(doc, result, found));
  return result.usefulEnd.time >= doc.goals.hours * 3600 ? EXIT.met : EXIT.notMet;
}

/** The charge of a thread; none of one that says nothing of it. */
function charged(doc: ThreadDocument): ChargeResult | undefined {
  if (doc.charging) return charge(doc, undefined, {}, { rows: ROWS });
  fail('mile: this thread says nothing of how it is charged\n', EXIT.usage);
  return undefined;
}

function charging(doc: ThreadDocument, { json, csv }: { json?: boolean; csv?: string }): number {
  const result = charged(doc);
  if (!result) return EXIT.usage;
  const found = chargeFindings(doc, result);
  if (csv !== undefined) {
    const failed = write(seriesCsv(doc, result.series), csv);
    if (failed !== undefined) return failed;
  }
  if (csv !== '-') say(json ? chargeJson(doc, result, found) : chargeText(doc, result, found));
  return found.some((f) => f.severity === 'danger' || f.severity === 'fails') ? EXIT.notMet : EXIT.met;
}

function plan(doc: ThreadDocument, { json, csv }: { json?: boolean; csv?: string }): number {
  const found = predictions(doc);
  const steps = planOf(doc, found);
  const words = leftOutWords(found);
  if (words !== undefined) complain(`mile: ${words}\n`);
  if (csv !== undefined) {
    const failed = write(planCsv(steps), csv);
    if (failed !== undefined) return failed;
  }
  if (csv !== '-') say(json ? `${JSON.stringify(steps, null, 2)}\n` : planText(doc, steps));
  return EXIT.met;
}

function fit(doc: ThreadDocument, file: string, { json, log }: { json?: boolean; log?: string }): number {
  const text = textOf(file);
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
}

/** The run-down in a log; undefined, and told, where it cannot be read. */
function curveIn(file: string): BenchCurve | undefined {
  const text = textOf(file);
  if (text === undefined) return undefined;
  const { data } = Papa.parse<string[]>(text, { delimiter: separatorOf(text) });
  const { curve, issues } = loggedCurve(data, file, new Date().toISOString(), undefined);
  if (!curve) complain(`mile: ${file}:\n${issues.map((i) => `  ${issueSentence(i)}\n`).join('')}`);
  return curve;
}

/** A file's text; undefined, and told, where it cannot be read. */
function textOf(file: string): string | undefined {
  try {
    return readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    complain(`mile: cannot read ${file}: ${(error as Error).message}\n`);
    return undefined;
  }
}

/** Most random years that are asked for at once. */
const MOST_YEARS = 10_000;

function mains(
  doc: ThreadDocument,
  { json, csv, years }: { json?: boolean; csv?: string; years?: string },
): number {
  if (!doc.backup || !doc.charging) return fail('mile: this thread says nothing of mains\n', EXIT.usage);
  const count = years === undefined ? 0 : Number(years);
  if (!Number.isInteger(count) || count < 0 || count > MOST_YEARS || years?.trim() === '') {
    return fail(`mile: --years takes a whole number up to ${MOST_YEARS}\n`, EXIT.usage);
  }
  if (count > 0 && !doc.backup.chance) {
    return fail('mile: this thread does not say how often mains goes in a year\n', EXIT.usage);
  }
  const result = backupOf(doc);
  const found = backupFindings(doc, result);
  const random = count > 0 ? finish(yearsOf(doc, 0, count, result.dip?.chance ?? 0)) : [];
  if (csv !== undefined) {
    const failed = write(seriesCsv(doc, result.result.series), csv);
    if (failed !== undefined) return failed;
  }
  if (csv !== '-') {
    say(json ? outageJson(doc, result, found, random) : outageText(doc, result, found, random));
  }
  return found.some((f) => f.severity === 'danger' || f.severity === 'fails') ? EXIT.notMet : EXIT.met;
}

function transferCircuit(doc: ThreadDocument): number {
  const dip = doc.backup && doc.charging ? backupOf(doc).dip : undefined;
  if (!dip) return fail('mile: nothing is handed over in this thread\n', EXIT.usage);
  say(transferNetlist(doc.name, dip.task));
  return EXIT.met;
}

function chargeCircuit(doc: ThreadDocument, when = '0'): number {
  const result = charged(doc);
  if (!result) return EXIT.usage;
  const time = when === 'end' ? result.end.time : Number(when) * SECONDS_PER_HOUR;
  if (when.trim() === '' || !(time >= 0 && time < Infinity)) {
    return fail(`mile: --at takes hours, such as 2.5, or end, not ${when || 'nothing'}\n`, EXIT.usage);
  }
  say(chargeNetlist(doc, result, time));
  return EXIT.met;
}

function check(doc: ThreadDocument, json: boolean): number {
  const found = findings(doc, simulate(doc));
  if (doc.charging) found.push(...chargeFindings(doc, charge(doc)));
  say(json ? `${JSON.stringify(found, null, 2)}\n` : findingsText(found));
  return found.some((f) => f.severity === 'danger' || f.severity === 'fails') ? EXIT.notMet : EXIT.met;
}

/** Whether two names are one file that is there. */
function same(a: string, b: string): boolean {
  try {
    return a !== '-' && realpathSync(a) === realpathSync(b);
  } catch {
    return false;
  }
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
  complain(message);
  return code;
}
