import { LOOK } from '../../plant/cellTable.ts';
import type { Plant } from '../../plant/compile.ts';
import { readExactly, type Exactly } from '../account/pathSums.ts';
import { Events } from '../march/events.ts';
import type { PackWatch } from '../march/watch.ts';
import { Instant } from '../step/instant.ts';
import type { Node } from '../step/node.ts';
import { drainRate, heldCharge, slowOf, CellState } from '../step/state.ts';
import { StepWarmth } from '../step/stepWarmth.ts';

/** Parts of a whole charge that are looked at by themselves, each split further where the rate bends in it. */
const CELLS = 64;
/** Share of the rate, and of a rate that empties the pack in so many seconds, to which a straight line stands for it. */
const STRAIGHT = 3e-4;
const SLOW = 1 / 3.6e7;
/** Share of the mean open-circuit volts to which that of a part is what lines through its points say: the account closes so far. */
const LEVEL = 1e-5;
/** Least share of the charge a part is split to as it bends, and to which a change in it is closed in on. */
const LEAST = 1 / 65536;
const CHANGE = 1e-9;

/** The event of an instant at which the pack meets no demand. */
export const LOST = -2;

/** One instant of a face: the cells at a state of charge, their branches settled. */
export interface Point extends Node {
  /** [1/s] share of the charge they lose */
  rate: number;
  /** what the pack itself does, see `Events`; `event` is −2 where it meets no demand */
  pack: number;
  /** what follows slowly, settled */
  slow: Float64Array;
  /** [C] one cell holds there */
  charge: number;
  /** [K] the cells would come to stand above the air by what is lost there */
  rise: number;
  /** [s] spent around it, to be booked */
  seconds: number;
  /** what the path does there, where no piece of its chart says it */
  exactly: Exactly | undefined;
}

/** A stretch of charge in which nothing changes and the rate is straight. */
export interface Part {
  low: Point;
  high: Point;
}

/** Whether two instants are of one kind: nothing happens between them. */
export function alike(a: Point, b: Point): boolean {
  return a.event === b.event && a.pack === b.pack;
}

/** [fraction] where a cell of a face begins: even up to full; what a record does not know above it is one line, and ever coarser. */
function edgeOf(k: number): number {
  return k <= CELLS ? k / CELLS : 1 + (2 ** (k - CELLS) - 1) / CELLS;
}

/** Which cell a state of charge lies in, with how far it is through it. */
function placeOf(soc: number): number {
  return soc <= 1 ? soc * CELLS : CELLS + Math.log2(1 + (soc - 1) * CELLS);
}

/**
 * How fast the cells lose charge, over the charge they have, in one state of everything around them: holds, draws, charger, how warm
 * they are. Made where it is first asked for, and kept. Between its points the rate is straight, so what happens to the cells is known exactly.
 */
export class Face {
  private readonly corners = new Map<number, Point>();
  private readonly parts = new Map<number, Part[]>();
  private readonly heat: StepWarmth | undefined;
  private readonly events: Events;
  private readonly state: CellState;
  private readonly instant: Instant;

  /** @param kelvin of the cells above the air that the thread states @param watched what is watched of the pack; the path must stand in the state the face is of whenever it is asked */
  constructor(
    private readonly plant: Plant,
    private readonly kelvin: number,
    watched: Iterable<PackWatch>,
  ) {
    const { warmth } = plant.pack;
    this.heat = warmth && new StepWarmth(plant, warmth);
    this.events = new Events(plant, watched);
    this.state = new CellState(plant.pack, 1);
    this.instant = new Instant(plant);
  }

  /** The part that a state of charge lies in. @param falling whether it is about to fall: at an edge the one below is meant */
  partAt(soc: number, falling: boolean): Part {
    const place = placeOf(soc);
    // A change at the end of a cell may have left nothing of it on this side.
    for (let k = falling ? Math.ceil(place) - 1 : Math.floor(place); ; k += falling ? -1 : 1) {
      const parts = this.partsOf(k);
      const last = parts.length - 1;
      let n = falling ? last : 0;
      if (falling) while (n >= 0 && !(parts[n]!.low.soc < soc)) n--;
      else while (n <= last && !(parts[n]!.high.soc > soc)) n++;
      const found = parts[n];
      if (found) return found;
    }
  }

