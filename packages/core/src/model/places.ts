/** Where something stands in a document: keys from the top, entries of lists by their id where they have one. */
export type Place = readonly string[];

/**
 * The places in which two versions of plain data differ, as far down as both have something there. Entries of lists are
 * told apart by id; lists without ids differ as a whole.
 */
export function placesChanged(a: unknown, b: unknown, at: Place = []): Place[] {
  if (a === b) return [];
  const [x, y] = [fieldsIn(a), fieldsIn(b)];
  if (!x || !y) return JSON.stringify(a) === JSON.stringify(b) ? [] : [at];
  const names = new Set([...x.keys(), ...y.keys()]);
  return [...names].flatMap((name) => placesChanged(x.get(name), y.get(name), [...at, name]));
}

/** Whether one of two places lies in the other. */
export function overlap(a: Place, b: Place): boolean {
  return a.slice(0, b.length).every((key, k) => key === b[k]);
}

/** What is in an object by name, or in a list whose entries all have an id by that. */
function fieldsIn(value: unknown): Map<string, unknown> | undefined {
  if (typeof value !== 'object' || value === null) return undefined;
  if (!Array.isArray(value)) return new Map(Object.entries(value));
  const ids = value.map((entry: { id?: unknown } | null) => entry?.id);
  return ids.every((id) => typeof id === 'string')
    ? new Map(ids.map((id, k) => [id, value[k] as unknown]))
    : undefined;
}
