/**
 * How a root search ended. `jump`: the sign changes across a discontinuity, there is no root there; `unfinished`: the
 * calls ran out before the bracket was as narrow as asked.
 */
export type RootStatus = 'converged' | 'jump' | 'none' | 'unfinished';

export interface RootResult {
  status: RootStatus;
  /** The root; at a `jump` the side where f > 0; with `none` the place of the largest f found; else the best so far. */
  x: number;
  /** Function evaluations spent. */
  calls: number;
}

/** Brent's worst case is about the square of bisection's count; this is far beyond any bracket here. */
const MOST_CALLS = 200;

/**
 * Root of f in a bracket by Brent's method.
 * Source: R. P. Brent, Algorithms for Minimization without Derivatives (1973), ch. 4 (from memory).
 *
 * @param f continuous where it matters; f(low) ≥ 0 ≥ f(high)
 * @param low [same as x] lower end, where f ≥ 0
 * @param high upper end, where f ≤ 0
 * @param tolerance absolute tolerance on x, > 0
 * @param jumpSize |f| at both sides of the final bracket above which it is called a jump
 */
export function brent(
  f: (x: number) => number,
  low: number,
  high: number,
  tolerance: number,
  jumpSize = Infinity,
): RootResult {
  let a = low;
  let b = high;
  let fa = f(a);
  let fb = f(b);
  let calls = 2;
  if (fa === 0) return { status: 'converged', x: a, calls };
  if (fb === 0) return { status: 'converged', x: b, calls };
  if (fa < 0 || fb > 0) return { status: 'none', x: fa > fb ? a : b, calls };
  let c = a;
  let fc = fa;
  let d = b - a;
  let e = d;
  while (calls < MOST_CALLS) {
    if (fb > 0 === fc > 0) {
      c = a;
      fc = fa;
      d = e = b - a;
    }
    if (Math.abs(fc) < Math.abs(fb)) {
      a = b;
      b = c;
      c = a;
      fa = fb;
      fb = fc;
      fc = fa;
    }
    const tol = 2 * Number.EPSILON * Math.abs(b) + tolerance / 2;
    const half = (c - b) / 2;
    if (Math.abs(half) <= tol || fb === 0) {
      const jump = Math.abs(fb) > jumpSize && Math.abs(fc) > jumpSize;
      if (!jump) return { status: 'converged', x: b, calls };
      return { status: 'jump', x: fb > 0 ? b : c, calls };
    }
    if (Math.abs(e) >= tol && Math.abs(fa) > Math.abs(fb)) {
      const s = fb / fa;
      let p: number;
      let q: number;
      if (a === c) {
        p = 2 * half * s;
        q = 1 - s;
      } else {
        const r = fb / fc;
        const t = fa / fc;
        p = s * (2 * half * t * (t - r) - (b - a) * (r - 1));
        q = (t - 1) * (r - 1) * (s - 1);
      }
      if (p > 0) q = -q;
      else p = -p;
      if (2 * p < Math.min(3 * half * q - Math.abs(tol * q), Math.abs(e * q))) {
        e = d;
        d = p / q;
      } else {
        d = half;
        e = d;
      }
    } else {
      d = half;
      e = d;
    }
    a = b;
    fa = fb;
    b += Math.abs(d) > tol ? d : half > 0 ? tol : -tol;
    fb = f(b);
    calls++;
  }
  return { status: 'unfinished', x: b, calls };
}

/** Samples of the downward scan. Two roots closer than a sample apart are found by the golden search. */
const SCAN = 48;

/** Relative width at which the golden search for a hump ends; f is flat there to its square. */
const HUMP = 1e-6;

/**
 * Highest root of f in (bottom, top], for functions with f(top) ≤ 0 that may have several roots, none,
 * or jumps (f rises from negative to positive somewhere below the top and falls again: the two branches
 * of a constant-power load). Scans downwards, then polishes with Brent; where no sample is positive it
 * climbs to the largest sample by golden section, so that two nearly merged roots are not lost.
 *
 * @param f finite on (bottom, top]
 * @param bottom lowest x considered
 * @param top highest x considered
 * @param tolerance absolute tolerance on x
 * @param jumpSize see `brent`
 * @param samples of the scan; fewer where searches are nested and their costs multiply
 */
