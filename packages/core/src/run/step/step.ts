import type { Plant } from '../../plant/compile.ts';
import { Aside } from './aside.ts';
import { Collocation, type StepEnd } from './collocation.ts';
import { Course } from './course.ts';
import { C2, Cubic, D } from './gauss.ts';
import { Instant } from './instant.ts';
import type { Node } from './node.ts';
import { cellAmps, drainRate, type CellState } from './state.ts';

/** Relative tolerance of the volts at the end of a step. */
const END = 1e-9;

/** One step of the cells before their path: guessed by the course of the last, met at both nodes and at its end. */
export class Step {
  readonly instant: Instant;
  /** steps that are not met as others are */
  readonly aside: Aside;
  private readonly met: Collocation;
  private readonly course = new Course();
  /** the step's own course, once it is asked for, and which step's it is */
  private readonly along = { volts: new Cubic(), soc: new Cubic() };
  private denseOf = -1;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
  ) {
    this.met = new Collocation(plant, state);
    this.instant = new Instant(plant);
    this.aside = new Aside(plant, state, this.met, this.instant);
  }

  /** [s] of the step solved last. */
  get h(): number {
    return this.met.h;
  }

  get nodes(): readonly [Node, Node] {
    return this.met.nodes;
  }

  /** At its end. */
  get end(): StepEnd {
    return this.met.end;
  }

  /** [V] [A] at its start. */
  get startVolts(): number {
    return this.met.startVolts;
  }

  get startAmps(): number {
    return this.met.startAmps;
  }

  /** [C] one cell holds in it, as warm as in its middle. */
  get charge(): number {
    return this.met.charge;
  }

  /** Sweeps over both nodes so far. */
  get sweeps(): number {
    return this.met.sweeps;
  }

  /** How much fuller odd cells are at both nodes; undefined where all are alike. */
  get fuller(): { first: number; second: number } | undefined {
    return this.met.sharing;
  }

  /** [F] of each branch in the middle of the step solved last. */
  get capacitances(): Float64Array {
    return this.met.branches.capacitances;
  }

  /** Something jumped: the last step says nothing about the next. */
  forget(): void {
    this.course.forget();
  }

  /** Whether the last step's course was used for a guess. */
  get guesses(): boolean {
    return this.course.known;
  }

  /** The step solved last becomes the present; the state moves to its end. */
  accept(): void {
    const { state, course, met } = this;
    const { end, startVolts, startAmps } = met;
    const [one, two] = met.nodes;
    course.take(met.h, startVolts, one.volts, two.volts, end.volts);
    course.takeAmps(startAmps, one.amps, two.amps, end.amps);
    state.time += met.h;
    state.soc = end.soc;
    state.volts = end.volts;
    state.amps = end.amps;
    state.slow.set(end.slow);
    state.charge = met.charge;
  }

  /** [V] and state of charge by the share of the step solved last. */
  get dense(): { readonly volts: Cubic; readonly soc: Cubic } {
    if (this.denseOf !== this.met.begun) this.densify();
    return this.along;
  }

  /** The step's own course: volts through all that is solved, charge by its slopes at both ends, which are known. */
  private densify(): void {
    const { state, along } = this;
    const { nodes, end, h, charge, startVolts, startAmps } = this.met;
    const { pack } = this.plant;
    along.volts.through(startVolts, nodes[0].volts, nodes[1].volts, end.volts);
    const from = -h * drainRate(pack, charge, startAmps, state.soc);
    const to = -h * drainRate(pack, charge, end.amps, end.soc);
    along.soc.hermite(state.soc, end.soc, from, to);
    this.denseOf = this.met.begun;
  }

  /** Solve a step of h seconds from the present state, which stays as it is. @returns false where none was met */
  solve(h: number): boolean {
    const { state, met } = this;
    const [one, two] = met.nodes;
    const guess = this.course.next(h, state.amps);
    one.amps = guess ? guess.amps1 : state.amps;
    two.amps = guess ? guess.amps2 : state.amps;
    one.volts = guess ? guess.volts1 : state.volts;
    two.volts = guess ? guess.volts2 : state.volts;
    met.begin(h, state.amps);
    const second = two.volts;
    if (!met.meet(h)) return false;
    const near = guess
      ? guess.end + (two.volts - second) / C2
      : two.volts + ((two.volts - one.volts) * (1 - C2)) / D;
    return this.meetEnd(h, near);
  }

  private meetEnd(h: number, near: number): boolean {
    const { plant, met, instant } = this;
    const { end } = met;
    met.carry(h);
    instant.prepare(end.soc, end.slow);
    end.volts = instant.newton(near, END);
    if (Number.isNaN(end.volts)) return false;
    end.amps = cellAmps(plant.pack, plant.path.amps);
    end.ocv = instant.ocv;
    end.event = plant.path.event;
    end.bridge = plant.path.piece?.bridge === true;
    return true;
  }
}
