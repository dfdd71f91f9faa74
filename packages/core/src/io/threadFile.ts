import { decodeThread, parseJson } from '../model/decode.ts';
import type { Issue } from '../model/issue.ts';
import { describe } from '../model/issue.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { nameIn } from './records.ts';

export const SHELF_FORMAT = 'mile-shelf';

/** Characters of a file; a thread has some tens of thousands, a whole shelf rarely a few million. */
const MOST_TEXT = 20e6;
/** Threads of a file. */
const MOST_THREADS = 500;

/** Threads read from a file, and those in it that could not be: by their own names, or their place. */
export interface ReadThreads {
  threads: ThreadDocument[];
  refused: { name: string; issues: Issue[] }[];
}

/** Everything on a shelf in one file. */
export function encodeShelf(docs: readonly ThreadDocument[]): string {
  return `${JSON.stringify({ format: SHELF_FORMAT, version: 1, threads: docs }, null, 1)}\n`;
}

/**
 * Read a file of one thread or of a whole shelf, bit by bit: yields how far it is, 0…1; between two yields it may be left. One
 * that is broken keeps none of the others out.
 * @param name of the file: what a broken thread without a name of its own is called by
 */
export function* readThreadFile(text: string, name: string): Generator<number, ReadThreads, undefined> {
  const refuse = (code: string, path: string, given: string, allowed: string): ReadThreads => ({
    threads: [],
    refused: [{ name, issues: [{ code, path, given, allowed }] }],
  });
  if (text.length > MOST_TEXT) {
    const given = `${Math.round(text.length / 1e6)} million characters`;
    return refuse('range', '', given, `at most ${MOST_TEXT / 1e6} million`);
  }
  const parsed = parseJson(text, 'a whole thread file in JSON');
  if (!parsed.ok) return { threads: [], refused: [{ name, issues: parsed.issues }] };
  const data = parsed.value as { format?: unknown; version?: unknown; threads?: unknown } | null;
  if (data?.format !== SHELF_FORMAT) return yield* collect([data], () => nameIn(data) ?? name);
  if (data.version !== 1) {
    const allowed = '1; a file written by a newer Mile Thread needs that one to open';
    return refuse('version', 'version', describe(data.version), allowed);
  }
  if (!Array.isArray(data.threads) || data.threads.length === 0) {
    const given = Array.isArray(data.threads) ? 'an empty list' : describe(data.threads);
    return refuse('missing', 'threads', given, 'a list of threads');
  }
  const list = data.threads as unknown[];
  const read = yield* collect(
    list.slice(0, MOST_THREADS),
    (k) => nameIn(list[k]) ?? `thread ${k + 1} of ${name}`,
  );
  if (list.length > MOST_THREADS) {
    const issue = {
      code: 'range',
      path: 'threads',
      given: `${list.length} threads`,
      allowed: `${MOST_THREADS} in a file; those after them were left out`,
    };
    read.refused.push({ name, issues: [issue] });
  }
  return read;
}

function* collect(
  list: readonly unknown[],
  called: (k: number) => string,
): Generator<number, ReadThreads, undefined> {
  const read: ReadThreads = { threads: [], refused: [] };
  for (const [k, data] of list.entries()) {
    if (k > 0) yield k / list.length;
    const outcome = decodeThread(data);
    if (outcome.ok) read.threads.push(outcome.value);
    else read.refused.push({ name: called(k), issues: outcome.issues });
  }
  return read;
}
