import { crossChecks } from './crossChecks.ts';
import { readAs } from './decode.ts';
import { changeOf, type Change, type Edit } from './edit.ts';
import { fieldsOf } from './fields.ts';
import type { Issue, Outcome } from './issue.ts';
import { ThreadDocument } from './thread.ts';

/**
 * A valid thread with edits done, checked where they reach and in what no single field can tell; the rest is as valid as
 * it was.
 * @returns the thread and what leads back, or what is wrong: then nothing has changed
 */
export function changeThread(doc: ThreadDocument, edits: readonly Edit[]): Outcome<Change<ThreadDocument>> {
  const change = changeOf(doc, edits);
  if (!change.ok) return change;
  const next = change.value.doc;
  const reached = new Set(edits.map((e) => String(e.path[0])));
  const issues = [...reached].flatMap((name) => fieldIssues(next, doc, name));
  if (issues.length === 0) issues.push(...crossChecks(next));
  return issues.length > 0 ? { ok: false, issues } : change;
}

/** What is wrong with one field of a thread; entries of a list that are those of the thread before are not looked at. */
function fieldIssues(next: ThreadDocument, before: ThreadDocument, name: string): Issue[] {
  const meta = fieldsOf(ThreadDocument).get(name);
  const value = fieldOf(next, name);
  const alone = Object.hasOwn(next, name) ? { [name]: value } : {};
  const [least, most] = meta?.count ?? [0, 0];
  const listed = meta?.type === 'parts' && Array.isArray(value);
  if (!listed || value.length < least || value.length > most) return issuesAlone(name, alone);
  const known = new Set(fieldOf(before, name) as unknown[]);
  return value.flatMap((entry: unknown, k) =>
    known.has(entry)
      ? []
      : issuesAlone(name, { [name]: [entry] }).map((i) => ({ ...i, path: i.path.replace('[0]', `[${k}]`) })),
  );
}

function fieldOf(doc: ThreadDocument, name: string): unknown {
  return Object.hasOwn(doc, name) ? (doc as unknown as Record<string, unknown>)[name] : undefined;
}

/** What is wrong with a thread that has nothing but this field, and lies in it. */
function issuesAlone(name: string, alone: object): Issue[] {
  const read = readAs(ThreadDocument, alone);
  return read.ok ? [] : read.issues.filter((i) => i.path.split(/[.[]/)[0] === name);
}
