import { AGED } from '../model/belief.ts';
import type { CellRecord } from '../model/cell.ts';
import { arrhenius } from '../plant/warmth.ts';

/** What ageing leaves of a cell, as factors on what it was when new. */
export interface Faded {
  capacity: number;
  resistance: number;
}

/** The same with how far off the law may be: as it may be at best, as figured, at worst. */
export interface FadeRange {
  best: Faded;
  usual: Faded;
  worst: Faded;
}

/** How a kind of cells ages. */
export interface FadeLaw {
  /** share of the charge lost in the first year at 25 °C, by time alone */
  calendar: number;
  /** share lost by the first thousand full cycles */
  cycling: number;
}

/**
 * First year's loss and loss of the first thousand full cycles at 25 °C, moderate charge and currents. LFP's second is
 * that of Wang et al., J. Power Sources 196 (2011) 3942, eq. 10 for C/2 (from memory); nickel and cobalt as 20 % in 500,
 * titanate as 20 % in 20,000, and every loss by time alone: common practice, no source.
 */
const LAWS: Readonly<Record<CellRecord['chemistry'], FadeLaw>> = {
  NMC: { calendar: 0.03, cycling: 0.28 },
  NCA: { calendar: 0.03, cycling: 0.28 },
  LCO: { calendar: 0.04, cycling: 0.28 },
  LFP: { calendar: 0.02, cycling: 0.065 },
  LTO: { calendar: 0.01, cycling: 0.045 },
  other: { calendar: 0.03, cycling: 0.28 },
};

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
  const { calendar, cycling } = LAWS[chemistry];
  const slower = arrhenius(ACTIVATION).at(air);
  const loss = (calendar / slower) * Math.sqrt(years) + cycling * Math.sqrt((cycles * years) / 1000);
  const left = (times: number): Faded => {
    const capacity = Math.max(LEAST, 1 - times * loss);
    return { capacity, resistance: 1 + OHMS_PER_LOSS * (1 - capacity) };
  };
  return { best: left(1 / ROUGHNESS), usual: left(1), worst: left(ROUGHNESS) };
}
