import { floatsOf } from '../numeric/floats.ts';
import { loadAmps } from '../loads/current.ts';
import { drawsIn, type Draws } from '../loads/draws.ts';
import type { Stage } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import { drawnThrough, passFilter, voltsBehind } from '../stages/filter.ts';
import { MODE } from '../stages/modes.ts';
import { RECTIFIER, StagePoint, type StagePlant } from '../stages/point.ts';
import { compileStage, offDraw } from '../stages/traits.ts';
import { Effort } from './effort.ts';
import { Joint, type Joined } from './joint.ts';
import { railsOf, type Rails } from './rails.ts';
import { RailTables, type RailTable } from './railTables.ts';

/** Why a stage is held off; `on` means it works. The simulation sets it, an operating point never does. */
export const HELD = { on: 0, lockedOut: 1, overInput: 2, collapsed: 3 } as const;
const HELD_MODE = [0, MODE.lockedOut, MODE.overInput, MODE.collapsed];

/** Cost of a demand of what hangs on a stage with parts, beside that of stated losses: a period with its losses. */
const PARTS_COST = 5;

/** Relative distance to either side of a jump at which a rail is settled. */
const BESIDE = 1e-9;

/** Whether two currents are one but for rounding and the tables' errors. */
function alike(a: number, b: number): boolean {
  return Math.abs(a - b) <= 1e-7 * Math.max(Math.abs(a), Math.abs(b)) + 1e-15;
}

/**
 * The discharge side at one instant, exactly: stages and loads resolved to indices, each rail a list. Rail 0 is the
 * pack's, rail k + 1 the output of stage k.
 *
 * `demand` says what a rail draws at a voltage; `settle` puts every stage and load below a rail where it then stands.
 */
export class Network {
  /** who hangs where */
  readonly rails: Rails;
  /** what has been asked of it, and how much may be */
  readonly effort = new Effort();
  /** where each stage stands since the last `settle` */
  readonly points: readonly StagePoint[];
  /** [V] [A] of each load since then */
  readonly loadVolts: Float64Array;
  readonly loadAmps: Float64Array;
  /** why each stage is held off */
  readonly held: Uint8Array;
  /** what each load draws at present, and its parts, which are asked all the time */
  draws: Draws;
  private laws: Uint8Array;
  private values: Float64Array;
  private slopes: Float64Array;
  private factors: Float64Array;
  private readonly plants: readonly StagePlant[];
  private readonly off: Float64Array;
  /** 1 for stages that shut down with their loads, and for those that are now shut down */
  private readonly canSleep: Uint8Array;
  private readonly sleeps: Uint8Array;
  /** rails that are asked again and again; none where every demand is worked out */
  private readonly tables: RailTables | undefined;
  /** what a demand of each rail costs */
  private readonly price: Uint8Array;
  /** the searches' own points: those in `points` stay as settled */
  private readonly tried: readonly StagePoint[];
  private readonly asked: readonly ((volts: number) => number)[];
  /** the same behind the filters, whose resistances [Ω] these are */
  private readonly bare: readonly ((volts: number) => number)[];
  private readonly filters: Float64Array;
  /** [V] each rail was last asked at, and [A] what that gave: a regulated rail is asked the same again and again */
  private readonly railAt: Float64Array;
  private readonly railSum: Float64Array;
  /** [V] each rail was last settled at, and [A] what that gave */
  private readonly settledAt: Float64Array;
  private readonly settledSum: Float64Array;
  /** where an adapter meets the battery, if anywhere */
  readonly joint: Joint | undefined;

