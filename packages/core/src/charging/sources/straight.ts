import type { SourceBase } from '../../model/sources/base.ts';
import type { SourceLaw } from './kind.ts';

/** [Ω] Sag beyond the limit where none is stated: an ampere too much takes two volts. Common practice, no source. */
const USUAL_SAG = 2;

/** A source whose volts fall straight with the current: V = open − droop·I, and beyond its limit, where it sags, by more. */
export function straight(
  { beyond, sag = USUAL_SAG, wall }: Pick<SourceBase, 'beyond' | 'sag' | 'wall'>,
  { open, droop, limit }: { open: number; droop: number; limit: number },
): SourceLaw {
  const soft = beyond === 'soft';
  return {
    ...{ open, droop, limit, beyond, straight: !soft },
    ...(wall ? { wall } : {}),
    most: soft ? limit + Math.max(0, open - droop * limit) / (droop + sag) : limit,
    volts: (amps) => open - droop * amps - (soft && amps > limit ? sag * (amps - limit) : 0),
    stretch: (amps) => (soft && amps > limit ? 1 : 0),
  };
}
