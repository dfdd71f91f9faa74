import { createRandom } from './noise.ts';

/** What an instrument makes of a true value: its own gain, noise, and the last digit it shows. */
export interface Errors {
  /** share within which its gain lies, evenly; and noise, one deviation, as a share */
  accuracy: number;
  noise: number;
  /** counts of a range */
  counts: number;
}

/** [V or A] Ranges that a hand-held meter switches through. */
const RANGES = [1e-4, 1e-3, 1e-2, 1e-1, 1, 10, 100, 1000];

/** A display with errors of its own, the same for the same seed. */
export class Display {
  private readonly gain: number;
  private readonly next: () => number;

  constructor(
    private readonly errors: Errors,
    seed: number,
  ) {
    const random = createRandom(seed);
    this.gain = 1 + errors.accuracy * (2 * random() - 1);
    this.next = random;
  }

  /** What it shows of a true value. */
  show(value: number): number {
    const { noise, counts } = this.errors;
    // Twelve even numbers make a normal one.
    let sum = -6;
    for (let k = 0; k < 12; k++) sum += this.next();
    const read = value * this.gain * (1 + noise * sum);
    const range = RANGES.find((r) => r >= Math.abs(read)) ?? RANGES.at(-1)!;
    const step = range / counts;
    return Number((Math.round(read / step) * step).toPrecision(7));
  }
}
