/** Even numbers, 0 < x < 1, the same for the same seed: a multiplicative congruence, Park and Miller 1988 (from memory). */
export function createRandom(seed: number): () => number {
  const modulus = 2147483647;
  let state = ((Math.abs(Math.trunc(seed)) * 7919 + 104729) % (modulus - 1)) + 1;
  const next = () => (state = (state * 48271) % modulus) / modulus;
  for (let k = 0; k < 5; k++) next();
  return next;
}
