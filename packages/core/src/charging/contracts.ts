import type { Offer } from '../model/sources/contracts.ts';

/** What a buck charger is to do with a ladder of contracts. */
export interface LadderTask {
  offers: readonly Pick<Offer, 'volts' | 'amps'>[];
  /** [Ω] cable, there and back */
  wire: number;
  /** [V] full pack, and headroom the charger needs above it */
  full: number;
  headroom: number;
  /** [A] wanted, and [V] of the pack now */
  wanted: number;
  volts: number;
  efficiency: number;
  /** share of a contract's current that is used at most */
  share: number;
}

/** What a contract comes to. */
export interface Rung {
  volts: number;
  /** whether the volts at its limit are enough for a full pack */
  usable: boolean;
  /** whether it carries all that is wanted now */
  whole: boolean;
  /** [A] of the source, [V] at the charger, [A] into the pack */
  sourceAmps: number;
  inputVolts: number;
  chargeAmps: number;
}

/** What one contract comes to: a quadratic of its cable, limited by its current. Kirchhoff and power balance. */
export function rung(task: LadderTask, { volts, amps }: Pick<Offer, 'volts' | 'amps'>): Rung {
  const { wire, full, headroom, wanted, volts: pack, efficiency, share } = task;
  const limit = share * amps;
  const watts = (wanted * pack) / efficiency;
  const disc = volts * volts - 4 * wire * watts;
  const asked = disc < 0 ? Infinity : (2 * watts) / (volts + Math.sqrt(disc));
  const whole = asked <= limit * (1 + 1e-12);
  const sourceAmps = whole ? asked : limit;
  const inputVolts = volts - wire * sourceAmps;
  return {
    volts,
    usable: volts - wire * limit >= full + headroom,
    whole,
    sourceAmps,
    inputVolts,
    chargeAmps: whole ? wanted : (inputVolts * sourceAmps * efficiency) / pack,
  };
}

/**
 * The contract to ask for: the lowest usable volts that carry what is wanted; where none does, the usable one that charges
 * fastest, of equals the lower.
 * @returns undefined where none is usable
 */
export function chooseContract(task: LadderTask): Rung | undefined {
  const usable = task.offers
    .map((o) => rung(task, o))
    .filter((r) => r.usable)
    .sort((a, b) => a.volts - b.volts);
  const whole = usable.find((r) => r.whole);
  if (whole) return whole;
  return usable.reduce<Rung | undefined>(
    (best, r) => (best && best.chargeAmps >= r.chargeAmps ? best : r),
    undefined,
  );
}
