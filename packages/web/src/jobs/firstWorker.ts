const make = () => new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'core' });

let first: Worker | undefined;

/** Begin to load the first worker, before there is anything to ask it. */
export function beginWorker(): void {
  try {
    first = make();
  } catch {
    // Asked for again, and told, where it is needed.
  }
}

/** A worker of the core; the first of them may have been loading for a while. */
export function newWorker(): Worker {
  const worker = first ?? make();
  first = undefined;
  return worker;
}
