/**
 * What a question is. It runs in a worker; one that takes long is a generator: what it yields is how far it is, 0…1, and
 * between two yields it can be stopped.
 */
export type Work<T> = T | Generator<number, T, undefined>;
export type Question = (...args: never[]) => Work<unknown>;

/** What a question answers. */
export type AnswerOf<Q> = Q extends (...args: never[]) => infer R
  ? R extends Generator<number, infer T, undefined>
    ? T
    : R
  : never;

/** Values only: an error would lose its class on the way. `took` [ms]: of the worker itself, without the ways. */
export type Answer<T> =
  | { ok: true; value: T; took?: number }
  | { ok: false; message: string; stopped?: boolean };

/** From what is in sight to what may wait. */
export const PRIORITY = { sight: 0, soon: 1, idle: 2 } as const;
export type Priority = (typeof PRIORITY)[keyof typeof PRIORITY];
