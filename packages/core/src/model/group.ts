import { Quantity, Whole } from './fields.ts';

/** How one group of cells in parallel differs from what the record says of its cell. */
export class CellGroup {
  @Quantity('', 0.05, 3, 'Charge it holds, over what its cells are rated at', { label: 'Charge held' })
  capacity!: number;
  @Quantity('', 0.05, 20, 'Its resistance, over that of the record', { label: 'Resistance' })
  resistance!: number;
  @Quantity('', 0, 1, 'Its own state of charge when the run starts; the pack’s where left out', {
    optional: true,
    label: 'Charge at the start',
  })
  startSoc?: number;
}

/**
 * How the weakest group of a pack of one lot may differ where nobody has measured: 3 % less charge, 15 % more resistance,
 * 2 % less charged. Common practice, no source.
 */
export const WEAKEST = { capacity: 0.97, resistance: 1.15, lessCharged: 0.02 } as const;

/** Cells in each group that differ from those beside them: an old one among new ones, one with a worse joint. */
export class OddCells {
  @Whole(1, 499, 'How many cells of each group differ from the rest', { label: 'Odd cells' })
  count!: number;
  @Quantity('', 0.05, 3, 'Charge an odd cell holds, over what it is rated at', { label: 'Charge held' })
  capacity!: number;
  @Quantity('', 0.05, 20, 'Its resistance, over that of the record', { label: 'Resistance' })
  resistance!: number;
  @Quantity('', 0, 1, 'Its own state of charge when the run starts; the pack’s where left out', {
    optional: true,
    label: 'Charge at the start',
  })
  startSoc?: number;
}
