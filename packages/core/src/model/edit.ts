/** One change of a document, in the shape of a JSON patch with the path as a list of keys. */
export interface Edit {
  op: 'replace' | 'add' | 'remove';
  path: (string | number)[];
  value?: unknown;
}

/**
 * The document with the edits done, the given one untouched.
 * `add` into a list inserts before the index; `remove` of a list entry closes the gap.
 * @throws RangeError when a path leads nowhere: edits come from programs, not from people
 */
export function applyEdits<T extends object>(doc: T, edits: readonly Edit[]): T {
  const next = structuredCloneJson(doc);
  for (const edit of edits) {
    const key = edit.path[edit.path.length - 1];
    let at: unknown = next;
    for (const step of edit.path.slice(0, -1)) at = (at as Record<string | number, unknown>)?.[step];
    if (typeof at !== 'object' || at === null || key === undefined) {
      throw new RangeError(`applyEdits: nothing at ${edit.path.join('.')}`);
    }
    if (Array.isArray(at) && edit.op !== 'replace') {
      if (edit.op === 'add') at.splice(Number(key), 0, edit.value);
      else at.splice(Number(key), 1);
    } else if (edit.op === 'remove') delete (at as Record<string | number, unknown>)[key];
    else (at as Record<string | number, unknown>)[key] = edit.value;
  }
  return next;
}

/** A deep copy of plain data. */
export function structuredCloneJson<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}