  /** @param tabulate makes a table of an inner rail; without it every demand is worked out */
  constructor(
    readonly stages: readonly Stage[],
    readonly loads: readonly Load[],
    air: number,
    tabulate?: (network: Network, rail: number) => RailTable,
    joined?: Joined,
  ) {
    const n = stages.length;
    this.rails = railsOf(stages, loads);
    const { count, named, stagesOn } = this.rails;
    this.joint = joined && new Joint(named(joined.at), joined.adapter, joined.battery, joined.letsGo);
    this.points = stages.map(() => new StagePoint());
    this.tried = stages.map(() => new StagePoint());
    this.loadVolts = new Float64Array(loads.length);
    this.loadAmps = new Float64Array(loads.length);
    this.held = new Uint8Array(n);
    this.draws = drawsIn(loads);
    const { laws, values, slopes, factors } = this.draws;
    this.laws = laws;
    this.values = values;
    this.slopes = slopes;
    this.factors = factors;
    this.plants = stages.map((s) => compileStage(s, air));
    this.off = floatsOf(stages, offDraw);
    this.canSleep = Uint8Array.from(stages, (s) =>
      'shutdownCurrent' in s && s.shutdownCurrent !== undefined ? 1 : 0,
    );
    this.sleeps = new Uint8Array(n);
    const rails = Array.from({ length: count }, (_, r) => r);
    this.asked = rails.map((r) => (v: number) => this.demand(r, v));
    this.bare = rails.map((r) => (v: number) => this.own(r, v));
    this.filters = Float64Array.from([0, ...this.plants.map((p) => p.filter)]);
    // Behind parts a demand is a period with its losses; worth a table are inner rails with a stage on them.
    const cost = Uint8Array.from([1, ...stages.map((s) => ('parts' in s && s.parts?.used ? PARTS_COST : 1))]);
    if (tabulate) {
      const worth = Uint8Array.from(rails, (r) => (r > 0 && stagesOn[r]!.length > 0 ? 1 : 0));
      const filtered = Uint8Array.from(this.filters, (ohms) => (ohms > 0 ? 1 : 0));
      this.tables = new RailTables(cost, worth, filtered, this.effort, (rail) => tabulate(this, rail));
    }
    this.price = this.tables?.price ?? cost;
    this.railAt = new Float64Array(count);
    this.railSum = new Float64Array(count);
    this.settledAt = new Float64Array(count);
    this.settledSum = new Float64Array(count);
    this.putToSleep();
    this.forget();
  }

  /**
   * [A] a rail draws when what feeds it stands at `volts`, its filter included, whatever it takes to find out.
   */
  demand(rail: number, volts: number): number {
    if (this.railAt[rail] === volts) return this.railSum[rail]!;
    if (!this.effort.spend(this.price[rail]!)) return 0;
    const filter = this.filters[rail]!;
    const sum =
      this.joint?.rail === rail
        ? this.joint.solve(volts, this.bare[rail]!)
        : filter > 0 && volts > 0
          ? drawnThrough(volts, filter, this.bare[rail]!)
          : this.own(rail, volts);
    this.railAt[rail] = volts;
    return (this.railSum[rail] = sum);
  }

  /** [V] a rail stands at when what feeds it stands at `volts`; 0 where it collapses behind its filter. */
  behind(rail: number, volts: number): number {
    if (this.joint?.rail === rail) {
      this.joint.solve(volts, this.bare[rail]!);
      return this.joint.volts;
    }
    const filter = this.filters[rail]!;
    if (!(filter > 0 && volts > 0)) return volts;
    const found = voltsBehind(volts, filter, this.bare[rail]!);
    return found > 0 ? found : 0;
  }

  /** Put everything below a rail where it stands at `volts`, behind its filter. @returns [A] drawn */
  settle(rail: number, volts: number): number {
    this.disturb(rail);
    if (rail > 0 || this.joint?.rail !== 0) return this.settleAll(rail, volts);
    const drawn = this.joint.solve(volts, this.bare[0]!);
    this.settleAll(0, this.joint.volts);
    return drawn;
  }

  /** Set what the adapter does at the joint. @param volts [V] of its end @param most [A] it may give */
  feedJoint(volts: number, most: number): void {
    const { joint } = this;
    if (!joint || (joint.adapterVolts === volts && joint.most === most)) return;
    joint.adapterVolts = volts;
    joint.most = most;
    this.railAt.fill(NaN);
    this.settledAt.fill(NaN);
    // What hangs above it draws otherwise.
    for (let at = joint.rail; at > 0;) {
      at = this.rails.ofStage[at - 1]!;
      this.tables?.drop(at);
    }
  }

  /** What hangs on a rail is about to move by itself: nothing above stands as it was settled. */
  private disturb(rail: number): void {
    for (let at = rail; at > 0;) {
      at = this.rails.ofStage[at - 1]!;
      this.settledAt[at] = NaN;
    }
  }

  private settleAll(rail: number, volts: number): number {
    // Below a stage that regulates, all stands where it stood.
    if (this.settledAt[rail] === volts) return this.settledSum[rail]!;
    let sum = 0;
    const loads = this.rails.loadsOn[rail]!;
    for (let n = 0; n < loads.length; n++) {
      const l = loads[n]!;
      const amps = this.factors[l]! * loadAmps(this.laws[l]!, this.values[l]!, this.slopes[l]!, volts);
      this.loadVolts[l] = volts;
      this.loadAmps[l] = amps;
      sum += amps;
    }
    const stages = this.rails.stagesOn[rail]!;
    for (let n = 0; n < stages.length; n++) sum += this.put(stages[n]!, volts).inputAmps;
    this.settledAt[rail] = this.effort.spent ? NaN : volts;
    return (this.settledSum[rail] = sum);
  }

