/**
 * What a run may cost, or whatever else is asked of a network, in demands; sound designs need a few thousand. A quarter of a
 * second, a whole one where each costs most.
 */
export const EFFORT = 200_000;

/** What has been asked of a network, and how much may be. */
export class Effort {
  /** demands of rails worked out so far, those behind parts counted fivefold, those off a table a quarter: by what they cost */
  work = 0;
  /** work after which nothing is searched any more: what is left counts as collapsed, and `spent` says so */
  allowed = EFFORT;
  spent = false;

  /** Count what something has cost. @returns whether there is more to spend */
  spend(cost: number): boolean {
    if ((this.work += cost) > this.allowed) this.spent = true;
    return !this.spent;
  }

  /** As if nothing had been asked. */
  begin(): void {
    this.work = 0;
    this.spent = false;
    this.allowed = EFFORT;
  }

  /** From here on so much, whatever has been. */
  allow(most: number): void {
    this.allowed = this.work + most;
  }

  /** Something that may cost so much whatever has been spent, which is not held against it. */
  apart<T>(most: number, part: () => T): T {
    const { allowed, spent } = this;
    this.allow(most);
    this.spent = false;
    try {
      return part();
    } finally {
      this.allowed = allowed;
      this.spent = spent;
    }
  }

  /**
   * A figure by the way that may cost at most so much: that it took too long says nothing of what comes after it.
   */
  aside<T>(most: number, part: () => T): T {
    const { allowed } = this;
    this.allowed = Math.min(allowed, this.work + most);
    try {
      return part();
    } finally {
      this.spent = this.work > allowed;
      this.allowed = allowed;
    }
  }
}
