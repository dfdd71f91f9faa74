import { floatsOf } from '../numeric/floats.ts';
import { loadAmps } from '../loads/current.ts';
import { drawsIn, type Draws } from '../loads/draws.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { DRAWS } from '../model/draw.ts';
import type { Load } from '../model/load.ts';
import { PACK } from '../model/thread.ts';
import { drawnThrough, passFilter, voltsBehind } from '../stages/filter.ts';
import { limitsOf, type Limits } from '../stages/limits.ts';
import { MODE } from '../stages/modes.ts';
import { RECTIFIER, StagePoint, type StagePlant } from '../stages/point.ts';
import { compileStage, offDraw } from '../stages/traits.ts';
import { Joint, type Joined } from './joint.ts';

/** Why a stage is held off; `on` means it works. The simulation sets it, an operating point never does. */
export const HELD = { on: 0, lockedOut: 1, overInput: 2, collapsed: 3 } as const;
const HELD_MODE = [0, MODE.lockedOut, MODE.overInput, MODE.collapsed];

/** Cost of a demand of what hangs on a stage with parts, beside that of stated losses: a period with its losses. */
const PARTS_COST = 5;

/** Reads off a rail's table that cost about as much as one demand worked out. */
const READS = 4;

/** Searches of a rail after which its demand is tabulated rather than worked out again each time. */
const SEARCHED = 40;

/** Relative distance to either side of a jump at which a rail is settled. */
const BESIDE = 1e-9;

/** Whether two currents are one but for rounding and the tables' errors. */
function alike(a: number, b: number): boolean {
  return Math.abs(a - b) <= 1e-7 * Math.max(Math.abs(a), Math.abs(b)) + 1e-15;
}

/** Relative room in comparisons with limits that equal a set point: a 9 V rail is in range from 9 V on. */
export const SLACK = 1e-9;

/** [V] between which each stage's input, and each load, is within its limits. */
interface Bounds {
  least: Float64Array;
  most: Float64Array;
  lows: Float64Array;
  highs: Float64Array;
  /** [V] from which on a stage that is locked out starts again */
  release: Float64Array;
}

/** A rail's demand as a table; what `demand` asks where a rail is searched again and again. */
export interface RailTable {
  /** [A] */
  demand(volts: number): number;
}

/** Who hangs on each rail, by the rail each hangs on. */
function membersOf(rails: Int32Array, count: number): Int32Array[] {
  const lists = Array.from({ length: count }, () => [] as number[]);
  rails.forEach((rail, k) => lists[rail]!.push(k));
  return lists.map((list) => new Int32Array(list));
}

/**
 * What a run may cost, or whatever else is asked of a network, in demands; sound designs need a few thousand. A quarter of a
 * second, a whole one where each costs most.
 */
export const EFFORT = 200_000;

/**
 * The discharge side at one instant, exactly: stages and loads resolved to indices, each rail a list. Rail 0 is the
 * pack's, rail k + 1 the output of stage k.
 *
 * `demand` says what a rail draws at a voltage; `settle` puts every stage and load below a rail where it then stands.
 */
export class Network {
  readonly count: number;
  /** of each stage, the strictest stated anywhere */
  readonly limits: readonly Limits[];
  /** [V] the same for each stage's input and each load, with room for limits that equal a set point */
  readonly bounds: Bounds;
  /** rail each stage and each load hangs on */
  readonly stageRail: Int32Array;
  readonly loadRail: Int32Array;
  /** where each stage stands since the last `settle` */
  readonly points: readonly StagePoint[];
  /** [V] [A] of each load since then */
  readonly loadVolts: Float64Array;
  readonly loadAmps: Float64Array;
  /** why each stage is held off */
  readonly held: Uint8Array;
  /** demands of rails worked out so far, those behind parts counted fivefold, those off a table a quarter: by what they cost */
  work = 0;
  /** work after which nothing is searched any more: what is left counts as collapsed, and `spent` says so */
  allowed = EFFORT;
  spent = false;
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
  private readonly railStages: readonly Int32Array[];
  private readonly railLoads: readonly Int32Array[];
  /** of a demand of each rail */
  private readonly cost: Uint8Array;
  /** the same as it is now: none where a table says it, which counts its reads */
  private readonly price: Uint8Array;
  private reads = 0;
  /** the searches' own points: those in `points` stay as settled */
  private readonly tried: readonly StagePoint[];
  private readonly asked: readonly ((volts: number) => number)[];
  /** the same behind the filters, whose resistances [Ω] these are */
  private readonly bare: readonly ((volts: number) => number)[];
  private readonly filters: Float64Array;
  /** rails worth a table: those with a stage on them */
  private readonly complex: readonly boolean[];
  /** [V] each rail was last asked at, and [A] what that gave: a regulated rail is asked the same again and again */
  private readonly railAt: Float64Array;
  private readonly railSum: Float64Array;
  /** [V] each rail was last settled at, and [A] what that gave */
  private readonly settledAt: Float64Array;
  private readonly settledSum: Float64Array;
  /** times a rail was worked out since something changed, and its table from then on */
  private readonly searched: Uint32Array;
  private readonly tables: (RailTable | undefined)[];
  /** where an adapter meets the battery, if anywhere */
  readonly joint: Joint | undefined;

