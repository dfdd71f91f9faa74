/** One thing wrong with data a person gave: where, what was given, what is allowed. Travels as a plain value. */
export interface Issue {
  /** Stable word for programs: `missing`, `range`, `type`, `unknownField`, `reference`, `version`, `syntax`. */
  code: string;
  /** Path of the field as written in the file, for example `stages[1].outputVolts`. */
  path: string;
  /** What stood there, shortened for reading. */
  given: string;
  /** What may stand there. */
  allowed: string;
}

/** A value, or everything that is wrong with the data it was to be made from. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; issues: Issue[] };

/** The issue as one sentence. */
export function issueSentence(issue: Issue): string {
  const where = issue.path === '' ? 'The file' : issue.path;
  return `${where}: given ${issue.given}; allowed: ${issue.allowed}.`;
}

/** Characters of a value that an issue shows. */
const SHOWN = 60;

/** Shorten any value for an issue's `given`; takes no longer for a large one. */
export function describe(value: unknown): string {
  if (value === undefined) return 'nothing';
  const text = preview(value, 0);
  return text.length > SHOWN ? `${text.slice(0, SHOWN - 3)}…` : text;
}

function preview(value: unknown, depth: number): string {
  if (typeof value === 'string') return JSON.stringify(value.slice(0, SHOWN));
  if (typeof value !== 'object' || value === null) return String(value);
  const list = Array.isArray(value);
  const keys = list ? [...value.slice(0, ENTRIES).keys()] : firstKeys(value);
  const inside =
    depth < DEPTH
      ? keys.map((key) => {
          const entry = preview((value as Record<string | number, unknown>)[key], depth + 1);
          return list ? entry : `${JSON.stringify(String(key).slice(0, SHOWN))}:${entry}`;
        })
      : keys.length > 0
        ? ['…']
        : [];
  const more = list && value.length > ENTRIES ? [`… ${value.length} in all`] : [];
  const text = [...inside, ...more].join();
  return list ? `[${text}]` : `{${text}}`;
}

/** Levels and entries that a preview looks at. */
const DEPTH = 2;
const ENTRIES = 8;

function firstKeys(value: object): string[] {
  const keys: string[] = [];
  for (const key in value) {
    if (!Object.hasOwn(value, key)) continue;
    keys.push(key);
    if (keys.length === ENTRIES) break;
  }
  return keys;
}

/** An issue with what was given in words. */
export function issue(code: string, path: string, given: unknown, allowed: string): Issue {
  return { code, path, given: describe(given), allowed };
}
