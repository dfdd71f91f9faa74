import { validateSync, type ValidationError } from 'class-validator';
import { allowedBy } from './allowed.ts';
import { crossChecks } from './crossChecks.ts';
import { structuredCloneJson } from './edit.ts';
import { fieldsOf, type FieldMeta } from './fields.ts';
import { describe, type Issue, type Outcome } from './issue.ts';
import { migrate } from './migrate.ts';
import { asModel, MOST_ISSUES, shapeIssues } from './shape.ts';
import { ThreadDocument } from './thread.ts';

/**
 * Turn parsed JSON into a thread, or say everything that is wrong with it.
 * The value returned is a deep copy in plain objects: it can be stored, sent to a worker and frozen.
 */
export function decodeThread(data: unknown): Outcome<ThreadDocument> {
  const migrated = migrate(data);
  if (!migrated.ok) return migrated;
  const read = readAs(ThreadDocument, migrated.value);
  if (!read.ok) return read;
  const crossed = crossChecks(read.value).slice(0, MOST_ISSUES);
  return crossed.length > 0 ? { ok: false, issues: crossed } : read;
}

/** Read the text of a thread file. */
export function parseThread(text: string): Outcome<ThreadDocument> {
  const parsed = parseJson(text, 'a whole thread file in JSON');
  return parsed.ok ? decodeThread(parsed.value) : parsed;
}

/** Read JSON, a mark at its start or not. @param allowed what it should have been, for the issue */
export function parseJson(text: string, allowed: string): Outcome<unknown> {
  if (text.trim() === '') {
    return { ok: false, issues: [{ code: 'syntax', path: '', given: 'an empty file', allowed }] };
  }
  try {
    return { ok: true, value: JSON.parse(text.replace(/^\uFEFF/, '')) };
  } catch (error) {
    // Where it is nested beyond all sense, reading it is a RangeError.
    const why = error instanceof SyntaxError ? error.message : 'nested too deep';
    const given = `text that is not JSON (${why.slice(0, 120)})`;
    return { ok: false, issues: [{ code: 'syntax', path: '', given, allowed }] };
  }
}

/** Write a thread file: stable key order as in memory, two spaces, final newline. */
export function encodeThread(doc: ThreadDocument): string {
  return `${JSON.stringify(doc, null, 2)}\n`;
}

/**
 * Plain data as one model class has it: a deep copy of what the format knows, and nothing else. At most `MOST_ISSUES`
 * where it does not fit.
 */
export function readAs<T extends object>(model: new () => T, data: unknown): Outcome<T> {
  const shape = shapeIssues(model, data);
  if (shape.length > 0) return { ok: false, issues: shape };
  const instance = asModel(model, data as object);
  const errors = validateSync(instance, { forbidUnknownValues: true });
  const issues = errors.flatMap((e) => flatten(e, '')).slice(0, MOST_ISSUES);
  return issues.length > 0 ? { ok: false, issues } : { ok: true, value: structuredCloneJson(instance) as T };
}

function flatten(error: ValidationError, prefix: string): Issue[] {
  const index = /^\d+$/.test(error.property);
  const path = index
    ? `${prefix}[${error.property}]`
    : prefix
      ? `${prefix}.${error.property}`
      : error.property;
  const children = (error.children ?? []).flatMap((c) => flatten(c, path));
  const broken = Object.keys(error.constraints ?? {});
  if (broken.length === 0) return children;
  const meta = metaOf(error)!;
  const code = error.value === undefined || error.value === null ? 'missing' : codeOf(broken);
  const allowed = allowedBy(meta);
  return [{ code, path, given: describe(error.value), allowed }, ...children];
}

function codeOf(broken: string[]): string {
  return broken.some((b) => b.startsWith('is') || b === 'nestedValidation') ? 'type' : 'range';
}

function metaOf(error: ValidationError): FieldMeta | undefined {
  const target = error.target;
  if (!target || Array.isArray(target)) return undefined;
  return fieldsOf(target.constructor as new () => object).get(error.property);
}