  /** @param tabulate makes a table of an inner rail; without it every demand is worked out */
  constructor(
    readonly stages: readonly Stage[],
    readonly loads: readonly Load[],
    air: number,
    private readonly tabulate?: (network: Network, rail: number) => RailTable,
    joined?: Joined,
  ) {
    const n = stages.length;
    this.count = n;
    this.limits = stages.map(limitsOf);
    this.bounds = {
      least: floatsOf(this.limits, (l) => l.minInput),
      most: floatsOf(this.limits, (l) => l.maxInput * (1 + SLACK)),
      release: floatsOf(stages, (s, k) =>
        isRegulated(s) ? this.limits[k]!.minInput + s.hysteresis : Infinity,
      ),
      lows: floatsOf(loads, (l) => l.range.min * (1 - SLACK)),
      highs: floatsOf(loads, (l) => l.range.max * (1 + SLACK)),
    };
    const places = new Map([[PACK as string, 0], ...stages.map((s, k): [string, number] => [s.id, k + 1])]);
    const rail = joined && (places.get(joined.at) ?? 0);
    this.joint = joined && new Joint(rail!, joined.adapter, joined.battery, joined.letsGo);
    this.stageRail = Int32Array.from(stages, (s) => places.get(s.from)!);
    this.loadRail = Int32Array.from(loads, (l) => places.get(l.from)!);
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
    this.cost = Uint8Array.from([1, ...stages.map((s) => ('parts' in s && s.parts?.used ? PARTS_COST : 1))]);
    this.price = this.cost.slice();
    const rails = Array.from({ length: n + 1 }, (_, r) => r);
    this.railStages = membersOf(this.stageRail, n + 1);
    this.railLoads = membersOf(this.loadRail, n + 1);
    this.asked = rails.map((r) => (v: number) => this.demand(r, v));
    this.bare = rails.map((r) => (v: number) => this.own(r, v));
    this.filters = Float64Array.from([0, ...this.plants.map((p) => p.filter)]);
    this.complex = rails.map((r) => r > 0 && this.railStages[r]!.length > 0);
    this.railAt = new Float64Array(n + 1);
    this.railSum = new Float64Array(n + 1);
    this.settledAt = new Float64Array(n + 1);
    this.settledSum = new Float64Array(n + 1);
    this.searched = new Uint32Array(n + 1);
    this.tables = new Array<RailTable | undefined>(n + 1);
    this.putToSleep();
    this.forget();
  }

  /** Count what something else has cost. @returns whether there is more to spend */
  spend(cost: number): boolean {
    if ((this.work += cost) > this.allowed) this.spent = true;
    return !this.spent;
  }

