/**
 * Inverse of a matrix by Gauss and Jordan with row exchange: enough for the few dozen unknowns it is used for. Textbook.
 * @param matrix rows one after the other, n × n; kept as it is
 */
export function inverse(matrix: ArrayLike<number>, n: number): Float64Array {
  const a = Float64Array.from(matrix);
  const out = new Float64Array(n * n);
  for (let k = 0; k < n; k++) out[k * n + k] = 1;
  for (let k = 0; k < n; k++) {
    exchange(a, out, n, k);
    const pivot = a[k * n + k]!;
    for (let c = 0; c < n; c++) {
      a[k * n + c]! /= pivot;
      out[k * n + c]! /= pivot;
    }
    for (let r = 0; r < n; r++) {
      const by = r === k ? 0 : a[r * n + k]!;
      if (by === 0) continue;
      for (let c = 0; c < n; c++) {
        a[r * n + c]! -= by * a[k * n + c]!;
        out[r * n + c]! -= by * out[k * n + c]!;
      }
    }
  }
  return out;
}

/** Put the row with the largest pivot of column k in its place. */
function exchange(a: Float64Array, out: Float64Array, n: number, k: number): void {
  let best = k;
  for (let r = k + 1; r < n; r++) if (Math.abs(a[r * n + k]!) > Math.abs(a[best * n + k]!)) best = r;
  if (best === k) return;
  for (const m of [a, out]) {
    for (let c = 0; c < n; c++) {
      const own = m[k * n + c]!;
      m[k * n + c] = m[best * n + c]!;
      m[best * n + c] = own;
    }
  }
}
