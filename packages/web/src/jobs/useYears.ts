import { YEARS, type Year } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { plantKey } from '@mile-thread/core/solve';
import { useEffect, useMemo, useState } from 'react';
import { ask, keyOf } from './client.ts';
import { PRIORITY } from './job.ts';

/**
 * Years asked for at once, by one question at a time, so that a worker is free for what is edited: what the first of them is looked up by
 * serves the others, and between two of them it can be stopped.
 */
const AT_ONCE = 20;
/** Threads whose years are kept. */
const KEPT = 8;

const kept = new Map<string, Year[]>();

function keep(key: string, years: Year[]): void {
  kept.set(key, years);
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
}

/** Random years as they come about. */
export interface YearsSoFar {
  years: Year[];
  of: number;
  working: boolean;
  error: string | undefined;
  start(): void;
  stop(): void;
}

/**
 * A hundred random years of a thread that says how often mains goes: in small parts, behind everything that is in sight. Another
 * thread, or leaving the view, stops it; what has been worked out by then is kept.
 * @param dips chance that a transfer dips; undefined while it is not known
 */
export function useYears(doc: ThreadDocument, dips: number | undefined): YearsSoFar {
  const key = useMemo(() => JSON.stringify(keyOf('years', [doc, dips])), [doc, dips]);
  const [, setShown] = useState(0);
  const [stopped, setStopped] = useState<string>();
  const [failed, setFailed] = useState<{ key: string; message: string }>();
  const years = kept.get(key) ?? [];
  const on =
    doc.backup?.chance !== undefined && dips !== undefined && stopped !== key && years.length < YEARS;
  useEffect(() => {
    if (!on) return;
    const control = new AbortController();
    const options = { signal: control.signal, priority: PRIORITY.idle, about: plantKey(doc) };
    const there = new Set((kept.get(key) ?? []).map((y) => y.year));
    const line = Array.from({ length: YEARS / AT_ONCE }, (_, k) => k * AT_ONCE).filter((y) => !there.has(y));
    const all = async () => {
      for (let from = line.shift(); from !== undefined; from = line.shift()) {
        const found = await ask('years', [doc, from, from + AT_ONCE, dips], options);
        keep(
          key,
          [...(kept.get(key) ?? []), ...found].sort((a, b) => a.year - b.year),
        );
        setShown((n) => n + 1);
      }
    };
    all().catch((reason: Error) => {
      if (control.signal.aborted) return;
      setFailed({ key, message: reason.message });
      setStopped(key);
    });
    return () => control.abort();
  }, [on, key, doc, dips]);
  return {
    years,
    of: YEARS,
    working: on,
    error: failed?.key === key ? failed.message : undefined,
    start: () => {
      setFailed(undefined);
      setStopped(undefined);
    },
    stop: () => setStopped(key),
  };
}
