/**
 * Inverse of a symmetric matrix with positive pivots, by Gauss and Jordan: enough for the few dozen parameters it is used for.
 * Textbook.
 * @param matrix rows one after the other, n × n; kept as it is
 */
export function inverse(matrix: ArrayLike<number>, n: number): Float64Array {
  const a = Float64Array.from(matrix);
  const out = new Float64Array(n * n);
  for (let k = 0; k < n; k++) out[k * n + k] = 1;
  for (let k = 0; k < n; k++) {
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