  /**
   * Settle a rail where the stage that feeds it has been found. At a jump of the rail's demand either side may answer
   * there: it is put on the side that the stage was solved for, so that what goes in comes out.
   */
  private settleBelow(rail: number, { outputVolts, outputAmps }: StagePoint): void {
    // Once all is spent nothing fits, and every rail below would be tried three times for each above it.
    if (alike(this.settleAll(rail, outputVolts), outputAmps) || this.effort.spent) return;
    for (const side of [1 - BESIDE, 1 + BESIDE]) {
      if (alike(this.settleAll(rail, side * outputVolts), outputAmps)) return;
    }
  }

  /** Solve one stage at an input of `volts` whatever its rail stands at, and settle what hangs on it. */
  probe(stage: number, volts: number): StagePoint {
    this.disturb(stage + 1);
    return this.put(stage, volts);
  }

  private put(stage: number, volts: number): StagePoint {
    const point = this.points[stage]!;
    this.solve(stage, volts, point);
    if (this.joint?.rail === stage + 1) this.putJoint(point);
    else {
      passFilter(point, this.behind(stage + 1, point.outputVolts));
      this.settleBelow(stage + 1, point);
    }
    return point;
  }

  /** Put the rail of the joint where it stands behind its stage: that may give nothing while the adapter carries. */
  private putJoint(point: StagePoint): void {
    const { joint } = this;
    const { rail } = joint!;
    const own = point.outputVolts;
    joint!.solve(own, this.bare[rail]!);
    if (point.outputAmps > 0) point.loss[RECTIFIER]! += (own - joint!.volts) * point.outputAmps;
    point.outputVolts = joint!.volts;
    this.settleAll(rail, joint!.volts);
  }

  hold(stage: number, why: number): void {
    this.held[stage] = why;
    this.forget();
  }

  setDraws(draws: Draws): void {
    this.draws = draws;
    this.laws = draws.laws;
    this.values = draws.values;
    this.slopes = draws.slopes;
    this.factors = draws.factors;
    this.putToSleep();
    this.forget();
  }

  /** Shut down the stages that do so with their loads, where all of these are off. */
  private putToSleep(): void {
    if (!this.canSleep.some((can) => can === 1)) return;
    this.sleeps.set(this.canSleep);
    this.rails.ofLoad.forEach((at, l) => {
      if (this.isOff(l)) return;
      for (let rail = at; rail > 0; rail = this.rails.ofStage[rail - 1]!) this.sleeps[rail - 1] = 0;
    });
  }

  /** Whether a load is switched off. */
  isOff(load: number): boolean {
    return this.factors[load] === 0;
  }

  /** [V] inputs of a stage at which its formulas change, its output at so many volts. */
  stageBends(stage: number, volts: number): number[] {
    return this.plants[stage]!.bends(this.demand(stage + 1, volts));
  }

  private forget(): void {
    this.railAt.fill(NaN);
    this.settledAt.fill(NaN);
    this.tables?.clear();
  }

  /** [A] what hangs on a rail draws at its own volts: worked out, or by its table once that is asked for often. */
  private own(rail: number, volts: number): number {
    const table = volts > 0 ? this.tables?.asked(rail) : undefined;
    if (table) return table.demand(volts);
    return this.draw(rail, volts);
  }

  private draw(rail: number, volts: number): number {
    const loads = this.rails.loadsOn[rail]!;
    const stages = this.rails.stagesOn[rail]!;
    let sum = 0;
    for (let k = 0; k < loads.length; k++) {
      const l = loads[k]!;
      sum += this.factors[l]! * loadAmps(this.laws[l]!, this.values[l]!, this.slopes[l]!, volts);
    }
    for (let k = 0; k < stages.length; k++) sum += this.solve(stages[k]!, volts, this.tried[stages[k]!]!);
    return sum;
  }

  private solve(k: number, volts: number, out: StagePoint): number {
    const held = this.held[k]!;
    if (!(volts > 0)) out.dead(0, 0, MODE.unfed);
    else if (held !== HELD.on) out.dead(volts, this.off[k]!, HELD_MODE[held]!);
    else if (this.sleeps[k] === 1) out.dead(volts, this.off[k]!, MODE.shutDown);
    else this.plants[k]!.solve(volts, this.asked[k + 1]!, out);
    return out.inputAmps;
  }
}
