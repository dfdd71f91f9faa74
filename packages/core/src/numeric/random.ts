/**
 * Random numbers of one draw out of many: the draw's own number is part of the seed, so that it is the same whoever makes
 * it, and after which others. SFC32, a small fast counting generator; Doty-Humphrey, PractRand (from memory).
 * @returns a function that gives the next number, 0 < x < 1
 */
export function randomOf(seed: number, draw: number): () => number {
  let a = seed >>> 0;
  let b = draw >>> 0;
  let c = 0x9e3779b9;
  let counter = 1;
  const next = () => {
    const sum = (a + b + counter) | 0;
    counter = (counter + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (((c << 21) | (c >>> 11)) + sum) | 0;
    return ((sum >>> 0) + 0.5) / 4294967296;
  };
  // Neighbouring seeds are apart after these.
  for (let k = 0; k < 15; k++) next();
  return next;
}

const A = [
  -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716,
  2.506628277459239,
];
const B = [
  -54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572, 1,
];
const C = [
  -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
  2.938163982698783,
];
const D = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416, 1];
const TAIL = 0.02425;

const polynomial = (c: readonly number[], x: number) => c.reduce((sum, k) => sum * x + k, 0);

/**
 * Quantile of the standard normal distribution, to 1.2e-9 of its value. Acklam's rational approximations (from memory).
 * @param p 0 < p < 1
 */
export function normalQuantile(p: number): number {
  if (p > 0.5) return -normalQuantile(1 - p);
  if (p < TAIL) {
    const q = Math.sqrt(-2 * Math.log(p));
    return polynomial(C, q) / polynomial(D, q);
  }
  const q = p - 0.5;
  return (polynomial(A, q * q) * q) / polynomial(B, q * q);
}
