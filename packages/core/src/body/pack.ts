import { USUAL_PACKING, type BoardBox, type Packing } from '../model/body.ts';
import type { CellRecord } from '../model/cell.ts';
import type { Pack } from '../model/pack.ts';
import type { Room } from '../model/thread.ts';
import { airClass, type AirClass } from './carriage.ts';
import { fitOf, type Fit, type Sides } from './fit.ts';

/** What a pack weighs and takes up. */
export interface PackBody {
  /** [kg] cells, wires, strips and wrap, and boards; absent where a cell's mass is not known */
  mass?: { cells: number; wiring: number; boards: number };
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

/**
 * The least room a pack takes as it is usually built: round cells standing in one layer of square rows, about as many rows
 * as cells in each; pouches in one stack; boards flat on top. Common practice, no source. Nothing where the cell's body is not known.
 */
export function usualRoom({ cell, series, parallel, packing = USUAL_PACKING }: Pack): Room | undefined {
  const { body } = cell;
  if (!body) return undefined;
  const count = series * parallel;
  const { gap, around } = packing;
  const row = (many: number, size: number) => many * (size + gap) - gap + 2 * around;
  if (body.kind === 'pouch') {
    const [length, width] = [body.length + 2 * around, body.width + 2 * around];
    return withBoards({ length, width, height: row(count, body.thickness) }, packing);
  }
  const first = Math.ceil(Math.sqrt(count));
  const lines = Math.ceil(count / first);
  const room = { length: row(first, body.diameter), width: row(lines, body.diameter) };
  return withBoards({ ...room, height: body.height + 2 * around }, packing);
}

/** A room that boards lying flat on the cells share with them. */
function withBoards(room: Room, { boards = [], gap, around }: Packing): Room {
  const more = { ...room };
  for (const board of boards) {
    const [thin, mid, long] = [...sidesOf(board)].sort((a, b) => a - b) as [number, number, number];
    more.height += thin + gap;
    more.length = Math.max(more.length, long + 2 * around);
    more.width = Math.max(more.width, mid + 2 * around);
  }
  return more;
}

const sidesOf = ({ length, width, height }: BoardBox): Sides => [length, width, height];

/** The body of a pack, against the room there is for it. */
export function packBody(pack: Pack, room?: Room): PackBody {
  const { cell, series, parallel, packing = USUAL_PACKING } = pack;
  const count = series * parallel;
  const cellWh = cellWattHours(cell);
  const wh = count * cellWh;
  const mass = cell.mass === undefined ? undefined : count * cell.mass;
  const boards = packing.boards ?? [];
  const boardMass = boards.reduce((sum, b) => sum + (b.mass ?? 0), 0);
  const base = { wh, cellWh, air: airClass(wh) };
  const weighed =
    mass === undefined
      ? base
      : { ...base, mass: { cells: mass, wiring: mass * packing.wiring, boards: boardMass } };
  if (!room || !cell.body) return weighed;
  const sides: Sides = [room.length, room.width, room.height];
  const inner = sides.map((s) => Math.max(0, s - 2 * packing.around)) as unknown as Sides;
  return {
    ...weighed,
    fit: { ...fitOf(inner, cell.body, packing, count, boards.map(sidesOf)), room: sides, inner },
  };
}
