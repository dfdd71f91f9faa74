/** Nodes and weights of the 8-point Gauss-Legendre rule on [-1, 1]; Abramowitz & Stegun table 25.4 (from memory). */
const NODES = [0.1834346424956498, 0.525532409916329, 0.7966664774136267, 0.9602898564975363];
const WEIGHTS = [0.362683783378362, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763];

/**
 * Integral of f over [a, b] by composite 8-point Gauss-Legendre quadrature.
 * @param f smooth within each panel
 * @param panels number of equal panels; the rule is exact for polynomials up to degree 15 in each
 */
export function gauss(f: (x: number) => number, a: number, b: number, panels = 1): number {
  const half = (b - a) / panels / 2;
  let total = 0;
  for (let p = 0; p < panels; p++) {
    const mid = a + (2 * p + 1) * half;
    for (let k = 0; k < 4; k++) {
      total += WEIGHTS[k]! * (f(mid - half * NODES[k]!) + f(mid + half * NODES[k]!));
    }
  }
  return total * half;
}
