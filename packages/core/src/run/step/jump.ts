import type { Plant } from '../../plant/compile.ts';
import type { Instant } from './instant.ts';
import type { CellState } from './state.ts';

/** Relative distance to the other side of a jump of the demand. */
const BESIDE = 1e-7;

/** Both sides of a jump of the demand. */
export interface Sides {
  /** [A] of the path in their mean, at the present instant */
  amps: number;
  /** [V] just below and just above */
  volts: readonly [number, number];
  /** @returns share of the time above, from amps of the path in the mean */
  shareOf(amps: number): number;
}

/**
 * Where the demand jumps at the present volts neither of its sides meets what the cells give there, and the path hunts between
 * them: what the cells give in the mean is known, and with it for which share of the time the other side holds.
 * @returns undefined where the volts are no jump's, or what the cells give lies between none of its sides
 */
export function sidesAt({ path }: Plant, state: CellState, instant: Instant): Sides | undefined {
  instant.prepare(state.soc, state.slow);
  const amps = (instant.open - state.volts) / instant.ohms;
  const volts = [state.volts * (1 - BESIDE), state.volts * (1 + BESIDE)] as const;
  const [below, above] = volts.map((v) => path.exactAmps(v)) as [number, number];
  const shareOf = (amps: number) => (amps - below) / (above - below);
  const share = shareOf(amps);
  return share >= 0 && share <= 1 ? { amps, volts, shareOf } : undefined;
}
