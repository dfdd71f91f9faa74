import type { Warmth } from '../../plant/warmth.ts';

/**
 * How warm the cells are over a look: they follow the air and their own heat, hour by hour; faces are of whole kelvin, in turn above and
 * below what they are, so that it is right on the mean.
 */
export class Warm {
  /** [K] above the air that the thread states, as the present face has it */
  kelvin = 0;
  /** the same as they are */
  private now = 0;
  private carried = 0;
  /** [K] of their own heat, as followed last */
  private rise = 0;

  constructor(private readonly warmth: Warmth | undefined) {}

  /** Whoever else carried them has left them at so many kelvin. @param seconds of the hour that is left @param air see `follow` */
  take(kelvin: number, seconds: number, air: number): void {
    if (!this.warmth || kelvin === this.kelvin) return;
    this.now = kelvin;
    this.settle(seconds, air);
  }

  /** They follow for so long. [s] @param air [K] above what the thread states @param rise [K] that they would come to stand above it */
  follow(seconds: number, air: number, rise: number): void {
    if (!this.warmth) return;
    this.rise = rise;
    const drive = air + rise;
    this.now = drive + (this.now - drive) * Math.exp(-seconds / this.warmth.tau);
  }

  /** An hour begins: which face is nearest to what they will be in it, on the mean. @param seconds of it @param air see `follow` */
  settle(seconds: number, air: number): void {
    if (!this.warmth) return;
    const x = seconds / this.warmth.tau;
    const drive = air + this.rise;
    // ∫ e^(−t/τ) dt over the hour, as a share of it.
    const mean = drive + (this.now - drive) * (x > 0 && x < Infinity ? -Math.expm1(-x) / x : x > 0 ? 0 : 1);
    const wanted = mean + this.carried;
    this.kelvin = Math.round(wanted);
    this.carried = wanted - this.kelvin;
  }
}
