import type { ThreadDocument } from '@mile-thread/core/model';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import * as Comlink from 'comlink';
import type { Answer, ComputeApi, Computed, SizedStage } from './compute.ts';

let remote: Comlink.Remote<ComputeApi> | undefined;

/** The worker; started with the first question. */
export function worker(): Comlink.Remote<ComputeApi> {
  remote ??= Comlink.wrap<ComputeApi>(
    new Worker(new URL('./compute.ts', import.meta.url), { type: 'module', name: 'compute' }),
  );
  return remote;
}

/** The value of an answer. @throws Error with the core's message when there is none */
export function valueOf<T>(answer: Answer<T>): T {
  if (!answer.ok) throw new Error(answer.message);
  return answer.value;
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
  return { doc, ...valueOf(answer) };
}

/** A sized stage together with what it belongs to. */
export interface SizedThreadStage extends SizedStage {
  doc: ThreadDocument;
  id: string;
}

const numbers = new WeakMap<ThreadDocument, number>();
let next = 0;

/** A number for a document's identity: documents are never changed in place, so equal numbers mean equal content. */
export function documentNumber(doc: ThreadDocument): number {
  let n = numbers.get(doc);
  if (n === undefined) numbers.set(doc, (n = ++next));
  return n;
}

/** How every question to the worker is asked: offline too, once, and the last answer stays until the next. */
const LOCAL = {
  placeholderData: keepPreviousData,
  networkMode: 'always',
  staleTime: Infinity,
  gcTime: 30_000,
  retry: false,
} as const;

/** The run of a document; the last one stays in view until the new one is there. */
export function useComputed(doc: ThreadDocument) {
  return useQuery({ ...LOCAL, queryKey: ['computed', documentNumber(doc)], queryFn: () => compute(doc) });
}

/** One stage sized over its run. */
export function useSizedStage(doc: ThreadDocument, id: string) {
  return useQuery({
    ...LOCAL,
    queryKey: ['sized', documentNumber(doc), id],
    queryFn: async (): Promise<SizedThreadStage> => {
      const started = performance.now();
      const answer = await worker().size(doc, id);
      performance.measure('mile-thread:size', { start: started });
      return { doc, id, ...valueOf(answer) };
    },
  });
}

/**
 * Ask the worker something small. @param key what the answer depends on; plain values
 * @param ask undefined while there is nothing to ask
 */
export function useWorker<T>(
  key: unknown,
  ask: ((w: Comlink.Remote<ComputeApi>) => Promise<Answer<T>>) | undefined,
) {
  return useQuery({
    ...LOCAL,
    queryKey: ['asked', key],
    queryFn: async () => valueOf(await ask!(worker())),
    enabled: ask !== undefined,
  });
}
