import { SEVERITIES, type Finding } from '@mile-thread/core';
import type { ThreadDocument } from '@mile-thread/core/model';
import { plantKey, threadKey, type RunResult } from '@mile-thread/core/solve';
import { keepPreviousData, skipToken, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { AnswerOf } from './job.ts';
import { newWorker } from './firstWorker.ts';
import { Pool, type AskOptions } from './pool.ts';
import type { SizedStage } from './questions/size.ts';
import type { Questions } from './worker.ts';

let pool: Pool | undefined;

/** Start the workers. */
export function startWorkers(): Pool {
  pool ??= new Pool(newWorker);
  return pool;
}

/** Ask a worker. @throws Error with the core's message when it breaks off */
export async function ask<N extends keyof Questions>(
  name: N,
  args: Parameters<Questions[N]>,
  options?: AskOptions,
): Promise<AnswerOf<Questions[N]>> {
  const started = performance.now();
  const answer = await startWorkers().ask(name, args, options);
  performance.measure(`mile-thread:${name}`, { start: started });
  return answer;
}

const keys = new WeakMap<object, string>();

/** Name of what matters in a thread to its answers; worked out once for each document. */
function keyOfThread(doc: ThreadDocument): string {
  let key = keys.get(doc);
  if (key === undefined) keys.set(doc, (key = threadKey(doc)));
  return key;
}

function isThread(value: unknown): value is ThreadDocument {
  return (value as { format?: unknown } | null)?.format === 'mile-thread';
}

/** Key of a question: its name and every argument; of a thread what matters to its answers. */
export function keyOf(name: string, args: readonly unknown[]): unknown[] {
  return [name, ...args.map((a) => (isThread(a) ? keyOfThread(a) : a))];
}

/** How every question is asked: offline too, once, and the last answer stays until the next. */
const LOCAL = {
  networkMode: 'always',
  staleTime: Infinity,
  gcTime: 30_000,
  retry: false,
} as const;

/** A question with its key: one question, whoever asks it. */
export function questionOf<N extends keyof Questions>(name: N, args: Parameters<Questions[N]>) {
  const about = args.find(isThread);
  return {
    ...LOCAL,
    queryKey: keyOf(name, args),
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      ask(name, args, { signal, ...(about ? { about: plantKey(about) } : {}) }),
  };
}

/**
 * Ask a worker for what a view shows. The answer is kept by the question's name and all its arguments; the one before
 * stays until the new one is there. Leaving the view stops it.
 * @param args undefined while there is nothing to ask
 */
export function useAnswer<N extends keyof Questions>(name: N, args: Parameters<Questions[N]> | undefined) {
  return useQuery({
    ...(args ? questionOf(name, args) : { ...LOCAL, queryKey: [name], queryFn: skipToken }),
    placeholderData: keepPreviousData,
  });
}

/** A computed run together with the document it belongs to. */
export interface ComputedThread {
  doc: ThreadDocument;
  run: RunResult;
}

/** A sized stage together with the document it belongs to. */
export interface SizedThreadStage extends SizedStage {
  doc: ThreadDocument;
}

/** The run of a document; the last one stays in view until the new one is there. */
export function useComputed(doc: ThreadDocument) {
  const query = useAnswer('compute', [doc]);
  const owner = useOwner(query.data, doc, query.isPlaceholderData);
  const data = useMemo(() => query.data && owner && { doc: owner, run: query.data }, [query.data, owner]);
  return { ...query, data };
}

/** What the checks say of a document's run, asked once that is there; the last ones stay until then. */
export function useFindings(doc: ThreadDocument): Finding[] | undefined {
  const run = useAnswer('compute', [doc]);
  return useAnswer('checks', run.data && !run.isPlaceholderData ? [doc] : undefined).data;
}

/** The same, and what is said of its charge and of its timeline of mains. */
export function useAllFindings(doc: ThreadDocument): Finding[] | undefined {
  const own = useFindings(doc);
  const charged = useAnswer('chargeChecks', own && doc.charging ? [doc] : undefined).data;
  const held = useAnswer('backupChecks', own && doc.backup ? [doc] : undefined).data;
  return useMemo(
    () => own && worstFirst([...own, ...((doc.charging && charged) || []), ...((doc.backup && held) || [])]),
    [own, charged, held, doc.charging, doc.backup],
  );
}

/** Of several rows of findings one, in their order. */
function worstFirst(all: Finding[]): Finding[] {
  return all.sort((a, b) => SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity));
}

/** What comes of a document's timeline of mains, with the document it belongs to; the last one stays until the new one is there. */
export function useBackup(doc: ThreadDocument) {
  const query = useAnswer('backup', doc.backup ? [doc] : undefined);
  const found = query.data ?? undefined;
  const owner = useOwner(found, doc, query.isPlaceholderData);
  const data = useMemo(() => found && owner && { doc: owner, found }, [found, owner]);
  return { ...query, data };
}

/** The charge of a document, with the document it belongs to; the last one stays in view until the new one is there. */
export function useCharge(doc: ThreadDocument) {
  const query = useAnswer('charge', doc.charging ? [doc] : undefined);
  const result = query.data ?? undefined;
  const owner = useOwner(result, doc, query.isPlaceholderData);
  const data = useMemo(() => result && owner && { doc: owner, charge: result }, [result, owner]);
  return { ...query, data };
}

/** One stage sized over its run. */
export function useSizedStage(doc: ThreadDocument, id: string) {
  const query = useAnswer('size', doc.stages.some((s) => s.id === id) ? [doc, id] : undefined);
  const owner = useOwner(query.data, doc, query.isPlaceholderData);
  const data = useMemo(() => query.data && owner && { ...query.data, doc: owner }, [query.data, owner]);
  return { ...query, data };
}

const owners = new WeakMap<object, { doc: ThreadDocument }>();

/** The document an answer was given for: the present one, or the one before while its own is awaited. */
function useOwner(data: object | undefined, doc: ThreadDocument, isOld: boolean): ThreadDocument | undefined {
  if (data && !isOld) owners.set(data, { doc });
  return data && (owners.get(data)?.doc ?? doc);
}
