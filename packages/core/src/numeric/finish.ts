/** Work that gives way now and then, done to its end in one go. */
export function finish<T>(work: Generator<unknown, T, undefined>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
