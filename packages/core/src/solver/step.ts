import { LOOK } from '../plant/cellTable.ts';
import type { Plant } from '../plant/compile.ts';
import { A12, A21, C1, C2, cubic, D, weigh, WEIGHTS } from './gauss.ts';
import { Instant } from './instant.ts';
import { drainRate, type CellState } from './state.ts';

/** Newton sweeps over both nodes before a step is given up; three are the rule. */
const SWEEPS = 14;
/** Relative tolerance of the nodes' volts: the ledger closes about as well. */
const NODE = 2e-10;
/** The same for the end of a step. */
const END = 1e-9;
/** Share of the charge in a step from which its OCV is lifted: below, the two nodes are exact and a difference is noise. */
const LIFTED = 1e-6;
/** Bounds of the Newton matrix beyond which the nose is near. */
const FLAT = -1e-2;
const SINGULAR = 1e-4;
/** Times the last step beyond which its course says nothing about the next. */
const REACH = 6;

/** One of a step's two nodes. Branch volts in `branches`. */
export interface Node {
  /** [V] where the path begins, [A] one cell, state of charge */
  volts: number;
  amps: number;
  soc: number;
  /** [V] OCV that counts there: its own, moved so that the step's mean is exact */
  ocv: number;
  /** curves of the cell there, see LOOK */
  looked: Float64Array;
  branches: Float64Array;
  /** columns of the path there, once they are read */
  columns: Float64Array;
}

/**
 * One step of the cells before their path, by two-stage Gauss collocation.
 *
 * The RC branches are solved exactly for a current that is straight over the step, so that fast ones do not limit it;
 * what a time constant that moves adds is carried from sweep to sweep. Both nodes' volts are found together by Newton
 * on the 2 × 2 system. The OCV at the nodes is moved by one amount so that what it gives is exactly its integral over
 * the charge that leaves: the ledger then closes to the nodes' tolerance whatever the step.
 */
