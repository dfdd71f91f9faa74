import { db } from './db.ts';

/** Answers kept at most; the oldest go. */
const MOST_ANSWERS = 1000;

/** An answer worked out before; undefined where there is none, or storage does not say. */
export async function keptAnswer(key: string): Promise<unknown> {
  try {
    return (await db.answers.get(key))?.value;
  } catch {
    return undefined;
  }
}

/** Keep an answer. What cannot be kept is worked out again another time. */
export async function keepAnswer(key: string, value: unknown): Promise<void> {
  try {
    await db.answers.put({ key, value, at: Date.now() });
    const over = (await db.answers.count()) - MOST_ANSWERS;
    if (over > 0) await db.answers.bulkDelete(await db.answers.orderBy('at').limit(over).primaryKeys());
  } catch {
    // No answer is worth a message.
  }
}
