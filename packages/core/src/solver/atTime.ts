import { drawsOf, lawIn, type Draws } from '../loads/draws.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { Schedule, Stretch } from './schedule.ts';

/** What the loads do at a time. */
export function stretchAt({ stretches, first, period, repeats }: Schedule, time: number): Stretch {
  const length = first.reduce((s, f) => s + f.seconds, 0);
  let at = time;
  let of = first;
  if (time >= length - 1e-6) {
    at = repeats ? (time - length) % period : period;
    if (repeats && period - at < 1e-6) at = 0;
    of = stretches;
  }
  for (const stretch of of) {
    if (at < stretch.seconds - 1e-6) return stretch;
    at -= stretch.seconds;
  }
  return of.at(-1)!;
}

/** Each load by the mean of what it draws in its programme: of its own law, by time. */
export function meanDraws(doc: ThreadDocument, { stretches, period }: Schedule): Draws {
  const { modes = [] } = doc;
  return drawsOf(
    doc.loads.map((load) => {
      const laws = stretches.map((s) => ({ law: lawIn(load, modes[s.mode]?.id ?? ''), seconds: s.seconds }));
      const main = laws.reduce((a, b) =>
        b.law.value * b.law.factor > a.law.value * a.law.factor ? b : a,
      ).law;
      const mean = laws.reduce((s, { law, seconds }) => s + law.value * law.factor * seconds, 0) / period;
      // Of a resistance or a string the time it is on counts; of the others its mean.
      return main.value > 0 ? { ...main, factor: mean / main.value } : main;
    }),
  );
}
