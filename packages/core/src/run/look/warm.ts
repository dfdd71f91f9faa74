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

  constructor(private readonly warmth: Warmth | undefined) {}

  /** Whoever else carried them has left them at so many kelvin. */
  take(kelvin: number): void {
    if (!this.warmth || kelvin === this.kelvin) return;
    this.now = kelvin;
    this.settle();
  }

  /** They follow for so long. [s] @param air [K] above what the thread states @param rise [K] that they would come to stand above it */
  follow(seconds: number, air: number, rise: number): void {
    if (!this.warmth) return;
    const drive = air + rise;
    this.now = drive + (this.now - drive) * Math.exp(-seconds / this.warmth.tau);
  }

  /** An hour begins: which face is nearest. */
  settle(): void {
    if (!this.warmth) return;
    const wanted = this.now + this.carried;
    this.kelvin = Math.round(wanted);
    this.carried = wanted - this.kelvin;
  }
}
