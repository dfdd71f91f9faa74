import { fieldsOf, type FieldMeta } from './fields.ts';
import { allowedBy } from './allowed.ts';
import { describe, type Issue } from './issue.ts';

type Class = new () => object;
type Plain = Record<string, unknown>;

/** More than this many tell a person nothing more. */
export const MOST_ISSUES = 100;

/**
 * What is wrong with the build of plain data, before any rule looks at its values: fields the format does not have
 * (own keys alone count, those of `Object.prototype` are unknown too), lists too long, values nested where none may be,
 * entries that do not say what they are. Rows of long tables are checked whole, by the same facts as the rules.
 * Takes time by what the format may hold, not by what is given. At most `MOST_ISSUES`.
 */
export function shapeIssues(model: Class, data: unknown): Issue[] {
  const found: Issue[] = [];
  visit(model, data, '', found);
  return found.slice(0, MOST_ISSUES);
}

/**
 * The data as objects of their classes, as the rules want them: only what the format knows, nothing for what is null.
 * @param data that `shapeIssues` has nothing to say about
 */
export function asModel(model: Class, data: object): object {
  const fields = fieldsOf(model);
  const made = Object.create(model.prototype as object) as Plain;
  for (const [name, value] of Object.entries(data)) {
    const meta = fields.get(name)!;
    if (value === null || value === undefined) continue;
    if (meta.type === 'part') made[name] = asModel(classOf(meta, value)!, value as object);
    else if (meta.type === 'parts' && !meta.rows) {
      made[name] = (value as object[]).map((entry) => asModel(classOf(meta, entry)!, entry));
    } else made[name] = value;
  }
  return made;
}

function visit(model: Class, data: unknown, path: string, found: Issue[]): void {
  if (found.length >= MOST_ISSUES) return;
  if (!isPlain(data)) {
    found.push({ code: 'type', path, given: describe(data), allowed: 'an object' });
    return;
  }
  const fields = fieldsOf(model);
  for (const name of Object.keys(data)) {
    const meta = fields.get(name);
    const value = data[name];
    const at = path ? `${path}.${shown(name)}` : shown(name);
    if (!meta) {
      const allowed = 'only fields of the format; check the spelling';
      found.push({ code: 'unknownField', path: at, given: describe(value), allowed });
      if (found.length >= MOST_ISSUES) return;
    } else if (value !== null && value !== undefined) visitField(meta, value, at, found);
  }
}

function visitField(meta: FieldMeta, value: unknown, path: string, found: Issue[]): void {
  const wrong = (code: string) =>
    found.push({ code, path, given: describe(value), allowed: allowedBy(meta) });
  switch (meta.type) {
    case 'part':
      return visitEntry(meta, value, path, found);
    case 'numbers':
      if (!Array.isArray(value)) wrong('type');
      else if (value.length > meta.count![1]) wrong('range');
      else if (!value.every((v) => typeof v === 'number')) wrong('type');
      return;
    case 'parts':
      if (!Array.isArray(value)) wrong('type');
      else if (value.length > meta.count![1]) wrong('range');
      else value.forEach((entry, k) => visitEntry(meta, entry, `${path}[${k}]`, found));
      return;
    default:
      if (typeof value === 'object') wrong('type');
  }
}

function visitEntry(meta: FieldMeta, entry: unknown, path: string, found: Issue[]): void {
  if (found.length >= MOST_ISSUES) return;
  if (!isPlain(entry)) {
    found.push({ code: 'type', path, given: describe(entry), allowed: 'an object' });
    return;
  }
  const model = classOf(meta, entry);
  if (!model) {
    const { property, classes } = meta.variants!();
    const given = describe(Object.hasOwn(entry, property) ? entry[property] : undefined);
    const allowed = `one of ${Object.keys(classes).join(', ')}`;
    found.push({ code: 'type', path: `${path}.${property}`, given, allowed });
    return;
  }
  const before = found.length;
  visit(model, entry, path, found);
  if (meta.rows && found.length === before) rowIssues(model, entry, path, found);
}

/** What is wrong with a row of numbers: what the rules of its class would say, without their price for each. */
function rowIssues(model: Class, row: Plain, path: string, found: Issue[]): void {
  for (const [name, meta] of fieldsOf(model)) {
    const value = row[name];
    if (value === undefined || value === null) {
      if (!meta.optional) {
        found.push({ code: 'missing', path: `${path}.${name}`, given: 'nothing', allowed: allowedBy(meta) });
      }
    } else if (typeof value !== 'number' || !(value >= meta.min! && value <= meta.max!)) {
      const code = typeof value === 'number' ? 'range' : 'type';
      found.push({ code, path: `${path}.${name}`, given: describe(value), allowed: allowedBy(meta) });
    }
  }
}

/** The class of an entry; of a union the one it names, undefined where it names none. */
function classOf(meta: FieldMeta, entry: object): Class | undefined {
  const variants = meta.variants?.();
  if (!variants) return meta.of!();
  const { property, classes } = variants;
  const word = Object.hasOwn(entry, property) ? (entry as Plain)[property] : undefined;
  return typeof word === 'string' && Object.hasOwn(classes, word) ? classes[word] : undefined;
}

function isPlain(value: unknown): value is Plain {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** A key as a path shows it: short, and quoted where it is no word. */
function shown(key: string): string {
  return /^\w{1,60}$/.test(key) ? key : describe(key);
}
