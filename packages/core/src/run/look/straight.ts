/** |m·t| below which exponential and logarithm are taken by their series. */
const SERIES = 1e-3;

/**
 * How a state of charge moves where it falls at a rate that is straight over it: ds/dt = −r(s), r straight from one end to the other.
 * Then s is s0 − r0·(1 − e^(−m·t))/m after t, with m = dr/ds, and comes to an end after ln(r0/r end)/m. Elementary.
 */
export class Straight {
  /** the end it moves towards, and [s] until it is there; Infinity where it never is */
  goal = 0;
  seconds = 0;
  /** where it is after so long, and which share of that time, weighed by how near it was, counts for the higher end */
  to = 0;
  weight = 0;
  private soc = 0;
  private low = 0;
  private width = 1;
  /** [1/s] where it begins, and how much it rises over the charge */
  private rate = 0;
  private m = 0;

  /** Begin. @param soc where @param lowRate, highRate [1/s] at both ends, positive where it falls */
  from(soc: number, low: number, lowRate: number, high: number, highRate: number): this {
    this.soc = soc;
    this.low = low;
    this.width = high - low;
    this.m = (highRate - lowRate) / this.width;
    const rate = (this.rate = lowRate + this.m * (soc - low));
    this.goal = rate > 0 ? low : high;
    this.seconds = timeTo(rate, rate > 0 ? lowRate : highRate, soc - this.goal);
    return this;
  }

  /** Go on for so long. [s] */
  after(t: number): this {
    const { soc, low, width, rate, m } = this;
    const x = m * t;
    const series = Math.abs(x) < SERIES;
    // (1 − e^−x)/x and (e^−x − 1 + x)/x²
    const gone = series ? 0 : -Math.expm1(-x);
    const one = series ? 1 - x / 2 + (x * x) / 6 : gone / x;
    const two = series ? 0.5 - x / 6 + (x * x) / 24 : (x - gone) / (x * x);
    this.to = soc - rate * t * one;
    this.weight = (soc - rate * t * two - low) / width;
    return this;
  }

  /** [s] in which it moves by so much of the charge, at the rate it begins with. */
  by(share: number): number {
    return share / Math.abs(this.rate);
  }
}

/** [s] over a distance in which the rate goes straight from one to another of its sign. */
export function timeTo(rate: number, end: number, distance: number): number {
  if (distance === 0) return 0;
  if (!(rate * end > 0)) return Infinity;
  const r = end / rate - 1;
  // ln(1 + r)/r of the time at the first rate
  return (distance / rate) * (Math.abs(r) < SERIES ? 1 - r / 2 + (r * r) / 3 : Math.log1p(r) / r);
}
