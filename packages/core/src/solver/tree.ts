import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import type { Load } from '../model/load.ts';
import { PACK, surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { loadAmps, loadLaw } from '../loads/current.ts';
import { limitsOf, type Limits } from '../stages/limits.ts';
import { deadPoint, emptyPoint, modeIndex, type StagePoint, type StageSolver } from '../stages/point.ts';
import { stageSolver } from '../stages/registry.ts';

/** Why a stage is held off; 0 means it works. The simulation sets it, an operating point never does. */
export const ON = 0;
export const LOCKED_OUT = 1;
export const OVER_INPUT = 2;
export const COLLAPSED = 3;

const HELD_MODE = [0, modeIndex('lockedOut'), modeIndex('overInput'), modeIndex('collapsed')] as const;
const UNFED = modeIndex('unfed');
const COLLAPSED_MODE = modeIndex('collapsed');

/**
 * Stage solves allowed in one evaluation of the tree. A sound design needs tens; stages stacked on stages
 * that are all at their limits multiply their searches. Past this, what is left counts as collapsed, which is
 * what such a chain does.
 */
const MOST_SOLVES = 1500;

/** [A] A stage's own draw with no load, as stated by its model. */
export function ownDraw(stage: Stage): number {
  if (stage.kind === 'direct') return 0;
  return stage.kind === 'linear' ? stage.quiescentCurrent : stage.loss.quiescentCurrent;
}

/**
 * The discharge side as numbers: stages and loads resolved to indices, each rail a list. Evaluating it at
 * a pack voltage leaves every stage's operating point in `points`. Rail 0 is the pack, rail k + 1 the
 * output of stage k.
 */
export class Tree {
  readonly stages: readonly Stage[];
  readonly loads: readonly Load[];
  /** of each stage, the strictest stated anywhere */
  readonly limits: readonly Limits[];
  readonly points: StagePoint[];
  /** [V] at each load, from the last evaluation */
  readonly loadVolts: Float64Array;
  /** [A] of each load, from the last evaluation */
  readonly loadAmps: Float64Array;
  /** why each stage is held off */
  readonly held: Uint8Array;
  /** [A] what the last evaluation returned */
  lastAmps = 0;
  /** factor on every load's current; 1 in use, 0 for the idle draw */
  private scale = 1;
  /** stage solves in the evaluation under way */
  private solves = 0;
  private readonly solvers: StageSolver[];
  private readonly laws: Uint8Array;
  private readonly values: Float64Array;
  private readonly railLoads: Int32Array[];
  private readonly railStages: Int32Array[];
  private readonly rails: ((volts: number) => number)[];
  private readonly offAmps: Float64Array;
  /** [V] each rail was last evaluated at: a regulated rail is asked the same again and again */
  private readonly railAt: Float64Array;
  /** [A] what that gave */
  private readonly railSum: Float64Array;

  constructor(doc: ThreadDocument) {
    this.stages = doc.stages;
    this.loads = doc.loads;
    this.limits = doc.stages.map(limitsOf);
    this.points = doc.stages.map(emptyPoint);
    this.loadVolts = new Float64Array(doc.loads.length);
    this.loadAmps = new Float64Array(doc.loads.length);
    this.held = new Uint8Array(doc.stages.length);
    const air = surroundingsOf(doc).air;
    this.solvers = doc.stages.map((s) => stageSolver(s, air));
    this.laws = Uint8Array.from(doc.loads, (l) => loadLaw(l).law);
    this.values = Float64Array.from(doc.loads, (l) => loadLaw(l).value);
    this.offAmps = Float64Array.from(doc.stages, (s) =>
      isRegulated(s) ? (s.shutdownCurrent ?? ownDraw(s)) : 0,
    );
    this.railAt = new Float64Array(doc.stages.length + 1).fill(NaN);
    this.railSum = new Float64Array(doc.stages.length + 1);
    const at = (from: string) => (from === PACK ? 0 : doc.stages.findIndex((s) => s.id === from) + 1);
    const count = doc.stages.length + 1;
    const members = (list: readonly { from: string }[], rail: number) =>
      Int32Array.from(list.flatMap((x, k) => (at(x.from) === rail ? [k] : [])));
    this.railLoads = Array.from({ length: count }, (_, r) => members(doc.loads, r));
    this.railStages = Array.from({ length: count }, (_, r) => members(doc.stages, r));
    this.rails = Array.from({ length: count }, (_, r) => (v: number) => this.railAmps(r, v));
  }

  /** [A] drawn from the pack at `volts`. */
  amps(volts: number): number {
    this.solves = 0;
    return (this.lastAmps = this.railAmps(0, volts));
  }

  /** Set the factor on every load's current. */
  setLoadScale(scale: number): void {
    this.scale = scale;
    this.forget();
  }

  /** Index of the stage a stage hangs on; -1 for the pack. */
  parent(stage: number): number {
    return this.stages.findIndex((s) => s.id === this.stages[stage]!.from);
  }

  /** Solve one stage and what hangs on it from a stiff supply of `volts`. */
  probe(stage: number, volts: number): StagePoint {
    this.solves = 0;
    this.stageAmps(stage, volts);
    return this.points[stage]!;
  }

  hold(stage: number, why: number): void {
    this.held[stage] = why;
    this.forget();
  }

  private forget(): void {
    this.railAt.fill(NaN);
  }

  private railAmps(rail: number, volts: number): number {
    if (this.railAt[rail] === volts) return this.railSum[rail]!;
    this.railAt[rail] = volts;
    let sum = 0;
    const loads = this.railLoads[rail]!;
    for (let k = 0; k < loads.length; k++) {
      const l = loads[k]!;
      const amps = this.scale * loadAmps(this.laws[l]!, this.values[l]!, volts);
      this.loadVolts[l] = volts;
      this.loadAmps[l] = amps;
      sum += amps;
    }
    const stages = this.railStages[rail]!;
    for (let k = 0; k < stages.length; k++) sum += this.stageAmps(stages[k]!, volts);
    return (this.railSum[rail] = sum);
  }

  private stageAmps(k: number, volts: number): number {
    const out = this.points[k]!;
    const held = this.held[k]!;
    if (!(volts > 0)) deadPoint(out, 0, 0, UNFED);
    else if (held !== ON) deadPoint(out, volts, this.offAmps[k]!, HELD_MODE[held]!);
    else if (++this.solves > MOST_SOLVES) deadPoint(out, volts, this.offAmps[k]!, COLLAPSED_MODE);
    else this.solvers[k]!(volts, this.rails[k + 1]!, out);
    if (out.outputVolts === 0) this.railAmps(k + 1, 0);
    return out.inputAmps;
  }
}
