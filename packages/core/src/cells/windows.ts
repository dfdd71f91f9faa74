import { brent } from '../numeric/root.ts';
import type { Windows } from './electrodes.ts';

/**
 * Electrode windows and capacity of a cell from its electrodes' capacities and its cyclable lithium.
 *
 * At both voltage limits: U⁺(y) − U⁻(x) = V with Q⁻·x + Q⁺·y = lithium; capacity = Q⁻·(x_full − x_empty).
 *
 * @param positive [V] potential over stoichiometry y; falling
 * @param negative [V] potential over stoichiometry x; falling
 * @param capacities [Ah] of the negative and the positive electrode, and the cyclable lithium
 * @param limits [V] empty and full
 * @returns the windows and the capacity in Ah
 * @throws RangeError when a limit lies outside what the electrodes can reach
 * Source: stoichiometry balance, M. Mohtat et al., J. Power Sources 427 (2019) 101 (from memory).
 */
export function windowsFromLimits(
  positive: (y: number) => number,
  negative: (x: number) => number,
  capacities: { negative: number; positive: number; lithium: number },
  limits: { empty: number; full: number },
): Windows & { capacityAh: number } {
  const yOf = (x: number) => (capacities.lithium - capacities.negative * x) / capacities.positive;
  const solve = (volts: number) => {
    // The full-cell voltage rises with x; both stoichiometries must stay inside 0…1.
    const low = Math.max(1e-6, (capacities.lithium - capacities.positive) / capacities.negative);
    const high = Math.min(1 - 1e-6, capacities.lithium / capacities.negative);
    const root = brent((x) => volts - positive(yOf(x)) + negative(x), low, high, 1e-12);
    if (root.status === 'none') throw new RangeError(`windowsFromLimits: ${volts} V is out of reach`);
    return root.x;
  };
  const xEmpty = solve(limits.empty);
  const xFull = solve(limits.full);
  return {
    negative: [xEmpty, xFull],
    positive: [yOf(xEmpty), yOf(xFull)],
    capacityAh: capacities.negative * (xFull - xEmpty),
  };
}
