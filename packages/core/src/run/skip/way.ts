import { STANDS, type SettledCycle } from './cycleProbe.ts';

/** From the settled cycle at one charge to that at another, and how far the branches are from them on the way. */
export class Way {
  /** [V] by which each branch stays behind its settled volts while those move */
  readonly lag: Float64Array;

  /** @param off [V] of the branches from the settled ones at the beginning @param count cycles from here to ahead */
  constructor(
    readonly here: SettledCycle,
    readonly ahead: SettledCycle,
    private readonly off: Float64Array,
    readonly count: number,
  ) {
    this.lag = here.slow.map((v, k) => {
      const stays = (here.decay[k]! + ahead.decay[k]!) / 2;
      return (ahead.slow[k]! - v) / count / (1 - stays);
    });
  }

  /** Share of the charge a cycle takes, straight between both ends. */
  took(x: number): number {
    return this.here.took + x * (this.ahead.took - this.here.took);
  }

  /** Share of the cycles after which a share of the charge has gone: t0·x + (t1 − t0)·x²/2 of their mean. Elementary. */
  after(charge: number): number {
    if (Math.abs(this.here.took) <= STANDS) return charge;
    const r = this.ahead.took / this.here.took - 1;
    if (Math.abs(r) < 1e-9) return charge;
    return (Math.sqrt(1 + 2 * r * charge * (1 + r / 2)) - 1) / r;
  }

  settled(x: number): Float64Array {
    return this.here.slow.map((v, k) => v + x * (this.ahead.slow[k]! - v));
  }

  /**
   * Branches at a share of the way, where the settled cycle there is known. Their distance from it falls by the decay of
   * a cycle and grows by what the settled volts move in one: δ ← d·δ − b, so δ + b/(1 − d) falls geometrically. Elementary.
   */
  slow(x: number, { slow, decay }: Pick<SettledCycle, 'slow' | 'decay'>): Float64Array {
    return slow.map((v, k) => {
      const lag = this.lag[k]!;
      return v + (this.off[k]! + lag) * decay[k]! ** (x * this.count) - lag;
    });
  }
}
