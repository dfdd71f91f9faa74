/**
 * What a question of several runs may cost all in all, in the unit in which runs count: demands of rails worked out, steps by
 * what they cost over those. Each run takes at most what is left, and says what it has taken.
 */
export class Allowance {
  constructor(public left: number) {}

  /** What a run may cost that is given at most so much by itself. */
  most(own: number): number {
    return Math.min(own, this.left);
  }

  take(cost: number): void {
    this.left -= cost;
  }

  /** Whether nothing is left: what has not been asked so far stays unanswered. */
  get spent(): boolean {
    return !(this.left > 0);
  }

  /** How many more runs there are in it that cost so much each. */
  holds(cost: number): number {
    return Math.max(0, Math.floor(this.left / Math.max(1, cost)));
  }
}
