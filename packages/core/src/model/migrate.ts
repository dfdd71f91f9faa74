import type { Edit } from './edit.ts';
import type { Outcome } from './issue.ts';
import { describe } from './issue.ts';
import { FORMAT, VERSION } from './thread.ts';

type Plain = Record<string, unknown>;

/** Version 1 called what version 2 calls goals and conditions by other names. */
const RENAMED: Readonly<Record<string, string>> = { need: 'goals', surroundings: 'conditions' };

/** One step each: the function at key n makes version n + 1 of version n. */
const STEPS: Record<number, (old: Plain) => Plain> = {
  1: (old) => Object.fromEntries(Object.entries(old).map(([name, value]) => [renamed(name), value])),
  // Version 3 has modes and a programme besides; without them every load is on, as before.
  2: (old) => old,
  // Version 4 has peaks, what loads do below their range, boards with delays and drains besides.
  3: (old) => old,
  // Version 5 has what temperature does to a cell, how a pack warms itself, and how far figures may be off besides.
  4: (old) => old,
  // Version 6 has groups and cells that differ, a gauge, and years of use besides.
  5: (old) => old,
  // Version 7 has what charges the pack, in the place of the name alone that the pack had for it.
  6: chargerNamed,
  // Version 8 has outages that recur or come by chance, cells emptied too far, and more packs on a source besides.
  7: (old) => old,
  // Version 9 has logged curves and graded cells besides.
  8: (old) => old,
};

/** The name of a charger that stood with the pack, among the goals where these say nothing of it. */
function chargerNamed(old: Plain): Plain {
  const pack = plainOf(old.pack);
  const goals = plainOf(old.goals);
  if (!pack || !('charger' in pack)) return old;
  const { charger, ...rest } = pack;
  const name = plainOf(charger)?.name;
  const said = goals && !('chargedFrom' in goals) && typeof name === 'string';
  return { ...old, pack: rest, ...(said ? { goals: { ...goals, chargedFrom: name } } : {}) };
}

function plainOf(value: unknown): Plain | undefined {
  return typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Plain) : undefined;
}

function renamed(name: string): string {
  return Object.hasOwn(RENAMED, name) ? RENAMED[name]! : name;
}

/** Edits kept with a thread of any version, as the present one has them. */
export function presentEdits(edits: readonly Edit[]): Edit[] {
  return edits
    .map((e) => ({ ...e, path: e.path.map((step, k) => (k === 0 ? renamed(String(step)) : step)) }))
    .filter(({ path }) => !(path[0] === 'pack' && path[1] === 'charger'));
}

/**
 * Bring a thread file's plain content to the present version.
 * @param data parsed JSON
 * @param steps the migrations, by the version they start from; only tests pass their own
 * @param current the version to reach
 * @returns the content at version `current`, or why it cannot be read: not a thread file, or newer than known
 */
export function migrate(data: unknown, steps = STEPS, current: number = VERSION): Outcome<Plain> {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    return refuse('type', '', data, 'a JSON object with format "mile-thread"');
  }
  let doc = data as Plain;
  if (doc.format !== FORMAT) return refuse('type', 'format', doc.format, `"${FORMAT}"`);
  const version = doc.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return refuse('version', 'version', version, `a whole number from 1 to ${current}`);
  }
  if (version > current) {
    const allowed = `versions up to ${current}; this file was written by a newer Mile Thread, update to open it`;
    return refuse('version', 'version', version, allowed);
  }
  for (let v = version; v < current; v++) {
    const step = steps[v];
    if (!step) return refuse('version', 'version', version, 'a version with a known migration');
    doc = { ...step(doc), version: v + 1 };
  }
  return { ok: true, value: doc };
}

function refuse(code: string, path: string, given: unknown, allowed: string): Outcome<Plain> {
  return { ok: false, issues: [{ code, path, given: describe(given), allowed }] };
}
