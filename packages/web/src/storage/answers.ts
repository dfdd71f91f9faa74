import { db } from './db.ts';

/** Answers kept at most; the oldest go. */
const MOST_ANSWERS = 1000;

/** [ms] Answers that came within it are written together: each write waits for the disk. */
const TOGETHER = 400;

/** Keys asked for in this turn, and what was found of them. */
let asked: { keys: string[]; found: Promise<Map<string, unknown>> } | undefined;
let written: { key: string; value: unknown; at: number }[] = [];

/** An answer worked out before; undefined where there is none, or storage does not say. Many of a turn are one read. */
export async function keptAnswer(key: string): Promise<unknown> {
  asked ??= { keys: [], found: Promise.resolve().then(lookUp) };
  asked.keys.push(key);
  return (await asked.found).get(key);
}

async function lookUp(): Promise<Map<string, unknown>> {
  const { keys } = asked!;
  asked = undefined;
  try {
    const rows = await db.answers.bulkGet(keys);
    return new Map(rows.flatMap((row) => (row ? [[row.key, row.value]] : [])));
  } catch {
    return new Map();
  }
}

/** Keep an answer, a moment later. What cannot be kept is worked out again another time. */
export function keepAnswer(key: string, value: unknown): void {
  if (written.length === 0) setTimeout(() => void write(), TOGETHER);
  written.push({ key, value, at: Date.now() });
}

async function write(): Promise<void> {
  const rows = written;
  written = [];
  try {
    await db.answers.bulkPut(rows);
    const over = (await db.answers.count()) - MOST_ANSWERS;
    if (over > 0) await db.answers.bulkDelete(await db.answers.orderBy('at').limit(over).primaryKeys());
  } catch {
    // No answer is worth a message.
  }
}
