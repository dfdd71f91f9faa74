import { drawsOf, lawIn, type Draws } from '../../loads/draws.ts';
import type { ThreadDocument } from '../../model/thread.ts';
import type { Schedule } from './schedule.ts';

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
