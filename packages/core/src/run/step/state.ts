import { LOOK, PAST_FULL } from '../../plant/cellTable.ts';
import type { PackPlant } from '../../plant/pack.ts';

/** Where the cells stand at an instant. Spread between groups would be further fields of it. */
export class CellState {
  /** [s] since the start */
  time = 0;
  /** state of charge 0…1; a little below 0 where a run ends empty */
  soc: number;
  /**
   * what follows slowly: [V] of each RC branch of one cell, then, where cells warm themselves, [K] above the air, then,
   * where some differ, by how much these are fuller than those beside them
   */
  readonly slow: Float64Array;
  /** [C] one cell holds as warm as it is */
  charge = 0;
  /** [V] where the path begins, of the instant solved last; NaN before the first */
  volts = NaN;
  /** [A] out of one cell, of the same instant */
  amps = NaN;

  constructor(
    private readonly pack: PackPlant,
    soc: number,
  ) {
    this.soc = soc;
    this.slow = new Float64Array(slowOf(pack));
    this.rest();
  }

  /** What follows slowly, as it is before anything has flowed. */
  rest(): void {
    this.slow.fill(0);
    const { warmth, cell, sharing } = this.pack;
    if (warmth) this.slow[cell.branches] = warmth.start;
    if (sharing) this.slow[fullerAt(this.pack)] = sharing.start;
    this.weigh();
  }

  /** Set what follows slowly. */
  put(slow: ArrayLike<number>): void {
    this.slow.set(slow);
    this.weigh();
  }

  private weigh(): void {
    this.charge = heldCharge(this.pack, this.slow);
  }
}

/** [A] into the path when one cell gives `amps`: without the protection board's own draw. */
export function pathAmps({ parallel, quiescent }: PackPlant, amps: number): number {
  return amps * parallel - quiescent;
}

/** [A] of one cell when the path takes `amps`: the protection board's own draw besides. */
export function cellAmps({ parallel, quiescent }: PackPlant, amps: number): number {
  return (amps + quiescent) / parallel;
}

/** [V] of one cell at its terminals. @param volts [V] where the path begins @param amps [A] one cell */
export function cellVolts(pack: PackPlant, volts: number, amps: number): number {
  return (volts + pack.seriesOhms * pathAmps(pack, amps)) / pack.series;
}

/** [V] of the cells that stand lowest: of all alike, or of the weakest of groups that differ. */
export function lowestCellVolts(pack: PackPlant, volts: number, amps: number, soc: number): number {
  const mean = cellVolts(pack, volts, amps);
  // Without a board nobody looks.
  return pack.groups && pack.cutoff > -Infinity ? pack.groups.lowest(soc, mean) : mean;
}

/** [V] of the cells that stand highest. */
export function highestCellVolts(pack: PackPlant, volts: number, amps: number, soc: number): number {
  const mean = cellVolts(pack, volts, amps);
  return pack.groups ? pack.groups.highest(soc, mean) : mean;
}

/** State of charge at which the first cells rest at `volts`. */
export function firstAt({ cell, groups }: PackPlant, volts: number): number {
  return groups ? groups.firstAt(volts) : cell.socAt(volts);
}

/** State of charge at which the first cells rest at `volts` past full, by the steep line that stands for what no record knows. */
export function pastFullAt({ cell, groups }: PackPlant, volts: number): number {
  const own = Math.max(0, volts - (groups?.cell ?? cell).ocv(1)) / PAST_FULL;
  return groups ? groups.firstPast(own) : 1 + own;
}

/**
 * [1/s] share of its charge a cell loses at an instant: what it gives and what drains away by itself.
 * @param charge [C] it holds as warm as it is
 */
export function drainRate(pack: PackPlant, charge: number, amps: number, soc: number): number {
  return amps / charge + pack.selfDischarge * (soc > 0 ? soc : 0);
}

/** How many numbers follow slowly. */
export function slowOf({ cell, warmth, sharing }: PackPlant): number {
  return cell.branches + (warmth ? 1 : 0) + (sharing ? 1 : 0);
}

/** Where among them it stands by how much odd cells are fuller. */
export function fullerAt({ cell, warmth }: PackPlant): number {
  return cell.branches + (warmth ? 1 : 0);
}

/** Curves of the cell that stands for all at a state, see `CellTable.look`, as warm as it is. */
export function lookAt(pack: PackPlant, soc: number, slow: ArrayLike<number>, into: Float64Array): void {
  const { cell, sharing, warmth } = pack;
  const warm = warmth ? resistanceAt(pack, slow) : 1;
  if (sharing) sharing.look(soc, slow[fullerAt(pack)]!, into, warm);
  else cell.look(soc, into);
  if (warmth) scaleOhms(into, cell.branches, warm);
}

/** Every resistance that has been looked up, so many times. */
export function scaleOhms(looked: Float64Array, branches: number, by: number): void {
  looked[LOOK.r0]! *= by;
  for (let k = 0; k < branches; k++) looked[LOOK.branches + k]! *= by;
}

/** [V] integral of the OCV over the charge held, of the cell that stands for all. */
export function areaAt({ cell, sharing }: PackPlant, soc: number, fuller: number): number {
  return sharing ? sharing.area(soc, fuller) : cell.area(soc);
}

/** [°C] of the cells; none where they are as the air. */
export function celsiusOf({ cell, warmth }: PackPlant, slow: ArrayLike<number>): number | undefined {
  return warmth && warmth.air + slow[cell.branches]!;
}

/** [C] one cell holds as warm as it is. */
export function heldCharge(pack: PackPlant, slow: ArrayLike<number>): number {
  const celsius = celsiusOf(pack, slow);
  return celsius === undefined ? pack.charge : pack.charge * pack.warmth!.factors.charge.at(celsius);
}

/** Factor on every resistance of the cell as warm as it is. */
export function resistanceAt(pack: PackPlant, slow: ArrayLike<number>): number {
  const celsius = celsiusOf(pack, slow);
  return celsius === undefined ? 1 : pack.warmth!.factors.resistance.at(celsius);
}
