import type { Outcome } from './issue.ts';

/**
 * One change of a document, in the shape of a JSON patch with the path as a list of keys. An entry of a list that has
 * an `id` is named by it, so that an edit means the same after others came or went; entries without are named by their
 * index. `replace` sets a field whether or not it is there.
 */
export interface Edit {
  op: 'replace' | 'add' | 'remove';
  path: (string | number)[];
  value?: unknown;
}

/** A changed document, and the edits that lead back to the one before. */
export interface Change<T> {
  doc: T;
  undo: Edit[];
}

type Plain = Record<string, unknown>;

/**
 * The document with the edits done, the given one untouched; what the edits do not touch is the same object in both.
 * `add` into a list inserts before the index, or before the entry named; `remove` of an entry closes the gap.
 * @returns why not, where a path leads nowhere: what it named is gone
 */
export function changeOf<T extends object>(doc: T, edits: readonly Edit[]): Outcome<Change<T>> {
  const top = { doc: doc as unknown };
  const fresh = new Set<unknown>([top]);
  const undo: Edit[] = [];
  for (const edit of edits) {
    const reverse = edit.path.length > 0 ? changeOne(top, ['doc', ...edit.path], edit, fresh) : undefined;
    if (!reverse) {
      const path = edit.path.join('.');
      const allowed = 'a place that this thread still has';
      return { ok: false, issues: [{ code: 'reference', path, given: 'a place that is gone', allowed }] };
    }
    undo.unshift({ ...reverse, path: reverse.path.slice(1) });
  }
  return { ok: true, value: { doc: top.doc as T, undo } };
}

/**
 * The document with the edits done.
 * @throws RangeError when a path leads nowhere: for edits made for this very document
 */
export function applyEdits<T extends object>(doc: T, edits: readonly Edit[]): T {
  const change = changeOf(doc, edits);
  if (!change.ok) throw new RangeError(`applyEdits: nothing at ${change.issues[0]!.path}`);
  return change.value.doc;
}

/** Do one edit in place of copies made on the way. @returns what takes it back; undefined where the path leads nowhere */
function changeOne(
  top: object,
  path: (string | number)[],
  edit: Edit,
  fresh: Set<unknown>,
): Edit | undefined {
  let at = top as Plain | unknown[];
  for (const step of path.slice(0, -1)) {
    const key = Array.isArray(at) ? keyIn(at, step, false) : step;
    const next = key === undefined ? undefined : own(at, key);
    if (typeof next !== 'object' || next === null) return undefined;
    if (fresh.has(next)) at = next as Plain | unknown[];
    else {
      const copy = (Array.isArray(next) ? [...(next as unknown[])] : { ...next }) as Plain | unknown[];
      fresh.add(copy);
      (at as Plain)[key!] = copy;
      at = copy;
    }
  }
  const last = path[path.length - 1]!;
  return Array.isArray(at) ? changeEntry(at, last, path, edit) : changeField(at, String(last), path, edit);
}

function changeField(at: Plain, key: string, path: Edit['path'], { op, value }: Edit): Edit | undefined {
  if (key in Object.prototype) return undefined;
  const reverse: Edit = Object.hasOwn(at, key)
    ? { op: 'replace', path, value: at[key] }
    : { op: 'remove', path };
  if (op === 'remove') delete at[key];
  else at[key] = value;
  return reverse;
}

function changeEntry(at: unknown[], last: string | number, path: Edit['path'], edit: Edit): Edit | undefined {
  // Revisions kept by the first versions of the application cut lists by their length.
  if (last === 'length') {
    const cut = at.splice(Number(edit.value));
    return { op: 'replace', path: path.slice(0, -1), value: [...at, ...cut] };
  }
  const key = keyIn(at, last, edit.op === 'add');
  if (key === undefined) return undefined;
  const place = (entry: unknown): Edit['path'] => [...path.slice(0, -1), nameOf(entry) ?? key];
  const before = at[key];
  if (edit.op === 'add') {
    at.splice(key, 0, edit.value);
    return { op: 'remove', path: place(edit.value) };
  }
  if (edit.op === 'remove') {
    at.splice(key, 1);
    // Before the entry that followed, whatever comes in front of it later; at the end by its number.
    return { op: 'add', path: [...path.slice(0, -1), nameOf(at[key]) ?? key], value: before };
  }
  at[key] = edit.value;
  return { op: 'replace', path: place(edit.value), value: before };
}

/** The index of an entry, by number or by id. @param end whether one past the last is a place too */
function keyIn(list: readonly unknown[], step: string | number, end: boolean): number | undefined {
  const index = typeof step === 'number' ? step : list.findIndex((entry) => nameOf(entry) === step);
  const most = list.length - (end ? 0 : 1);
  return Number.isInteger(index) && index >= 0 && index <= most ? index : undefined;
}

function nameOf(entry: unknown): string | undefined {
  const id = typeof entry === 'object' && entry !== null ? (entry as Plain).id : undefined;
  return typeof id === 'string' ? id : undefined;
}

function own(at: object, key: string | number): unknown {
  return Object.hasOwn(at, key) ? (at as Plain)[key] : undefined;
}

/** A deep copy of plain data. */
export function structuredCloneJson<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}
