import { chemistryOf } from '../model/chemistries/registry.ts';
import { AGED } from '../model/belief.ts';
import type { CellRecord } from '../model/cell.ts';
import { arrhenius } from '../plant/warmth.ts';

/** What ageing leaves of a cell, as factors on what it was when new. */
export interface Faded {
  /** factors on what a new cell holds and on its resistance */
  capacity: number;
  resistance: number;
}

/** The same with how far off the law may be: as it may be at best, as figured, at worst. */
export interface FadeRange {
  best: Faded;
  usual: Faded;
  worst: Faded;
}

/** How many times more, or less, a cell may lose than the law says. Common practice, no source: cells differ by as much. */
export const ROUGHNESS = 2;
/** [J/mol] Activation energy of the loss by time: 1.7 times as fast at 35 °C. Common practice, no source. */
const ACTIVATION = 40e3;
/** Resistance that comes with a share of the charge lost: as of an aged cell, see `AGED`. */
const OHMS_PER_LOSS = (AGED.resistance - 1) / (1 - AGED.capacity);
/** Least that is left: the law says nothing of cells worn out. */
const LEAST = 0.2;

/**
 * Charge and resistance after some years of a use. Both losses go with a square root, as a layer that grows through
 * itself: of time (Ploehn, Ramadass and White, J. Electrochem. Soc. 151 (2004) A456, from memory), faster when warm by
 * Arrhenius, and of the charge passed (Wang et al. 2011, whose power is 0.55). They are added.
 * @param years since it was made @param cycles full ones a year: charge taken over charge held @param air [°C]
 */
export function fadeAfter(
  { chemistry }: Pick<CellRecord, 'chemistry'>,
  years: number,
  cycles: number,
  air: number,
): FadeRange {
  const { calendar, cycling } = chemistryOf(chemistry).fade;
  const slower = arrhenius(ACTIVATION).at(air);
  const loss = (calendar / slower) * Math.sqrt(years) + cycling * Math.sqrt((cycles * years) / 1000);
  const left = (times: number): Faded => {
    const capacity = Math.max(LEAST, 1 - times * loss);
    return { capacity, resistance: 1 + OHMS_PER_LOSS * (1 - capacity) };
  };
  return { best: left(1 / ROUGHNESS), usual: left(1), worst: left(ROUGHNESS) };
}
