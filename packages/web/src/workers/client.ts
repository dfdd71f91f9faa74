import type { ThreadDocument } from '@mile-thread/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import * as Comlink from 'comlink';
import type { ComputeApi, Computed } from './compute.ts';

let remote: Comlink.Remote<ComputeApi> | undefined;

function worker(): Comlink.Remote<ComputeApi> {
  remote ??= Comlink.wrap<ComputeApi>(
    new Worker(new URL('./compute.ts', import.meta.url), { type: 'module', name: 'compute' }),
  );
  return remote;
}

/** A computed run together with the document it belongs to. */
export interface ComputedThread extends Computed {
  doc: ThreadDocument;
}

/** Compute in the worker. @throws Error with the core's message when it breaks off */
export async function compute(doc: ThreadDocument): Promise<ComputedThread> {
  const started = performance.now();
  const answer = await worker().compute(doc);
  performance.measure('mile-thread:compute', { start: started });
  if (!answer.ok) throw new Error(answer.message);
  return { doc, ...answer.value };
}

const numbers = new WeakMap<ThreadDocument, number>();
let next = 0;

/** A number for a document's identity: documents are never changed in place, so equal numbers mean equal content. */
export function documentNumber(doc: ThreadDocument): number {
  let n = numbers.get(doc);
  if (n === undefined) numbers.set(doc, (n = ++next));
  return n;
}

/** The run of a document; the last one stays in view until the new one is there. */
export function useComputed(doc: ThreadDocument) {
  return useQuery({
    queryKey: ['computed', documentNumber(doc)],
    queryFn: () => compute(doc),
    placeholderData: keepPreviousData,
    networkMode: 'always',
    staleTime: Infinity,
    gcTime: 30_000,
    retry: false,
  });
}
