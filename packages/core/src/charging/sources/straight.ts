import type { SourceBase } from '../../model/sources/base.ts';
import type { SourceLaw } from './kind.ts';

/** Times its limit that a source gives into a short where it sags and nobody says by how much: by its own size. Common practice, no source. */
const SHORTED = 2;

/** A source whose volts fall straight with the current: V = open − droop·I, and beyond its limit, where it sags, by more. */
export function straight(
  { beyond, sag, wall }: Pick<SourceBase, 'beyond' | 'sag' | 'wall'>,
  { open, droop, limit }: { open: number; droop: number; limit: number },
): SourceLaw {
  const soft = beyond === 'soft';
  const left = Math.max(0, open - droop * limit);
  // Down to nothing where it gives so many times its limit.
  const steep = sag ?? Math.max(0, left / ((SHORTED - 1) * limit) - droop);
  return {
    ...{ open, droop, limit, beyond, straight: !soft },
    ...(wall ? { wall } : {}),
    most: soft ? limit + (left > 0 ? left / (droop + steep) : 0) : limit,
    volts: (amps) => open - droop * amps - (soft && amps > limit ? steep * (amps - limit) : 0),
    stretch: (amps) => (soft && amps > limit ? 1 : 0),
  };
}
