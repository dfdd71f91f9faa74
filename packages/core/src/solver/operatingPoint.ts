import { descend, highestRoot, type RootStatus } from '../numeric/root.ts';

/** Share of the open-circuit voltage below which no operating point is looked for. */
const FLOOR = 0.02;
/** Relative tolerance on the pack voltage of a step's mean: the energy ledger closes about as well. */
export const MEAN_TOLERANCE = 1e-9;
/** The same for an instant that is only looked at: a microvolt of a pack. */
export const LOOK_TOLERANCE = 1e-7;
/** The same where an event is located: volts move little in the millisecond asked for. */
export const EVENT_TOLERANCE = 1e-11;
/** |f| [relative to the open voltage] on both sides of a bracket that counts as a jump. */
const JUMP = 1e-6;

export interface Found {
  status: RootStatus;
  /** [V] */
  volts: number;
}

/**
 * Pack-side voltage: the highest V with f(V) = 0, f(V) = source at the current drawn at V, minus V.
 *
 * A secant from a known point, or from the top, follows the stable branch; whenever that strays, the whole
 * range is searched.
 *
 * @param f [V] over [V]; evaluated last at the voltage returned
 * @param open [V] voltage at no current, > 0
 * @param near [V] a point near the root; NaN to begin at the top
 * @param hint slope of f, kept from one search to the next
 * @param tolerance relative to `open`
 */
export function operatingPoint(
  f: (volts: number) => number,
  open: number,
  near: number,
  hint: { slope: number },
  tolerance: number,
): Found {
  const small = tolerance * open;
  const fast = descend(f, FLOOR * open, open, near > 0 ? Math.min(near, open) : open, small, hint);
  if (!Number.isNaN(fast)) return { status: 'converged', volts: fast };
  const root = highestRoot(f, FLOOR * open, open, small, JUMP * open);
  if (root.status !== 'none') f(root.x);
  return { status: root.status, volts: root.x };
}
