/** Relative distance in time below which two instants are one: what a march that ends at an edge misses it by. */
const NEAR = 1e-12;
/** The same [s] near the beginning. */
const TICK = 1e-9;

/** Whether a time has come to an edge. [s] */
export function hasCome(time: number, edge: number): boolean {
  return time * (1 + NEAR) + TICK >= edge;
}
