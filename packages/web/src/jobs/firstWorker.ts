const make = () => new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'core' });

let first: Worker | undefined = make();

/** A worker of the core; the first of them has been loading since the page began. */
export function newWorker(): Worker {
  const worker = first ?? make();
  first = undefined;
  return worker;
}
