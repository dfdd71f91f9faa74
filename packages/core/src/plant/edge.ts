import type { Sampled } from './sampled.ts';

/** Relative width to which an edge is closed in on: the power of either side may be continued that far. */
export const EDGE = 1e-11;

const MOST_LOOKS = 200;

/** An edge [V], and how often it was looked. */
interface Found {
  /** [V], and how often it was looked at */
  volts: number;
  looks: number;
}

/**
 * The last volts that have the state of `good` on the way to `bad`, which have not. Where what differs is a threshold
 * crossed, by secants of its distance, each a hair to the side from which the bracket is still wide; a change of formula
 * by halving alone.
 */
export function edge(of: Sampled, good: number, bad: number, state: Int32Array): Found {
  const width = EDGE * good;
  const { signature } = of;
  of.look(bad);
  const at = firstDifference(signature, state);
  const before = state[at]!;
  let x0 = bad;
  let d0 = of.distance(at, before);
  of.look(good);
  let x1 = good;
  let d1 = of.distance(at, before);
  let looks = 2;
  // Halved where the secants have not done as much in two rounds.
  let due = Math.abs(good - bad) / 2;
  for (; Math.abs(good - bad) > width && looks < MOST_LOOKS; looks++) {
    const root = x1 - (d1 * (x1 - x0)) / (d1 - d0);
    const within = root > Math.min(good, bad) && root < Math.max(good, bad);
    const halve = looks % 2 === 0 && looks > 3 && Math.abs(good - bad) > due;
    if (looks % 2 === 0) due = Math.abs(good - bad) / 2;
    x0 = x1;
    d0 = d1;
    x1 =
      within && !halve
        ? aside(root, good, bad, Math.max(0.3 * width, HAIR * Math.abs(root - x1)))
        : (good + bad) / 2;
    of.look(x1);
    d1 = of.distance(at, before);
    if (same(signature, state)) good = x1;
    else bad = x1;
  }
  return { volts: good, looks };
}

/** Share of a secant's step by which its root is passed: more than it is wrong by. */
const HAIR = 1e-3;

/** [V] beside an estimated crossing, towards the farther end of the bracket. */
function aside(root: number, good: number, bad: number, hair: number): number {
  const far = Math.abs(root - good) < Math.abs(root - bad) ? bad : good;
  return root + Math.sign(far - root) * Math.min(hair, 0.5 * Math.abs(far - root));
}

function firstDifference(a: Int32Array, b: Int32Array): number {
  for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return k;
  return 0;
}

/** Whether two rows of numbers are one, their first `count` ones. */
export function same(a: Int32Array | Uint8Array, b: Int32Array | Uint8Array, count = a.length): boolean {
  for (let k = 0; k < count; k++) if (a[k] !== b[k]) return false;
  return true;
}