export class Step {
  /** [s] of the step solved last */
  h = 0;
  readonly nodes: readonly [Node, Node];
  /** at its end */
  readonly end: { volts: number; amps: number; soc: number; ocv: number; branches: Float64Array };
  /** [V] [A] at its start */
  startVolts = 0;
  startAmps = 0;
  readonly instant: Instant;
  sweeps = 0;
  private readonly nb: number;
  private readonly middle: Float64Array;
  /** time constant of each branch at mid-step; what its movement adds to the current at each node */
  private readonly tau: Float64Array;
  private readonly drift: [Float64Array, Float64Array];
  private readonly w: Float64Array;
  /** the step accepted last, for the guess of the next: volts and amps at start, nodes and end */
  private readonly pastVolts = new Float64Array(4);
  private readonly pastAmps = new Float64Array(4);
  private pastLength = 0;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
  ) {
    const nb = (this.nb = plant.pack.cell.branches);
    const node = (): Node => ({
      volts: 0,
      amps: 0,
      soc: 0,
      ocv: 0,
      looked: new Float64Array(3 + 2 * nb),
      branches: new Float64Array(nb),
      columns: new Float64Array(plant.path.columns.length),
    });
    this.nodes = [node(), node()];
    this.end = { volts: 0, amps: 0, soc: 0, ocv: 0, branches: new Float64Array(nb) };
    this.instant = new Instant(plant);
    this.middle = new Float64Array(3 + 2 * nb);
    this.tau = new Float64Array(nb);
    this.drift = [new Float64Array(nb), new Float64Array(nb)];
    this.w = new Float64Array(WEIGHTS * nb);
  }

  /** Something jumped: the last step says nothing about the next. */
  forget(): void {
    this.pastLength = 0;
  }

  /** Whether the last step's course was used for a guess. */
  get guesses(): boolean {
    return this.pastLength > 0;
  }

  /** The step solved last becomes the present; the state moves to its end. */
  accept(): void {
    const { state, end, nodes, pastVolts, pastAmps } = this;
    pastVolts[0] = this.startVolts;
    pastVolts[1] = nodes[0].volts;
    pastVolts[2] = nodes[1].volts;
    pastVolts[3] = end.volts;
    pastAmps[0] = this.startAmps;
    pastAmps[1] = nodes[0].amps;
    pastAmps[2] = nodes[1].amps;
    pastAmps[3] = end.amps;
    this.pastLength = this.h;
    state.time += this.h;
    state.soc = end.soc;
    state.volts = end.volts;
    state.amps = end.amps;
    state.branches.set(end.branches);
  }

  /** [V] at a share of the step solved last. */
  voltsAt(x: number): number {
    return cubic(this.startVolts, this.nodes[0].volts, this.nodes[1].volts, this.end.volts, x);
  }

  /** State of charge there: Hermite, whose slopes are known. */
  socAt(x: number): number {
    const { state, end, h } = this;
    const { pack } = this.plant;
    const m0 = -h * drainRate(pack, this.startAmps, state.soc);
    const m1 = -h * drainRate(pack, end.amps, end.soc);
    const ds = end.soc - state.soc;
    return state.soc + x * (m0 + x * (3 * ds - 2 * m0 - m1 + x * (m0 + m1 - 2 * ds)));
  }

  /** Solve a step of h seconds from the present state, which stays as it is. @returns false where none was met */
  solve(h: number): boolean {
    this.h = h;
    this.startVolts = this.state.volts;
    this.startAmps = this.state.amps;
    const predicted = this.guess(h);
    this.weighBranches(h);
    if (!this.meetNodes(h)) return false;
    return this.meetEnd(h, predicted);
  }

  /** Volts and amps of the nodes from the course of the last step. @returns [V] guessed of the second node and the end */
  private guess(h: number): { second: number; end: number } | undefined {
    const { pastVolts: pv, pastAmps: pa, nodes, state } = this;
    const r = h / this.pastLength;
    const [one, two] = nodes;
    if (r < REACH) {
      const at = (p: Float64Array, x: number) => cubic(p[0]!, p[1]!, p[2]!, p[3]!, 1 + x * r);
      one.amps = at(pa, C1);
      two.amps = at(pa, C2);
      const sane = (i: number) => i > 0.5 * state.amps && i < 2 * state.amps;
      if (sane(one.amps) && sane(two.amps)) {
        one.volts = at(pv, C1);
        two.volts = at(pv, C2);
        return { second: two.volts, end: at(pv, 1) };
      }
    }
    one.amps = two.amps = state.amps;
    one.volts = two.volts = state.volts;
    return undefined;
  }

  /** Weights of the branches: v(c·h) = v0·e + p1·R1·i1 + p2·R2·i2 for a straight current. */
  private weighBranches(h: number): void {
    const { nodes, state, middle, nb, tau, w } = this;
    const { cell, charge } = this.plant.pack;
    cell.look(state.soc - (h * (nodes[0].amps + nodes[1].amps)) / (4 * charge), middle);
    for (let k = 0; k < nb; k++) {
      tau[k] = middle[LOOK.branches + k]! * middle[LOOK.branches + nb + k]!;
      weigh(w, WEIGHTS * k, h, tau[k]!);
      nodes[0].branches[k] = nodes[1].branches[k] = state.branches[k]!;
      this.drift[0][k] = this.drift[1][k] = 0;
    }
    nodes[0].soc = nodes[1].soc = state.soc;
  }

  private meetNodes(h: number): boolean {
    const { nb, nodes, state, tau, w, plant } = this;
    const {
      series: S,
      parallel: P,
      charge: Q,
      quiescent: Iq,
      seriesOhms: Rs,
      cell,
      selfDischarge,
    } = plant.pack;
    const { path } = plant;
    const [n1, n2] = nodes;
    const [x1, x2] = this.drift;
    const L1 = n1.looked;
    const L2 = n2.looked;
    const area0 = cell.area(state.soc);
    const small = NODE * state.volts;
    const q = h / Q;
    let V1 = n1.volts;
    let V2 = n2.volts;
    for (let n = 0; n < SWEEPS; n++) {
      this.sweeps++;
      // Both nodes' demand, then what the cells give at these currents, then Newton on both volts together.
      path.evaluate(V1);
      const I1 = path.amps;
      const g1 = path.slope / P;
      path.evaluate(V2);
      const I2 = path.amps;
      const g2 = path.slope / P;
      const i1 = (I1 + Iq) / P;
      const i2 = (I2 + Iq) / P;
      const d1 = i1 / Q + selfDischarge * n1.soc;
      const d2 = i2 / Q + selfDischarge * n2.soc;
      const s1 = state.soc - h * (0.25 * d1 + A12 * d2);
      const s2 = state.soc - h * (A21 * d1 + 0.25 * d2);
      cell.look(s1, L1);
      cell.look(s2, L2);
      const used = 0.5 * h * (d1 + d2);
      const lift =
        used > LIFTED
          ? (area0 - cell.area(state.soc - used)) / used -
            (d1 * L1[LOOK.ocv]! + d2 * L2[LOOK.ocv]!) / (d1 + d2)
          : 0;
      const e1 = L1[LOOK.slope]! * q;
      const e2 = L2[LOOK.slope]! * q;
      let drop1 = L1[LOOK.r0]! * i1;
      let drop2 = L2[LOOK.r0]! * i2;
      // [Ω] how each node's volts answer to both currents
      let b11 = L1[LOOK.r0]! + 0.25 * e1;
      let b12 = A12 * e1;
      let b21 = A21 * e2;
      let b22 = L2[LOOK.r0]! + 0.25 * e2;
      let moved = Math.abs(s1 - n1.soc) * L1[LOOK.slope]! * selfDischarge * h;
      for (let k = 0; k < nb; k++) {
        const o = WEIGHTS * k;
        const r1 = L1[LOOK.branches + k]!;
        const r2 = L2[LOOK.branches + k]!;
        const p11 = w[o + 3]! * r1;
        const p12 = w[o + 4]! * r2;
        const p21 = w[o + 5]! * r1;
        const p22 = w[o + 6]! * r2;
        // What a time constant that moves within the step adds to the current's pull, from the sweep before.
        const t1 = r1 * L1[LOOK.branches + nb + k]!;
        const t2 = r2 * L2[LOOK.branches + nb + k]!;
        const off1 = t1 > 0 ? tau[k]! / t1 - 1 : 0;
        const off2 = t2 > 0 ? tau[k]! / t2 - 1 : 0;
        const y1 = (r1 * i1 - n1.branches[k]!) * off1;
        const y2 = (r2 * i2 - n2.branches[k]!) * off2;
        x1[k] = y1;
        x2[k] = y2;
        const v0 = state.branches[k]!;
        const now1 = v0 * w[o]! + p11 * i1 + p12 * i2 + w[o + 3]! * y1 + w[o + 4]! * y2;
        const now2 = v0 * w[o + 1]! + p21 * i1 + p22 * i2 + w[o + 5]! * y1 + w[o + 6]! * y2;
        // Only what the next sweep would still move by.
        moved += Math.abs((now1 - n1.branches[k]!) * off1) + Math.abs((now2 - n2.branches[k]!) * off2);
        n1.branches[k] = now1;
        n2.branches[k] = now2;
        drop1 += now1;
        drop2 += now2;
        b11 += p11;
        b12 += p12;
        b21 += p21;
        b22 += p22;
      }
      n1.amps = i1;
      n2.amps = i2;
      n1.soc = s1;
      n2.soc = s2;
      n1.ocv = L1[LOOK.ocv]! + lift;
      n2.ocv = L2[LOOK.ocv]! + lift;
      n1.volts = V1;
      n2.volts = V2;
      const f1 = S * (n1.ocv - drop1) - Rs * I1 - V1;
      const f2 = S * (n2.ocv - drop2) - Rs * I2 - V2;
      if (Math.abs(f1) <= small && Math.abs(f2) <= small && S * moved <= 10 * small) return true;
      const d11 = -(S * b11 + Rs * P) * g1 - 1;
      const d12 = -S * b12 * g2;
      const d21 = -S * b21 * g1;
      const d22 = -(S * b22 + Rs * P) * g2 - 1;
      const det = d11 * d22 - d12 * d21;
      if (!(d11 < FLAT && d22 < FLAT && det > SINGULAR)) return false;
      V1 -= (f1 * d22 - f2 * d12) / det;
      V2 -= (f2 * d11 - f1 * d21) / det;
      if (!(V1 > 0 && V2 > 0)) return false;
    }
    return false;
  }

  private meetEnd(h: number, predicted: { second: number; end: number } | undefined): boolean {
    const { nb, nodes, state, w, plant, end, instant } = this;
    const [n1, n2] = nodes;
    const { charge, selfDischarge, quiescent, parallel } = plant.pack;
    end.soc = state.soc - (h / 2) * ((n1.amps + n2.amps) / charge + selfDischarge * (n1.soc + n2.soc));
    for (let k = 0; k < nb; k++) {
      const o = WEIGHTS * k;
      end.branches[k] =
        state.branches[k]! * w[o + 2]! +
        w[o + 7]! * (n1.looked[LOOK.branches + k]! * n1.amps + this.drift[0][k]!) +
        w[o + 8]! * (n2.looked[LOOK.branches + k]! * n2.amps + this.drift[1][k]!);
    }
    const near = predicted
      ? predicted.end + (n2.volts - predicted.second) / C2
      : n2.volts + ((n2.volts - n1.volts) * (1 - C2)) / D;
    instant.prepare(end.soc, end.branches);
    end.volts = instant.newton(near, END);
    if (Number.isNaN(end.volts)) return false;
    end.amps = (plant.path.amps + quiescent) / parallel;
    end.ocv = instant.ocv;
    return true;
  }

  /**
   * A step by the present current alone, where none could be met: the nodes stand at the state. Its end is not solved.
   * @param h [s] very short
   */
  creep(h: number): void {
    const { nodes, state, end, nb, w, plant } = this;
    this.h = h;
    this.startVolts = state.volts;
    this.startAmps = state.amps;
    for (const node of nodes) {
      node.volts = state.volts;
      node.amps = state.amps;
      node.soc = state.soc;
      plant.pack.cell.look(state.soc, node.looked);
      node.ocv = node.looked[LOOK.ocv]!;
      node.branches.set(state.branches);
    }
    const { looked } = nodes[0];
    for (let k = 0; k < nb; k++) {
      const ohms = looked[LOOK.branches + k]!;
      weigh(w, WEIGHTS * k, h, ohms * looked[LOOK.branches + nb + k]!);
      const o = WEIGHTS * k;
      end.branches[k] = state.branches[k]! * w[o + 2]! + (w[o + 7]! + w[o + 8]!) * ohms * state.amps;
    }
    end.soc = state.soc - h * (state.amps / plant.pack.charge + plant.pack.selfDischarge * state.soc);
  }
}
