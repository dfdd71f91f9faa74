/** Nodes and weights of the 8-point Gauss-Legendre rule on [-1, 1], from left to right; Abramowitz & Stegun table 25.4 (from memory). */
const HALF_NODES = [0.9602898564975363, 0.7966664774136267, 0.525532409916329, 0.1834346424956498];
const HALF_WEIGHTS = [0.1012285362903763, 0.2223810344533745, 0.3137066458778873, 0.362683783378362];
const NODES = [...HALF_NODES.map((x) => -x), ...HALF_NODES.toReversed()];
const WEIGHTS = [...HALF_WEIGHTS, ...HALF_WEIGHTS.toReversed()];

/**
 * Integral of f from a to b by composite 8-point Gauss-Legendre quadrature; f is asked in the order of the way.
 * @param f smooth within each panel
 * @param b may lie below a: the integral then has the other sign
 * @param panels number of equal panels; the rule is exact for polynomials up to degree 15 in each
 */
export function gaussPanels(f: (x: number) => number, a: number, b: number, panels = 1): number {
  const half = (b - a) / panels / 2;
  let total = 0;
  for (let p = 0; p < panels; p++) {
    const mid = a + (2 * p + 1) * half;
    for (let k = 0; k < NODES.length; k++) total += WEIGHTS[k]! * f(mid + half * NODES[k]!);
  }
  return total * half;
}