  private partsOf(k: number): Part[] {
    let parts = this.parts.get(k);
    if (!parts) this.parts.set(k, (parts = this.split(this.corner(k), this.corner(k + 1))));
    return parts;
  }

  private corner(k: number): Point {
    let found = this.corners.get(k);
    if (!found) this.corners.set(k, (found = this.at(edgeOf(k), NaN)));
    return found;
  }

  private split(low: Point, high: Point): Part[] {
    const width = high.soc - low.soc;
    if (alike(low, high)) {
      if (width <= LEAST) return [{ low, high }];
      const middle = this.between(low, high);
      if (!alike(low, middle)) return [...this.split(low, middle), ...this.split(middle, high)];
      if (this.isStraight(low, middle, high)) {
        return [
          { low, high: middle },
          { low: middle, high },
        ];
      }
      return [...this.split(low, middle), ...this.split(middle, high)];
    }
    if (width <= CHANGE) return [];
    // The first change from below, closed in on.
    let [under, over] = [low, high];
    while (over.soc - under.soc > CHANGE) {
      const middle = this.between(under, over);
      if (alike(low, middle)) under = middle;
      else over = middle;
    }
    const below = under === low ? [] : this.split(low, under);
    return [...below, ...(over === high ? [] : this.split(over, high))];
  }

  /** Whether rate and open-circuit volts are near enough a line between both ends. */
  private isStraight(low: Point, middle: Point, high: Point): boolean {
    const size = Math.max(Math.abs(low.rate), Math.abs(high.rate), SLOW);
    if (Math.abs(middle.rate - (low.rate + high.rate) / 2) > STRAIGHT * size) return false;
    const { cell } = this.plant.pack;
    const mean = (cell.area(high.soc) - cell.area(low.soc)) / (high.soc - low.soc);
    return Math.abs(mean - (low.ocv + 2 * middle.ocv + high.ocv) / 4) <= LEVEL * cell.area(1);
  }

  private between(low: Point, high: Point): Point {
    return this.at((low.soc + high.soc) / 2, low.event === high.event ? (low.volts + high.volts) / 2 : NaN);
  }

  /** The instant at a state of charge, with the branches settled. @param near [V]; NaN: from the top */
  private at(soc: number, near: number): Point {
    const { plant, state, instant } = this;
    const { pack, path } = plant;
    const { branches } = pack.cell;
    const slow = new Float64Array(slowOf(pack));
    state.soc = soc;
    const looked = pack.cell.room();
    if (this.heat) slow[branches] = this.kelvin;
    state.put(slow);
    const { status } = instant.solveSettled(state, near, looked);
    const { volts, amps } = state;
    const lost = status === 'none' || path.network.effort.spent;
    for (let k = 0; k < branches; k++) slow[k] = lost ? 0 : amps * looked[LOOK.branches + k]!;
    const of = { amps, volts, looked, branches: slow };
    const rise = lost ? 0 : (this.heat?.drive(of, path.delivered(volts)) ?? 0);
    const charge = heldCharge(pack, slow);
    return {
      ...{ soc, volts, amps, ocv: instant.ocv, looked, branches: slow.slice(0, branches) },
      ...{ share: 1, between: 0, leak: 0 },
      event: lost ? LOST : path.event,
      piece: lost ? undefined : path.piece,
      rate: lost ? 0 : drainRate(pack, charge, amps, soc),
      pack: lost ? 0 : this.events.take(volts, amps, soc).pack,
      ...{ slow, charge, rise, seconds: 0 },
      exactly: lost || path.piece ? undefined : readExactly(path, volts),
    };
  }
}

/** The faces of a plant, made where they are first asked for; many looks may share them, one at a time. */
export class Faces {
  /** by what is outside the cells, then by how warm the cells are */
  private readonly all = new Map<object, Map<number, Face>>();

  constructor(private readonly plant: Plant) {}

  /**
   * The face of what the path is now.
   * @param kelvin of the cells above the air that the thread states @param watched what is watched of the pack, the same in all looks that share them
   */
  now(kelvin: number, watched: Iterable<PackWatch>): Face {
    const { world } = this.plant.path;
    let airs = this.all.get(world);
    if (!airs) this.all.set(world, (airs = new Map()));
    let face = airs.get(kelvin);
    if (!face) airs.set(kelvin, (face = new Face(this.plant, kelvin, watched)));
    return face;
  }
}