export function highestRoot(
  f: (x: number) => number,
  bottom: number,
  top: number,
  tolerance: number,
  jumpSize = Infinity,
  samples = SCAN,
): RootResult {
  let calls = 1;
  const atTop = f(top);
  if (atTop >= 0) return { status: 'converged', x: top, calls };
  const step = (top - bottom) / samples;
  let above = top; // the sample before
  let fAbove = atTop;
  let fAboveThat = Infinity; // and the one before that
  let best = top;
  let fBest = atTop;
  const polish = (low: number, high: number): RootResult => {
    const polished = brent(f, low, high, tolerance, jumpSize);
    return { ...polished, calls: calls + polished.calls };
  };
  /** A hump of f between two samples that are both negative: its top may be above zero. */
  const hump = (low: number, high: number): RootResult | undefined => {
    const peak = climb(f, low, high, HUMP * top);
    calls += peak.calls;
    return peak.value >= 0 ? polish(peak.x, high) : undefined;
  };
  for (let k = 1; k <= samples; k++) {
    const x = k === samples ? bottom : top - k * step;
    const fx = f(x);
    calls++;
    if (fAbove > fAboveThat && fAbove > fx) {
      const found = hump(x, Math.min(top, above + step));
      if (found) return found;
    }
    if (fx >= 0) {
      const found = polish(x, above);
      if (found.status !== 'jump') return found;
      // The sign changed by a jump; a hump may still stand between it and the sample above.
      return hump(found.x + tolerance, Math.min(top, above + step)) ?? { ...found, calls };
    }
    if (fx > fBest) {
      best = x;
      fBest = fx;
    }
    fAboveThat = fAbove;
    above = x;
    fAbove = fx;
  }
  const last = hump(Math.max(bottom, best - step), Math.min(top, best + step));
  return last ?? { status: 'none', x: best, calls };
}

/** Golden-section search for a maximum in [a, b], to `width`; stops early at the first f ≥ 0. */
export function climb(f: (x: number) => number, a: number, b: number, width: number) {
  const ratio = (Math.sqrt(5) - 1) / 2;
  let x1 = b - ratio * (b - a);
  let x2 = a + ratio * (b - a);
  let f1 = f(x1);
  let f2 = f(x2);
  let calls = 2;
  while (b - a > width && f1 < 0 && f2 < 0 && calls < 120) {
    if (f1 < f2) {
      a = x1;
      x1 = x2;
      f1 = f2;
      x2 = a + ratio * (b - a);
      f2 = f(x2);
    } else {
      b = x2;
      x2 = x1;
      f2 = f1;
      x1 = b - ratio * (b - a);
      f1 = f(x1);
    }
    calls++;
  }
  return f1 > f2 ? { x: x1, value: f1, calls } : { x: x2, value: f2, calls };
}

/** Secant steps before `descend` gives up; three or four are the rule. */
const FAST_STEPS = 12;

/**
 * Root of f by secants from a point on its right, for f that falls there: the stable branch of a rail or a
 * pack. Where f is concave (constant power behind a resistance) every iterate stays on the right of the
 * highest root, so that root is found. Gives up rather than stray: the caller then searches the whole range.
 *
 * @param start where to begin; f(start) ≤ 0 or close to it
 * @param small |f| that counts as zero
 * @param hint slope of f near the root, from an earlier search; replaced by the one found here
 * @returns the root, where f was evaluated last, or NaN
 */
export function descend(
  f: (x: number) => number,
  bottom: number,
  top: number,
  start: number,
  small: number,
  hint?: { slope: number },
): number {
  let x0 = start;
  let f0 = f(x0);
  if (Math.abs(f0) <= small) return x0;
  let x1 = Math.min(top, x0 - f0 / (hint ? hint.slope : -1));
  for (let k = 0; k < FAST_STEPS && x1 > bottom && x1 !== x0; k++) {
    const f1 = f(x1);
    if (Math.abs(f1) <= small) return x1;
    const slope = (f1 - f0) / (x1 - x0);
    // A slope that is not clearly falling means the nose is near, or that a jump lies between.
    if (!(slope < -1e-3)) return NaN;
    if (hint) hint.slope = slope;
    x0 = x1;
    f0 = f1;
    x1 = Math.min(top, x1 - f1 / slope);
  }
  return NaN;
}
