import { drawsOf, lawsOf, type Draws } from '../../loads/draws.ts';

/** Each load by the mean of what it draws in stretches: of the law by which it draws most, by time. */
export function meanDraws(stretches: readonly { seconds: number; draws: Draws }[]): Draws {
  const laws = stretches.map((s) => lawsOf(s.draws));
  const period = stretches.reduce((sum, s) => sum + s.seconds, 0);
  return drawsOf(
    laws[0]!.map((_, l) => {
      const main = laws.reduce((a, b) => (b[l]!.value * b[l]!.factor > a[l]!.value * a[l]!.factor ? b : a))[
        l
      ]!;
      const mean =
        laws.reduce((s, law, k) => s + law[l]!.value * law[l]!.factor * stretches[k]!.seconds, 0) / period;
      // Of a resistance or a string the time it is on counts; of the others its mean.
      return main.value > 0 ? { ...main, factor: mean / main.value } : main;
    }),
  );
}
