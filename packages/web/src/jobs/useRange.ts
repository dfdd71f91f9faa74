import {
  caseConditions,
  casesOf,
  USUAL_DRAWS,
  type CaseName,
  type Drawn,
  type LifeRange,
} from '@mile-thread/core/belief';
import type { ThreadDocument } from '@mile-thread/core/model';
import { plantKey, type Conditions } from '@mile-thread/core/solve';
import { useEffect, useMemo, useState } from 'react';
import { ask, keyOf } from './client.ts';
import { PRIORITY } from './job.ts';

/** The draws are the same each time: a range changes with the thread, not by chance. */
const SEED = 1;
/** Draws asked for at once, and questions under way: one for each worker. */
const AT_ONCE = 80;
const LANES = 2;
/** Draws of each case beside the usual: enough for a whisker. */
const CASE_DRAWS = 200;
/** Ranges kept. */
const KEPT = 8;

type Ends = Pick<LifeRange, 'p10' | 'p90'>;

/** A range as it comes about. */
export interface RangeSoFar {
  range?: LifeRange;
  /** 10 and 90 % of the cases beside the usual one */
  cases: Partial<Record<CaseName, Ends>>;
  /** draws done, of how many */
  done: number;
  of: number;
}

const NOTHING: RangeSoFar = { cases: {}, done: 0, of: USUAL_DRAWS };

const kept = new Map<string, RangeSoFar>();
/** the range begun last, and what has been drawn of it */
let begun: { key: string; parts: Drawn[] } | undefined;

function keep(key: string, found: RangeSoFar): void {
  kept.set(key, found);
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
}

/**
 * How long a thread lasts as a range: draws come in small parts from both workers, what they come to is shown on the
 * way. Another thread, or leaving the view, stops it.
 * @param wanted whether it begins by itself
 */
export function useRange(thread: ThreadDocument, wanted: boolean) {
  const doc = useMemo(() => withoutLook(thread), [thread]);
  const key = useMemo(() => JSON.stringify(keyOf('range', [doc])), [doc]);
  const [asked, setAsked] = useState<string>();
  const [stopped, setStopped] = useState<string>();
  const [found, setFound] = useState<{ key: string; so: RangeSoFar }>();
  const [failed, setFailed] = useState<{ key: string; message: string }>();
  const done = kept.get(key);
  const on = !done && stopped !== key && (wanted || asked === key);
  useEffect(() => {
    if (!on) return;
    const control = new AbortController();
    // What was drawn before it was cancelled is not drawn again.
    const before = begun?.key === key ? begun.parts : [];
    begun = { key, parts: before };
    workOut(doc, before, control.signal, (so) => setFound({ key, so })).then(
      (all) => {
        keep(key, all);
        setFound({ key, so: all });
      },
      (reason: Error) => {
        if (control.signal.aborted) return;
        setFailed({ key, message: reason.message });
        setStopped(key);
      },
    );
    return () => control.abort();
  }, [on, key, doc]);
  const so = done ?? (found?.key === key ? found.so : NOTHING);
  const start = () => {
    setFailed(undefined);
    setStopped(undefined);
    setAsked(key);
  };
  const stop = () => setStopped(key);
  const error = failed?.key === key ? failed.message : undefined;
  return { ...so, working: on, error, start, stop };
}

/** Whether it is shown as a range does not change the range. */
function withoutLook(doc: ThreadDocument): ThreadDocument {
  const { asRange, ...belief } = doc.belief ?? {};
  void asRange;
  return { ...doc, belief };
}

/** @param parts drawn so far, to which more are added */
async function workOut(
  doc: ThreadDocument,
  parts: Drawn[],
  signal: AbortSignal,
  show: (so: RangeSoFar) => void,
): Promise<RangeSoFar> {
  const options = { signal, priority: PRIORITY.soon, about: plantKey(doc) };
  let so: RangeSoFar = { ...NOTHING };
  const tell = (more: Partial<RangeSoFar>) => show((so = { ...so, ...more }));
  const drawAll = async (count: number, under: Partial<Conditions>, into: Drawn[], heard: () => void) => {
    const there = new Set(into.map((p) => p.from));
    const wanted = Array.from({ length: Math.ceil(count / AT_ONCE) }, (_, k) => k * AT_ONCE);
    const line = wanted.filter((from) => !there.has(from));
    const lane = async () => {
      for (let from = line.shift(); from !== undefined; from = line.shift()) {
        const to = Math.min(count, from + AT_ONCE);
        into.push(await ask('draws', [doc, SEED, from, to, under], options));
        heard();
      }
    };
    await Promise.all(Array.from({ length: LANES }, lane));
    return into;
  };
  const began = performance.now();
  let shownAt = 0;
  let whole = false;
  await drawAll(USUAL_DRAWS, {}, parts, () => {
    const done = parts.reduce((sum, p) => sum + p.hours.length, 0);
    tell({ done });
    // What they come to is worth another look when they are twice as many.
    if (done < 2 * shownAt || done < 2 * AT_ONCE) return;
    shownAt = done;
    void ask('range', [doc, [...parts]], options).then(
      // One that comes late says less than what is there.
      (range) => !whole && tell({ range }),
      () => undefined,
    );
  });
  performance.measure('mile-thread:all draws', { start: began });
  const range = await ask('range', [doc, parts], options);
  whole = true;
  tell({ range });
  const conditions = caseConditions(doc);
  for (const name of casesOf(doc)) {
    // How far years of use are off is a range of its own.
    if (name === 'usual' || name === 'later') continue;
    const own = await drawAll(CASE_DRAWS, conditions[name], [], () => undefined);
    const { p10, p90 } = await ask('range', [doc, own], options);
    tell({ cases: { ...so.cases, [name]: { p10, p90 } } });
  }
  return so;
}
