import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import type { Warmth } from '../../plant/warmth.ts';
import { C1, C2, weigh, WEIGHTS } from './gauss.ts';
import { deliveredAt, type Node } from './node.ts';
import { pathAmps, resistanceAt, scaleOhms, type CellState } from './state.ts';

/**
 * Warmth of the cells over one step: exactly for heat that is a parabola over it, as the branches are for their drive.
 * What drives it is where the cells would come to stand, [K] above the air.
 */
export class StepWarmth {
  /** [K] above the air at both nodes */
  first = 0;
  second = 0;
  /** factors on resistances there */
  ohms1 = 1;
  ohms2 = 1;
  private readonly w = new Float64Array(WEIGHTS);
  private from = 0;
  /** [K] of the air above its mean at both nodes */
  private air1 = 0;
  private air2 = 0;
  private g0 = 0;
  private g1 = 0;
  private g2 = 0;

  constructor(
    private readonly plant: Plant,
    private readonly warmth: Warmth,
  ) {}

  /**
   * Begin a step of h seconds from a state, on what has been looked up for its start and its middle.
   * @param amps [A] of one cell as it begins
   * @returns [C] one cell holds in all of it: that of its middle; what it holds more is booked where steps meet
   */
  beginAt(h: number, state: CellState, amps: number, start: Float64Array, middle: Float64Array): number {
    const { pack, path } = this.plant;
    const { branches } = pack.cell;
    const { slow, volts } = state;
    const ohms = resistanceAt(pack, slow);
    scaleOhms(start, branches, ohms);
    scaleOhms(middle, branches, ohms);
    const { daily } = this.warmth;
    const { time } = state;
    const now = daily ? daily.at(time) : 0;
    this.air1 = daily ? daily.at(time + C1 * h) : 0;
    this.air2 = daily ? daily.at(time + C2 * h) : 0;
    const own = this.drive({ amps, volts, looked: start, branches: slow }, path.delivered(volts));
    const half = daily ? daily.at(time + h / 2) : 0;
    return pack.charge * this.begin(h, slow[branches]!, now + own, half + own);
  }

  /** Take up what both nodes lose now. */
  follow(one: Node, two: Node): void {
    const { plant } = this;
    this.solve(
      this.air1 + this.drive(one, deliveredAt(one, plant)),
      this.air2 + this.drive(two, deliveredAt(two, plant)),
    );
  }

  /** [K] above the air where the cells would come to stand by what they and the stages lose. @param delivered [W] */
  drive(
    { amps, volts, looked, branches }: Pick<Node, 'amps' | 'volts' | 'looked' | 'branches'>,
    delivered: number,
  ): number {
    const { pack } = this.plant;
    const { own, around } = this.warmth;
    let heat = amps * amps * looked[LOOK.r0]!;
    for (let k = 0; k < pack.cell.branches; k++) {
      const ohms = looked[LOOK.branches + k]!;
      if (ohms > 0) heat += branches[k]! ** 2 / ohms;
    }
    const into = pathAmps(pack, amps);
    const other = volts * into - delivered + into * into * pack.seriesOhms;
    return own * pack.series * pack.parallel * heat + around * other;
  }

  /**
   * Begin a step of h seconds.
   * @param from [K] at its start @param drive [K] there and @param middle in its middle, as far as it is known
   * @returns the factor on the charge in its middle
   */
  begin(h: number, from: number, drive: number, middle = drive): number {
    const { tau, air, factors } = this.warmth;
    weigh(this.w, 0, h, tau);
    this.from = from;
    this.g0 = drive;
    this.solve(drive, drive);
    return factors.charge.at(air + middle + (from - middle) * Math.exp(-h / 2 / tau));
  }

  /** @param g1, g2 [K] drives at both nodes */
  solve(g1: number, g2: number): void {
    const { w, from, g0, warmth } = this;
    const { air, factors } = warmth;
    this.g1 = g1;
    this.g2 = g2;
    this.first = from * w[0]! + w[3]! * g0 + w[4]! * g1 + w[5]! * g2;
    this.second = from * w[1]! + w[6]! * g0 + w[7]! * g1 + w[8]! * g2;
    this.ohms1 = factors.resistance.at(air + this.first);
    this.ohms2 = factors.resistance.at(air + this.second);
  }

  /** [K] at the end. */
  end(): number {
    const { w, from, g0, g1, g2 } = this;
    return from * w[2]! + w[9]! * g0 + w[10]! * g1 + w[11]! * g2;
  }
}
