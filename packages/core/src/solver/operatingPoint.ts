import { descend, highestRoot, type RootStatus } from '../numeric/root.ts';

/** Share of the open-circuit voltage below which no operating point is looked for. */
const FLOOR = 0.02;
/** Relative tolerance on the pack voltage; keeps the energy ledger far below 1e-6. */
const TOLERANCE = 1e-12;
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
 */
export function operatingPoint(f: (volts: number) => number, open: number, near: number): Found {
  const small = TOLERANCE * open;
  const fast = descend(f, FLOOR * open, open, near > 0 ? near : open, small);
  if (!Number.isNaN(fast)) return { status: 'converged', volts: fast };
  const root = highestRoot(f, FLOOR * open, open, small, JUMP * open);
  if (root.status !== 'none') f(root.x);
  return { status: root.status, volts: root.x };
}
