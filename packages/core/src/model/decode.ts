import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';
import { crossChecks } from './crossChecks.ts';
import { fieldsOf, type FieldMeta } from './fields.ts';
import { describe, type Issue, type Outcome } from './issue.ts';
import { migrate } from './migrate.ts';
import { ThreadDocument } from './thread.ts';

/**
 * Turn parsed JSON into a thread, or say everything that is wrong with it.
 * The value returned is a deep copy in plain objects: it can be stored, sent to a worker and frozen.
 */
export function decodeThread(data: unknown): Outcome<ThreadDocument> {
  const migrated = migrate(data);
  if (!migrated.ok) return migrated;
  const issues = validateAs(ThreadDocument, migrated.value);
  if (issues.length > 0) return { ok: false, issues };
  const doc = JSON.parse(JSON.stringify(migrated.value)) as ThreadDocument;
  const crossed = crossChecks(doc);
  return crossed.length > 0 ? { ok: false, issues: crossed } : { ok: true, value: doc };
}

/** Read the text of a thread file. */
export function parseThread(text: string): Outcome<ThreadDocument> {
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    const given =
      text.trim() === '' ? 'an empty file' : `text that is not JSON (${(error as Error).message})`;
    return {
      ok: false,
      issues: [{ code: 'syntax', path: '', given, allowed: 'a whole thread file in JSON' }],
    };
  }
  return decodeThread(data);
}

/** Write a thread file: stable key order as in memory, two spaces, final newline. */
export function encodeThread(doc: ThreadDocument): string {
  return `${JSON.stringify(doc, null, 2)}\n`;
}

/** Check plain data against one model class; no issues means it fits. */
export function validateAs(model: new () => object, data: object): Issue[] {
  // What a union's entry is must be known before its fields can be looked at.
  const unclear = variantIssues(model, data, '');
  if (unclear.length > 0) return unclear;
  const instance = plainToInstance(model, data);
  const errors = validateSync(instance, {
    whitelist: true,
    forbidNonWhitelisted: true,
    forbidUnknownValues: true,
  });
  return errors.flatMap((e) => flatten(e, ''));
}

/** Entries of unions that are no objects, or do not say which of the classes they are. */
function variantIssues(model: new () => object, data: unknown, prefix: string): Issue[] {
  if (typeof data !== 'object' || data === null) return [];
  const found: Issue[] = [];
  for (const [name, meta] of fieldsOf(model)) {
    const value = (data as Record<string, unknown>)[name];
    if (meta.of === undefined || value === undefined || value === null) continue;
    const path = prefix ? `${prefix}.${name}` : name;
    const entries: [unknown, string][] =
      meta.type === 'part'
        ? [[value, path]]
        : Array.isArray(value)
          ? value.map((v, k): [unknown, string] => [v, `${path}[${k}]`])
          : [];
    for (const [entry, at] of entries) {
      const variants = meta.variants?.();
      if (typeof entry !== 'object' || entry === null || Array.isArray(entry)) {
        found.push({ code: 'type', path: at, given: describe(entry), allowed: 'an object' });
      } else if (!variants) found.push(...variantIssues(meta.of(), entry, at));
      else {
        const word = (entry as Record<string, unknown>)[variants.property];
        const classes = Object.entries(variants.classes);
        const chosen = classes.find(([name]) => name === word)?.[1];
        if (chosen) found.push(...variantIssues(chosen, entry, at));
        else {
          const allowed = `one of ${classes.map(([name]) => name).join(', ')}`;
          found.push({ code: 'type', path: `${at}.${variants.property}`, given: describe(word), allowed });
        }
      }
    }
  }
  return found;
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
  if (broken.includes('whitelistValidation')) {
    const allowed = 'only fields of the format; check the spelling';
    return [{ code: 'unknownField', path, given: describe(error.value), allowed }];
  }
  const meta = metaOf(error);
  const code = error.value === undefined || error.value === null ? 'missing' : codeOf(broken);
  const allowed = meta ? allowedBy(meta) : Object.values(error.constraints ?? {}).join('; ');
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

/** What a field may hold, in words. */
export function allowedBy(meta: FieldMeta): string {
  const unit = meta.unit ? ` ${meta.unit}` : '';
  const [least, most] = meta.count ?? [0, 0];
  switch (meta.type) {
    case 'quantity':
      return `a number from ${meta.min}${unit} to ${meta.max}${unit}`;
    case 'whole':
      return meta.min === meta.max ? `${meta.min}` : `a whole number from ${meta.min} to ${meta.max}`;
    case 'text':
      return meta.pattern
        ? `letters, digits, - and _, at most ${most} characters`
        : `text of ${least} to ${most} characters`;
    case 'choice':
      return `one of ${meta.options!.join(', ')}`;
    case 'flag':
      return 'true or false';
    case 'numbers':
      return `${least} to ${most} numbers from ${meta.min}${unit} to ${meta.max}${unit}`;
    case 'part':
      return `an object: ${meta.about.toLowerCase()}`;
    case 'parts':
      return `a list of ${least} to ${most}: ${meta.about.toLowerCase()}`;
  }
}
