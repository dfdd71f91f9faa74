import type { FigureTolerance } from '../model/belief.ts';
import { normalQuantile, randomOf } from '../numeric/random.ts';

/** What a figure may be off by. Scores are what is drawn: of a normal one in standard deviations, else −1…1. */
export interface Spread {
  distribution: NonNullable<FigureTolerance['distribution']>;
}

/**
 * Scores of one draw, one for each figure; the same for equal seed and number, whoever draws.
 * @param draw its number, from 0
 */
export function scoresOf(seed: number, draw: number, spreads: readonly Spread[]): Float64Array {
  const next = randomOf(seed, draw);
  return Float64Array.from(spreads, ({ distribution }) => {
    const u = next();
    return distribution === 'normal' ? normalQuantile(u) : 2 * u - 1;
  });
}
