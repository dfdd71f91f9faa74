import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import { Branches } from './branches.ts';
import { A12, A21 } from './gauss.ts';
import type { Node } from './node.ts';
import {
  areaAt,
  fullerAt,
  lookAt,
  pathAmps,
  resistanceAt,
  scaleOhms,
  slowOf,
  type CellState,
} from './state.ts';
import { StepSharing } from './stepSharing.ts';
import { StepWarmth } from './stepWarmth.ts';

/** Newton sweeps over both nodes before a step is given up; two are the rule. */
const SWEEPS = 14;
/** Relative tolerance of the nodes' volts: the ledger closes about as well. */
const NODE = 2e-10;
/** Relative miss of the nodes' volts below which a last correction may be made without asking again. */
const LAST = 1e-6;
/** How many times what flows between cells must be what they give, for the nodes to be moved to meet both. */
const MOSTLY = 5;
/** Share of the charge in a step from which its OCV is lifted: below, the two nodes are exact and a difference is noise. */
const LIFTED = 1e-6;
/** Bounds of the Newton matrix beyond which the nose is near. */
const FLAT = -1e-2;
const SINGULAR = 1e-4;

/** Where a step ends. */
export interface StepEnd {
  /** [V] where the path begins, [A] of one cell, its state of charge and [V] OCV, number of the path's state */
  volts: number;
  amps: number;
  soc: number;
  ocv: number;
  event: number;
  /** whether the path hunts there, see `Piece` */
  bridge: boolean;
  /** see `CellState` */
  slow: Float64Array;
}

/**
 * Both nodes of a step of the cells before their path, by two-stage Gauss collocation.
 *
 * The RC branches are solved exactly for a drive that is a parabola over the step, so that fast ones do not limit it.
 * Both nodes' volts are found together by Newton on the 2 × 2 system. The OCV at the nodes is moved by one amount so that
 * what it gives is exactly its integral over the charge that leaves: the ledger then closes to the nodes' tolerance
 * whatever the step.
 */
