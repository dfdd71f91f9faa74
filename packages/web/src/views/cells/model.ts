import type { CellCurve } from '@mile-thread/core';
import { cellWattHours } from '@mile-thread/core/body';
import { CELL_LIBRARY, type CellRecord } from '@mile-thread/core/model';
import { COLOURS } from '../../tokens/tokens.ts';
import type { NamedRow } from '../../storage/db.ts';

/** A cell to look at: one that ships, or one of one's own. */
export interface Entry {
  /** stable, for choosing */
  id: string;
  cell: CellRecord;
  /** the row it is kept in */
  own?: string;
}

/** Cells compared at most. */
export const MOST_COMPARED = 6;

/** What cells are ordered by. */
export const ORDERS = ['perKilogram', 'capacity', 'rate'] as const;
export type Order = (typeof ORDERS)[number];

/** All cells that fit the words, own ones first, then by an order, the largest first. */
export function listed(own: readonly NamedRow<CellRecord>[], words: string, order: Order): Entry[] {
  const wanted = words.trim().toLowerCase();
  const fits = ({ cell }: Entry) =>
    `${cell.name} ${cell.chemistry} ${cell.grade}`.toLowerCase().includes(wanted);
  const mine = own.map((row): Entry => ({ id: `own:${row.id}`, cell: row.record, own: row.id }));
  const shipped = Object.entries(CELL_LIBRARY).map(([key, cell]): Entry => ({ id: key, cell }));
  const by = (e: Entry) => measure(e.cell, order);
  return [...mine, ...shipped.sort((a, b) => by(b) - by(a))].filter(fits);
}

function measure(cell: CellRecord, order: Order): number {
  if (order === 'perKilogram') return wattHoursPerKilogram(cell) ?? 0;
  return order === 'capacity' ? cell.capacityAh : cell.dischargeRate;
}

/** [Wh/kg] at rest, from full to empty; undefined where its mass is not known. */
export function wattHoursPerKilogram(cell: CellRecord): number | undefined {
  return cell.mass === undefined ? undefined : cellWattHours(cell) / cell.mass;
}

/** px of a card's picture, and the volts and charge it spans: the same for all, so that cards compare. */
export const PICTURE = { width: 150, height: 64, low: 1.4, high: 4.4 };

/** Path of a discharge on a card. @param most [Ah] at the right edge */
export function picture({ taken, volts }: CellCurve, most: number): string {
  const { width, height, low, high } = PICTURE;
  const points = taken.map((ah, k) => {
    const x = (width * ah) / most;
    const y = height * (1 - (volts[k]! - low) / (high - low));
    return `${x.toFixed(1)},${Math.min(height, Math.max(0, y)).toFixed(1)}`;
  });
  return `M${points.join('L')}`;
}

/** Letters and colours of the compared. */
export const MARKS = [
  COLOURS.pine,
  COLOURS.slate,
  COLOURS.ember,
  COLOURS.saffronInk,
  COLOURS.madder,
  COLOURS.inkSoft,
].map((colour, k) => ({ colour, letter: String.fromCharCode(65 + k) }));
