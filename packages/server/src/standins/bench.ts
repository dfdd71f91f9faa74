import type { ThreadDocument } from '@mile-thread/core/model';
import {
  ChargerStandIn,
  HandsStandIn,
  LoadStandIn,
  MeterStandIn,
  SupplyStandIn,
  type StandIn,
} from './standIn.ts';
import type { Role } from './roles.ts';
import { World } from './world.ts';

/** How a bench of stand-ins is made. */
export interface BenchOptions {
  /** of the hidden truth; the same for the same */
  seed: number;
  /** whether one set point is besides where nobody turned it to */
  faulty?: boolean;
  /** how many times as fast as real time it goes */
  speed?: number;
}

/** A clock that runs at a speed, which may change as it runs. */
export class BenchClock {
  private base = 0;
  private from: number;
  private times: number;

  /** @param real [s] of the clock on the wall */
  constructor(
    private readonly real: () => number,
    speed: number,
  ) {
    this.from = real();
    this.times = speed;
  }

  get speed(): number {
    return this.times;
  }

  set speed(times: number) {
    this.base = this.seconds();
    this.from = this.real();
    this.times = times;
  }

  seconds(): number {
    return this.base + this.times * (this.real() - this.from);
  }
}

/** A bench: one hidden true thread, and everything that touches it. */
export class Bench {
  readonly world: World;
  readonly clock: BenchClock;
  private readonly all: Record<Role, StandIn>;

  /** @param real [s] of the clock on the wall */
  constructor(doc: ThreadDocument, { seed, faulty = false, speed = 1 }: BenchOptions, real: () => number) {
    this.clock = new BenchClock(real, speed);
    this.world = new World(doc, seed, faulty, () => this.clock.seconds());
    this.all = {
      load: new LoadStandIn('load', this.world, seed),
      meter: new MeterStandIn('meter', this.world, seed),
      supply: new SupplyStandIn('supply', this.world, seed),
      charger: new ChargerStandIn('charger', this.world, seed),
      hands: new HandsStandIn(this.world, seed, this.clock),
    };
  }

  /** One line to one of them. @returns its answer; nothing of a command */
  ask(role: Role, line: string): string | undefined {
    return this.all[role].handle(line);
  }

  /** A connection is gone: what it had an output takes it off. */
  left(role: Role): void {
    this.all[role].stop();
  }
}
