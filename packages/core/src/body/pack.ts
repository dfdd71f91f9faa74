import { USUAL_PACKING } from '../model/body.ts';
import type { CellRecord } from '../model/cell.ts';
import type { Pack } from '../model/pack.ts';
import type { Room } from '../model/thread.ts';
import { airClass, type AirClass } from './carriage.ts';
import { fitOf, type Fit, type Sides } from './fit.ts';

/** What a pack weighs and takes up. */
export interface PackBody {
  /** [kg] cells, and wires, strips and wrap; absent where a cell's mass is not known */
  mass?: { cells: number; wiring: number };
  /** [Wh] by which carriage goes: rated capacity at the mean volts at rest, of the pack and of one cell */
  wh: number;
  cellWh: number;
  air: AirClass;
  /** whether it fits the room; absent where there is none, or the cell's body is not known */
  fit?: Fit & { room: Sides; inner: Sides };
}

/** [Wh] of one cell: rated capacity at the mean of its volts at rest, straight between the knots. */
export function cellWattHours({ capacityAh, ocv: { soc, volts } }: CellRecord): number {
  let sum = 0;
  for (let k = 1; k < soc.length; k++) sum += ((volts[k]! + volts[k - 1]!) / 2) * (soc[k]! - soc[k - 1]!);
  return sum * capacityAh;
}

/** The body of a pack, against the room there is for it. */
export function packBody(pack: Pack, room?: Room): PackBody {
  const { cell, series, parallel, packing = USUAL_PACKING } = pack;
  const count = series * parallel;
  const cellWh = cellWattHours(cell);
  const wh = count * cellWh;
  const mass = cell.mass === undefined ? undefined : count * cell.mass;
  const base = { wh, cellWh, air: airClass(wh) };
  const weighed =
    mass === undefined ? base : { ...base, mass: { cells: mass, wiring: mass * packing.wiring } };
  if (!room || !cell.body) return weighed;
  const sides: Sides = [room.length, room.width, room.height];
  const inner = sides.map((s) => Math.max(0, s - 2 * packing.around)) as unknown as Sides;
  return { ...weighed, fit: { ...fitOf(inner, cell.body, packing, count), room: sides, inner } };
}
