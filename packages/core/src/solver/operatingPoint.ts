import { highestRoot, type RootStatus } from '../numeric/root.ts';

/** Share of the open-circuit voltage below which no operating point is looked for. */
const FLOOR = 0.02;
/** Relative tolerance on the pack voltage; keeps the energy ledger far below 1e-6. */
const TOLERANCE = 1e-12;
/** |f| [relative to the open voltage] on both sides of a bracket that counts as a jump. */
const JUMP = 1e-6;
/** Secant steps before the careful search takes over; three or four are the rule. */
const FAST_STEPS = 10;

export interface Found {
  status: RootStatus;
  /** [V] */
  volts: number;
}

/**
 * Pack-side voltage: the highest V with f(V) = 0, f(V) = source at the current drawn at V, minus V.
 *
 * Near a known point a secant from it follows the branch (f is concave for constant power, so the secant
 * stays on the stable side); whenever that strays, the whole range is searched from the top.
 *
 * @param f [V] over [V]; evaluated last at the voltage returned
 * @param open [V] voltage at no current, > 0
 * @param near [V] a point near the root; NaN to search from the top
 */
export function operatingPoint(f: (volts: number) => number, open: number, near: number): Found {
  const small = TOLERANCE * open;
  if (near > 0) {
    let x0 = near;
    let f0 = f(x0);
    if (Math.abs(f0) <= small) return { status: 'converged', volts: x0 };
    let x1 = Math.min(open, x0 + f0);
    for (let k = 0; k < FAST_STEPS && x1 > FLOOR * open && x1 !== x0; k++) {
      const f1 = f(x1);
      if (Math.abs(f1) <= small) return { status: 'converged', volts: x1 };
      const slope = (f1 - f0) / (x1 - x0);
      // A slope that is not clearly falling means the nose is near, or that a jump lies between.
      if (!(slope < -1e-3)) break;
      x0 = x1;
      f0 = f1;
      x1 = Math.min(open, x1 - f1 / slope);
    }
  }
  const root = highestRoot(f, FLOOR * open, open, small, JUMP * open);
  if (root.status !== 'none') f(root.x);
  return { status: root.status, volts: root.x };
}
