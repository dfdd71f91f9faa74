import { inverse } from './inverse.ts';

/** How a fit ended. `unfinished`: its rounds ran out before it settled. */
export interface Fit {
  status: 'converged' | 'unfinished';
  values: Float64Array;
  /** root of each variance, s²·(JᵀJ)⁻¹ with s² = SSE/(n − p) */
  errors: Float64Array;
  /** root of the mean square of what is left over, in the unit of the residuals */
  rms: number;
  rows: number;
  rounds: number;
}

const ROUNDS = 60;
/** Relative change of every value that ends it. */
const SETTLED = 1e-9;
/** Share of a value's scale by which slopes are taken. */
const SIDE = 1e-5;

/**
 * Values for which the sum of squared residuals is least, by Levenberg and Marquardt with slopes by central differences, for a
 * handful of values. Levenberg 1944, Marquardt 1963 (from memory); standard errors textbook.
 * @param residuals of values, always the same number of them
 * @param start first guess @param scale size of each value, > 0: what counts as a small change of it
 */
export function levenberg(
  residuals: (values: Float64Array) => Float64Array,
  start: readonly number[],
  scale: readonly number[],
): Fit {
  const n = start.length;
  let values = Float64Array.from(start);
  let left = residuals(values);
  let sum = squares(left);
  let damping = 1e-3;
  let status: Fit['status'] = 'unfinished';
  let rounds = 0;
  while (rounds < ROUNDS && status === 'unfinished') {
    rounds++;
    const { matrix, right } = equations(slopesAt(residuals, values, scale), left);
    let better = false;
    for (let tries = 0; tries < 12 && !better; tries++) {
      const damped = matrix.slice();
      for (let k = 0; k < n; k++) damped[k * n + k]! *= 1 + damping;
      const cover = inverse(damped, n);
      const step = Float64Array.from(
        values,
        (_, r) => -right.reduce((s, v, c) => s + cover[r * n + c]! * v, 0),
      );
      const next = values.map((v, k) => v + step[k]!);
      const there = residuals(next);
      const nextSum = squares(there);
      if (nextSum <= sum) {
        const small = step.every((d, k) => Math.abs(d) <= SETTLED * (Math.abs(values[k]!) + scale[k]!));
        [values, left, sum] = [next, there, nextSum];
        damping /= 5;
        better = true;
        if (small) status = 'converged';
      } else damping *= 5;
    }
    // Nothing nearby is better: it stands at the least there is.
    if (!better) status = 'converged';
  }
  const rows = left.length;
  const variance = sum / Math.max(1, rows - n);
  const cover = inverse(equations(slopesAt(residuals, values, scale), left).matrix, n);
  return {
    status,
    values,
    errors: Float64Array.from(values, (_, k) => Math.sqrt(variance * cover[k * n + k]!)),
    rms: Math.sqrt(sum / rows),
    rows,
    rounds,
  };
}

const squares = (list: Float64Array) => list.reduce((s, v) => s + v * v, 0);

function slopesAt(
  residuals: (values: Float64Array) => Float64Array,
  values: Float64Array,
  scale: readonly number[],
): Float64Array[] {
  return scale.map((size, k) => {
    const by = SIDE * size;
    const at = (side: number) => residuals(values.with(k, values[k]! + side * by));
    const [low, high] = [at(-1), at(1)];
    return high.map((h, r) => (h - low[r]!) / (2 * by));
  });
}

/** JᵀJ and Jᵀr of slopes by column. */
function equations(slopes: readonly Float64Array[], left: Float64Array) {
  const n = slopes.length;
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    right[i] = slopes[i]!.reduce((s, v, r) => s + v * left[r]!, 0);
    for (let j = 0; j <= i; j++) {
      const product = slopes[i]!.reduce((s, v, r) => s + v * slopes[j]![r]!, 0);
      matrix[i * n + j] = matrix[j * n + i] = product;
    }
  }
  return { matrix, right };
}