  /**
   * [A] a rail draws when what feeds it stands at `volts`, its filter included, whatever it takes to find out.
   */
  demand(rail: number, volts: number): number {
    if (this.railAt[rail] === volts) return this.railSum[rail]!;
    if (!this.spend(this.price[rail]!)) return 0;
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
      at = this.stageRail[at - 1]!;
      this.tables[at] = undefined;
      this.searched[at] = 0;
      this.price[at] = this.cost[at]!;
    }
  }

  /** What hangs on a rail is about to move by itself: nothing above stands as it was settled. */
  private disturb(rail: number): void {
    for (let at = rail; at > 0;) {
      at = this.stageRail[at - 1]!;
      this.settledAt[at] = NaN;
    }
  }

  private settleAll(rail: number, volts: number): number {
    // Below a stage that regulates, all stands where it stood.
    if (this.settledAt[rail] === volts) return this.settledSum[rail]!;
    let sum = 0;
    const loads = this.railLoads[rail]!;
    for (let n = 0; n < loads.length; n++) {
      const l = loads[n]!;
      const amps = this.factors[l]! * loadAmps(this.laws[l]!, this.values[l]!, this.slopes[l]!, volts);
      this.loadVolts[l] = volts;
      this.loadAmps[l] = amps;
      sum += amps;
    }
    const stages = this.railStages[rail]!;
    for (let n = 0; n < stages.length; n++) sum += this.put(stages[n]!, volts).inputAmps;
    this.settledAt[rail] = this.spent ? NaN : volts;
    return (this.settledSum[rail] = sum);
  }

  /**
   * Settle a rail where the stage that feeds it has been found. At a jump of the rail's demand either side may answer
   * there: it is put on the side that the stage was solved for, so that what goes in comes out.
   */
  private settleBelow(rail: number, { outputVolts, outputAmps }: StagePoint): void {
    // Once all is spent nothing fits, and every rail below would be tried three times for each above it.
    if (alike(this.settleAll(rail, outputVolts), outputAmps) || this.spent) return;
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
    this.loadRail.forEach((at, l) => {
      if (this.isOff(l)) return;
      for (let rail = at; rail > 0; rail = this.stageRail[rail - 1]!) this.sleeps[rail - 1] = 0;
    });
  }

  /** Whether a load is switched off. */
  isOff(load: number): boolean {
    return this.factors[load] === 0;
  }

  /** [V] inputs at which what hangs on a rail bends: hints, may be incomplete. Rising, none twice. */
  bends(rail: number): number[] {
    const found: number[] = [];
    this.findBends(rail, found);
    found.sort((a, b) => a - b);
    return found.filter((v, k) => v !== found[k - 1]);
  }

  private findBends(rail: number, found: number[]): void {
    const note = (v: number) => {
      if (v > 0 && v < Infinity) found.push(v);
    };
    for (const l of this.railLoads[rail]!) {
      const { min, max } = this.loads[l]!.range;
      note(min);
      note(max);
      // The knee of a string.
      if (DRAWS[this.draws.laws[l]!] === 'string') note(this.draws.values[l]!);
    }
    for (const k of this.railStages[rail]!) {
      const stage = this.stages[k]!;
      const { minInput, maxInput } = this.limits[k]!;
      if (this.held[k] === HELD.lockedOut) note(this.bounds.release[k]!);
      if (this.held[k] !== HELD.on) continue;
      note(minInput);
      note(maxInput);
      if (isRegulated(stage)) {
        this.plants[k]!.bends(this.demand(k + 1, stage.outputVolts)).forEach(note);
      } else if ('resistance' in stage && stage.resistance === 0) this.findBends(k + 1, found);
    }
  }

  private forget(): void {
    this.railAt.fill(NaN);
    this.settledAt.fill(NaN);
    this.searched.fill(0);
    this.tables.fill(undefined);
    this.price.set(this.cost);
  }

  /** [A] what hangs on a rail draws at its own volts: worked out, or by its table once that is asked for often. */
  private own(rail: number, volts: number): number {
    if (volts > 0 && this.complex[rail] && this.tabulate && ++this.searched[rail]! > SEARCHED) {
      let table = this.tables[rail];
      if (!table) {
        table = this.tables[rail] = this.tabulate(this, rail);
        // Behind a filter one demand is many looks at the table.
        if (this.filters[rail] === 0) this.price[rail] = 0;
      }
      if (++this.reads % READS === 0) this.work++;
      return table.demand(volts);
    }
    return this.draw(rail, volts);
  }

  private draw(rail: number, volts: number): number {
    const loads = this.railLoads[rail]!;
    const stages = this.railStages[rail]!;
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