export class Collocation {
  /** [s] of the step under way */
  h = 0;
  readonly nodes: readonly [Node, Node];
  readonly end: StepEnd;
  /** [V] [A] at its start */
  startVolts = 0;
  startAmps = 0;
  sweeps = 0;
  /** steps begun so far: what is known of one says nothing of the next */
  begun = 0;
  readonly branches: Branches;
  /** [C] one cell holds in it, as warm as in its middle */
  charge: number;
  /** where cells side by side differ */
  readonly sharing: StepSharing | undefined;
  /** where the cells warm themselves */
  private readonly warmth: StepWarmth | undefined;
  /** curves of the cell at the start and in the middle */
  private readonly start: Float64Array;
  private readonly middle: Float64Array;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
  ) {
    const { cell, charge, warmth, sharing } = plant.pack;
    this.branches = new Branches(cell.branches);
    this.warmth = warmth && new StepWarmth(plant, warmth);
    this.sharing = sharing && new StepSharing(plant.pack, sharing);
    this.charge = charge;
    const node = (branches: Float64Array): Node => ({
      ...{ volts: 0, amps: 0, share: 1, soc: 0, ocv: 0, looked: cell.room(), branches },
      ...{ between: 0, leak: 0, event: -1, piece: undefined },
    });
    this.nodes = [node(this.branches.first), node(this.branches.second)];
    this.end = {
      ...{ volts: 0, amps: 0, soc: 0, ocv: 0, event: -1, bridge: false },
      slow: new Float64Array(slowOf(plant.pack)),
    };
    this.start = cell.room();
    this.middle = cell.room();
  }

  /**
   * Take up what a step of h seconds begins with, its nodes being about where they will be met.
   * @param amps [A] of one cell as it begins
   */
  begin(h: number, amps: number): void {
    const { state, nodes, start, middle, branches } = this;
    const { charge } = state;
    this.h = h;
    this.startVolts = state.volts;
    this.startAmps = amps;
    this.begun++;
    const [one, two] = nodes;
    one.share = two.share = 1;
    const half = state.soc - (h * (one.amps + two.amps)) / (4 * charge);
    this.look(half, middle);
    this.look(state.soc, start);
    this.charge = this.warmth ? this.warmth.beginAt(h, state, amps, start, middle) : charge;
    this.sharing?.begin(
      h,
      state,
      amps,
      half,
      this.holds,
      this.warmth ? resistanceAt(this.plant.pack, state.slow) : 1,
    );
    branches.begin(h, state.slow, start, amps, middle);
  }

  /** Factor on the charge as warm as the cells are in this step. */
  get holds(): number {
    return this.charge / this.plant.pack.charge;
  }

  /** Curves at a state of charge, at 25 °C where cells warm themselves. */
  private look(soc: number, into: Float64Array): void {
    const { pack } = this.plant;
    if (pack.sharing) pack.sharing.look(soc, this.state.slow[fullerAt(pack)]!, into);
    else pack.cell.look(soc, into);
  }

  /**
   * [V] by which the OCV at both nodes is moved, so that they give what the cells give where some of them differ: their
   * own integral less what flows between them.
   * @param used share of the charge in the step @param given [V] what the nodes give of it, [V] and what stays between
   */
  private liftShared(used: number, given: number, between: number): number {
    const { plant, state, sharing } = this;
    const { pack } = plant;
    // Where more goes round than out, what goes out says nothing.
    if (!(Math.abs(given) > MOSTLY * between)) return 0;
    const from = areaAt(pack, state.soc, state.slow[fullerAt(pack)]!);
    return (from - areaAt(pack, state.soc - used, sharing!.end()) - given - between) / used;
  }

  /**
   * Meet both nodes, at the volts that what the path draws goes with, or at volts that stand.
   * @param stands whether the volts are given and only the amps sought
   */
  meet(h: number, stands = false): boolean {
    const { nodes, state, branches } = this;
    const { path, pack } = this.plant;
    const { series: S, parallel: P, quiescent: Iq, seriesOhms: Rs, cell, selfDischarge } = pack;
    const { warmth, sharing } = this;
    const [n1, n2] = nodes;
    const L1 = n1.looked;
    const L2 = n2.looked;
    const area0 = cell.area(state.soc);
    const small = NODE * state.volts;
    const Q = this.charge;
    const q = h / Q;
    // What drains away by itself is linear in the charge: s1·(1 + l/4) + s2·l·A12 = …
    const l = h * selfDischarge;
    const per = 1 / ((1 + l / 4) * (1 + l / 4) - l * l * A12 * A21);
    let V1 = n1.volts;
    let V2 = n2.volts;
    let I1 = pathAmps(pack, n1.amps);
    let I2 = pathAmps(pack, n2.amps);
    let g1 = 0;
    let g2 = 0;
    let before = Infinity;
    for (let n = 0; n < SWEEPS; n++) {
      this.sweeps++;
      // Both nodes' demand, then what the cells give at these currents, then Newton on both volts together.
      if (!stands) {
        path.evaluate(V1);
        I1 = path.amps;
        g1 = path.slope / P;
        n1.event = path.event;
        n1.piece = path.piece;
        path.evaluate(V2);
        I2 = path.amps;
        g2 = path.slope / P;
        n2.event = path.event;
        n2.piece = path.piece;
      }
      const i1 = (I1 + Iq) / P;
      const i2 = (I2 + Iq) / P;
      const k1 = state.soc - q * (0.25 * i1 + A12 * i2);
      const k2 = state.soc - q * (A21 * i1 + 0.25 * i2);
      const s1 = ((1 + l / 4) * k1 - l * A12 * k2) * per;
      const s2 = ((1 + l / 4) * k2 - l * A21 * k1) * per;
      if (sharing) {
        sharing.look(n1, s1, i1, false, this.holds, warmth?.ohms1 ?? 1);
        sharing.look(n2, s2, i2, true, this.holds, warmth?.ohms2 ?? 1);
      } else {
        cell.look(s1, L1);
        cell.look(s2, L2);
      }
      if (warmth) {
        scaleOhms(L1, cell.branches, warmth.ohms1);
        scaleOhms(L2, cell.branches, warmth.ohms2);
      }
      const d1 = i1 / Q + selfDischarge * s1;
      const d2 = i2 / Q + selfDischarge * s2;
      const used = 0.5 * h * (d1 + d2);
      const given = d1 * L1[LOOK.ocv]! + d2 * L2[LOOK.ocv]!;
      const lift = !(Math.abs(used) > LIFTED)
        ? 0
        : sharing
          ? this.liftShared(
              used,
              (h / 2) * (given + selfDischarge * (s1 * n1.leak + s2 * n2.leak)),
              (q / 2) * (n1.between + n2.between),
            )
          : (area0 - cell.area(state.soc - used)) / used - given / (d1 + d2);
      branches.solve(state.slow, L1, L2, i1, i2);
      n1.ocv = L1[LOOK.ocv]! + lift;
      n2.ocv = L2[LOOK.ocv]! + lift;
      const f1 = S * (n1.ocv - L1[LOOK.r0]! * i1 - branches.drop1) - Rs * I1 - V1;
      const f2 = S * (n2.ocv - L2[LOOK.r0]! * i2 - branches.drop2) - Rs * I2 - V2;
      const miss = Math.max(Math.abs(f1), Math.abs(f2));
      n1.amps = i1;
      n2.amps = i2;
      n1.soc = s1;
      n2.soc = s2;
      n1.volts = V1;
      n2.volts = V2;
      // Warmth follows a sweep behind: its change is in the next miss.
      if (warmth) warmth.follow(n1, n2);
      if (miss <= small) return true;
      // Not after the last sweep: the end and what flows between then stand as the nodes were moved for them.
      if (sharing) sharing.follow();
      // [V] of a node by [V] of a node, through the currents they draw
      const e1 = L1[LOOK.slope]! * q;
      const e2 = L2[LOOK.slope]! * q;
      // [V] of a node by [A] of one cell at a node
      const r11 = S * (L1[LOOK.r0]! + 0.25 * e1 + branches.b11) + Rs * P;
      const r12 = S * (A12 * e1 + branches.b12);
      const r21 = S * (A21 * e2 + branches.b21);
      const r22 = S * (L2[LOOK.r0]! + 0.25 * e2 + branches.b22) + Rs * P;
      if (stands) {
        const per = P / (r11 * r22 - r12 * r21);
        I1 += per * (f1 * r22 - f2 * r12);
        I2 += per * (f2 * r11 - f1 * r21);
        continue;
      }
      const m11 = -r11 * g1 - 1;
      const m12 = -r12 * g2;
      const m21 = -r21 * g1;
      const m22 = -r22 * g2 - 1;
      const det = m11 * m22 - m12 * m21;
      if (!(m11 < FLAT && m22 < FLAT && det > SINGULAR)) return false;
      const v1 = (f2 * m12 - f1 * m22) / det;
      const v2 = (f1 * m21 - f2 * m11) / det;
      V1 = path.onTheWay(V1, V1 + v1);
      V2 = path.onTheWay(V2, V2 + v2);
      if (!(V1 > 0 && V2 > 0)) return false;
      // As fast as it has come so far, the next miss would be none: correct what is there rather than ask again.
      if (n > 0 && !warmth && !sharing && miss * miss <= small * before && miss <= LAST * state.volts) {
        this.correct(v1, v2, g1 * v1, g2 * v2, q);
        return true;
      }
      before = miss;
    }
    return false;
  }

  /** Move both nodes by volts and by the amps of one cell that these draw. */
  private correct(v1: number, v2: number, i1: number, i2: number, q: number): void {
    const [n1, n2] = this.nodes;
    n1.volts += v1;
    n2.volts += v2;
    n1.amps += i1;
    n2.amps += i2;
    const s1 = -q * (0.25 * i1 + A12 * i2);
    const s2 = -q * (A21 * i1 + 0.25 * i2);
    n1.soc += s1;
    n2.soc += s2;
    n1.ocv += n1.looked[LOOK.slope]! * s1;
    n2.ocv += n2.looked[LOOK.slope]! * s2;
    this.branches.move(i1, i2);
  }

  /** Carry the charge and what moves slowly to the end of a step whose nodes are met. */
  carry(h: number): void {
    const { nodes, state, plant, end } = this;
    const [n1, n2] = nodes;
    const { selfDischarge } = plant.pack;
    end.soc = state.soc - (h / 2) * ((n1.amps + n2.amps) / this.charge + selfDischarge * (n1.soc + n2.soc));
    this.branches.end(state.slow, end.slow);
    if (this.warmth) end.slow[plant.pack.cell.branches] = this.warmth.end();
    if (this.sharing) end.slow[fullerAt(plant.pack)] = this.sharing.end();
  }

  /** Both nodes at the state, at other volts and amps perhaps. */
  standAt(h: number, volts: number, amps: number): void {
    const { nodes, state, end, plant } = this;
    this.h = h;
    this.charge = state.charge;
    this.startVolts = volts;
    this.startAmps = amps;
    this.begun++;
    plant.path.evaluate(volts);
    for (const node of nodes) {
      node.volts = volts;
      node.amps = amps;
      node.share = 1;
      node.soc = state.soc;
      lookAt(plant.pack, state.soc, state.slow, node.looked);
      node.between = plant.pack.sharing?.between ?? 0;
      node.leak = plant.pack.sharing?.leak ?? 0;
      node.ocv = node.looked[LOOK.ocv]!;
      node.event = plant.path.event;
      node.piece = plant.path.piece;
    }
    end.slow.set(state.slow);
  }
}
