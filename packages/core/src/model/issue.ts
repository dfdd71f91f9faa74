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

/** Shorten any value for an issue's `given`. */
export function describe(value: unknown): string {
  if (value === undefined) return 'nothing';
  if (typeof value === 'number') return String(value);
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}
