import type { Sampled } from './sampled.ts';

/** Relative width to which an edge is closed in on: the power of either side may be continued that far. */
export const EDGE = 1e-11;

const MOST_ROUNDS = 200;

/** An edge [V], and how often it was looked. */
interface Found {
  volts: number;
  looks: number;
}

/**
 * The last volts that have the state of `good` on the way to `bad`, which have not. Where what differs is a threshold
 * crossed, by the secant of its distance (Illinois); a change of formula by halving alone.
 */
export function edge(of: Sampled, good: number, bad: number, state: Int32Array): Found {
  const width = EDGE * good;
  const { signature } = of;
  of.look(bad);
  const at = firstDifference(signature, state);
  const before = state[at]!;
  let gBad = of.distance(at, before);
  of.look(good);
  let gGood = of.distance(at, before);
  let round = 0;
  for (; Math.abs(good - bad) > width && round < MOST_ROUNDS; round++) {
    const share = gGood / (gGood - gBad);
    // Every third time the middle: a distance may be kinked.
    const middle = round % 3 < 2 && share > 0 && share < 1 ? aim(good, bad, share, width) : (good + bad) / 2;
    of.look(middle);
    const d = of.distance(at, before);
    if (same(signature, state)) {
      good = middle;
      gGood = d;
      gBad /= 2;
    } else {
      bad = middle;
      gBad = d < 0 ? d : NaN;
      gGood /= 2;
    }
  }
  return { volts: good, looks: round + 2 };
}

/** [V] at a share of the way, but a little beyond the crossing so that the bracket closes from both sides. */
function aim(good: number, bad: number, share: number, width: number): number {
  const x = good + share * (bad - good);
  const nudge = Math.min(0.3 * width, 0.1 * Math.abs(bad - good));
  return Math.abs(x - good) < Math.abs(x - bad)
    ? x + Math.sign(bad - good) * nudge
    : x - Math.sign(bad - good) * nudge;
}

function firstDifference(a: Int32Array, b: Int32Array): number {
  for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return k;
  return 0;
}

export function same(a: Int32Array | Uint8Array, b: Int32Array | Uint8Array): boolean {
  for (let k = 0; k < a.length; k++) if (a[k] !== b[k]) return false;
  return true;
}
