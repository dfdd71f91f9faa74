export type Plain = Record<string, unknown>;

/** A chart as it is asked for: traces, and what lies around them. */
export interface Shown {
  data: readonly Plain[];
  layout: Plain;
}

/** What an update of a chart takes: of each changed field one value a trace, and changed places of the layout. */
export interface Changes {
  data?: Record<string, unknown[]>;
  layout?: Plain;
}

/**
 * What has changed from one chart to the next. @returns undefined where it has other traces, or fields come or go: it is
 * then drawn anew
 */
export function changesOf(last: Shown, next: Shown): Changes | undefined {
  if (last.data.length !== next.data.length) return undefined;
  const traces = next.data.map((trace) => flat(trace));
  const data: Record<string, unknown[]> = {};
  for (const [n, trace] of traces.entries()) {
    const before = flat(last.data[n]!);
    if (!sameKeys(before, trace) || before.get('type') !== trace.get('type')) return undefined;
    for (const [key, value] of trace) {
      if (!alike(before.get(key), value)) data[key] ??= traces.map((t) => t.get(key));
    }
  }
  // A field that only some traces have cannot be told from one that was unset.
  if (Object.values(data).some((values) => values.includes(undefined))) return undefined;
  const old = flat(last.layout);
  const now = flat(next.layout);
  if (!sameKeys(old, now)) return undefined;
  const layout = Object.fromEntries([...now].filter(([key, value]) => !alike(old.get(key), value)));
  return {
    ...(Object.keys(data).length > 0 ? { data } : {}),
    ...(Object.keys(layout).length > 0 ? { layout } : {}),
  };
}

/** Fields by their dotted path; lists are values. */
function flat(value: Plain, path = '', into = new Map<string, unknown>()): Map<string, unknown> {
  for (const [key, v] of Object.entries(value)) {
    const at = path ? `${path}.${key}` : key;
    if (typeof v === 'object' && v !== null && !Array.isArray(v) && !ArrayBuffer.isView(v))
      flat(v as Plain, at, into);
    else into.set(at, v);
  }
  return into;
}

function sameKeys(a: ReadonlyMap<string, unknown>, b: ReadonlyMap<string, unknown>): boolean {
  return a.size === b.size && [...a.keys()].every((key) => b.has(key));
}

/** Equal, or short lists of the same: long ones are told apart by being the same object. */
function alike(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length || a.length > 32) return false;
  return JSON.stringify(a) === JSON.stringify(b);
}
