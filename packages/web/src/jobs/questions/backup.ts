import {
  backupFindings,
  backupOf,
  holdField as fieldOf,
  joinsOf,
  yearsOf,
  type BackupAnswers,
  type HoldField,
  type JoinOption,
  type Year,
} from '@mile-thread/core/charging';
import type { Finding } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { threadKey } from '@mile-thread/core/solve';
import { kept } from './runs.ts';

const backups = new Map<string, BackupAnswers>();

function answersOf(doc: ThreadDocument): BackupAnswers {
  return kept(backups, threadKey(doc), () => backupOf(doc));
}

/** What comes of a thread's timeline of mains; null of one that has none. */
export function backup(doc: ThreadDocument): BackupAnswers | null {
  return doc.backup && doc.charging ? answersOf(doc) : null;
}

/** What the checks say of it. */
export function backupChecks(doc: ThreadDocument): Finding[] {
  return doc.backup && doc.charging ? backupFindings(doc, answersOf(doc)) : [];
}

/** The four ways of joining side by side. */
export function joins(doc: ThreadDocument): Generator<number, JoinOption[], undefined> {
  return joinsOf(doc);
}

/** Hold times over charge and age. */
export function holdField(doc: ThreadDocument): Generator<number, HoldField, undefined> {
  return fieldOf(doc);
}

/** Some of the random years. @param dips chance that a transfer dips */
export function years(
  doc: ThreadDocument,
  from: number,
  to: number,
  dips: number,
): Generator<number, Year[], undefined> {
  return yearsOf(doc, from, to, dips);
}
