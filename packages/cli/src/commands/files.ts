import { readFileSync, realpathSync, writeFileSync } from 'node:fs';
import type { Finding } from '@mile-thread/core';
import {
  issueSentence,
  parseThread,
  type Issue,
  type Stage,
  type ThreadDocument,
} from '@mile-thread/core/model';
import { SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { separatorOf } from '@mile-thread/core/logs';
import Papa from 'papaparse';
import { complain, say } from '../say.ts';
import { EXIT } from './command.ts';

/** Say what is wrong. @returns the code given */
export function fail(message: string, code: number): number {
  complain(message);
  return code;
}

/** A thread from a file, or from standard input; undefined, and told, where it cannot be had. */
export function load(file: string): ThreadDocument | undefined {
  const text = textOf(file);
  if (text === undefined) return undefined;
  const outcome = parseThread(text);
  if (outcome.ok) return outcome.value;
  const lines = outcome.issues.map((i) => `  ${issueSentence(i)}\n`);
  complain(`mile: ${file} is not a thread that can be used:\n${lines.join('')}`);
  return undefined;
}

/** A file's text; undefined, and told, where it cannot be read. */
export function textOf(file: string): string | undefined {
  try {
    return readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch (error) {
    complain(`mile: cannot read ${file}: ${(error as Error).message}\n`);
    return undefined;
  }
}

/** The lines of a log by their fields; undefined, and told, where it cannot be read. */
export function rowsOfLog(file: string): string[][] | undefined {
  const text = textOf(file);
  if (text === undefined) return undefined;
  return Papa.parse<string[]>(text, { delimiter: separatorOf(text) }).data;
}

/** Say what is wrong with a file. @returns nothing, in the place of what it was to be */
export function refused(file: string, issues: readonly Issue[]): undefined {
  complain(`mile: ${file}:\n${issues.map((i) => `  ${issueSentence(i)}\n`).join('')}`);
  return undefined;
}

/** Write a text out. @returns the exit code where that fails */
export function write(text: string, to: string): number | undefined {
  try {
    if (to === '-') say(text);
    else writeFileSync(to, text);
    return undefined;
  } catch (error) {
    return fail(`mile: cannot write ${to}: ${(error as Error).message}\n`, EXIT.usage);
  }
}

/** Write rows where they are asked for, and say the rest unless they went to the standard output. @returns the code, or that of what failed */
export function give(
  csv: string | undefined,
  { rows, words }: { rows(): string; words(): string },
  code: number,
): number {
  if (csv !== undefined) {
    const failed = write(rows(), csv);
    if (failed !== undefined) return failed;
  }
  if (csv !== '-') say(words());
  return code;
}

/** The exit code of what was found. */
export function codeOf(found: readonly Pick<Finding, 'severity'>[]): number {
  return found.some((f) => f.severity === 'danger' || f.severity === 'fails') ? EXIT.notMet : EXIT.met;
}

/** Whether two names are one file that is there. */
export function same(a: string, b: string): boolean {
  try {
    return a !== '-' && realpathSync(a) === realpathSync(b);
  } catch {
    return false;
  }
}

/** A stage by its id or name; undefined, and told, where there is none. */
export function stageNamed(doc: ThreadDocument, name: string): Stage | undefined {
  const stage = doc.stages.find((s) => s.id === name) ?? doc.stages.find((s) => s.name === name);
  if (!stage) {
    const known = doc.stages.map((s) => `${s.id} (${s.name})`).join(', ') || 'none';
    complain(`mile: no stage ${name}; this thread has ${known}\n`);
  }
  return stage;
}

/** [s] of hours, or of `end`; undefined where it is neither. @param end [s] */
export function timeOf(text: string, end: number): number | undefined {
  if (text === 'end') return end;
  const hours = /^\d+(\.\d+)?$|^\.\d+$/.test(text) ? Number(text) : NaN;
  return Number.isFinite(hours) ? hours * SECONDS_PER_HOUR : undefined;
}

/** The sentence for a time that cannot be read. */
export function notATime(option: string, text: string): string {
  return `mile: --${option} takes hours, such as 2.5, or end, not ${text || 'nothing'}\n`;
}
