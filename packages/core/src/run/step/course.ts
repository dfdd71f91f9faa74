import { C1, C2, Cubic } from './gauss.ts';

/** Times the last step beyond which its course says nothing about the next. */
const REACH = 6;

/** Share of the current by which a guess may differ from it. */
const FAR = 0.5;

/** What a step starts from: [A] of one cell and [V] at its nodes, [V] at its end. */
export interface Guess {
  /** [A] [V] at both nodes, [V] at the end */
  amps1: number;
  amps2: number;
  volts1: number;
  volts2: number;
  end: number;
}

/** The course of the step accepted last, continued into the next: where its nodes are looked for first. */
export class Course {
  private readonly volts = new Cubic();
  private readonly amps = new Cubic();
  private readonly guess: Guess = { amps1: 0, amps2: 0, volts1: 0, volts2: 0, end: 0 };
  /** [s] 0: none */
  private length = 0;

  /** Whether there is one. */
  get known(): boolean {
    return this.length > 0;
  }

  forget(): void {
    this.length = 0;
  }

  /** Take up a step of h seconds by its volts at start, nodes and end. */
  take(h: number, y0: number, y1: number, y2: number, y3: number): void {
    this.volts.through(y0, y1, y2, y3);
    this.length = h;
  }

  /** Likewise its amps of one cell. */
  takeAmps(y0: number, y1: number, y2: number, y3: number): void {
    this.amps.through(y0, y1, y2, y3);
  }

  /** Where the next h seconds lead; undefined where that says nothing. @param now [A] of one cell at their start */
  next(h: number, now: number): Guess | undefined {
    const { guess, volts, amps } = this;
    const r = h / this.length;
    if (!(r < REACH)) return undefined;
    guess.amps1 = amps.at(1 + C1 * r);
    guess.amps2 = amps.at(1 + C2 * r);
    const most = FAR * Math.abs(now);
    if (!(Math.abs(guess.amps1 - now) < most && Math.abs(guess.amps2 - now) < most)) return undefined;
    guess.volts1 = volts.at(1 + C1 * r);
    guess.volts2 = volts.at(1 + C2 * r);
    guess.end = volts.at(1 + r);
    return guess;
  }
}
