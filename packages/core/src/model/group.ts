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

/** What of a pack says how its groups are. */
interface InSeries {
  groups?: CellGroup[];
  /** cells in series, and state of charge at the start */
  series: number;
  startSoc: number;
}

/** A group in series: how much it holds, how it resists, and how it is charged when the run starts. */
export type GroupAtStart = Required<CellGroup>;

/**
 * All groups of a pack, from the negative end; none where they are alike.
 * @param weakest one that differs where none is stated; a single group is not weaker than itself
 */
export function groupsOf(
  { groups, series, startSoc }: InSeries,
  weakest?: CellGroup,
): GroupAtStart[] | undefined {
  const usual: GroupAtStart = { capacity: 1, resistance: 1, startSoc };
  const differing = groups ?? (weakest && series > 1 ? [weakest] : undefined);
  return differing && Array.from({ length: series }, (_, k) => ({ ...usual, ...differing[k] }));
}

/** The weakest group of a pack of one lot, where nobody has measured it. */
export function usualWeakest({ startSoc }: Pick<InSeries, 'startSoc'>): CellGroup {
  const { capacity, resistance, lessCharged } = WEAKEST;
  return { capacity, resistance, startSoc: Math.max(0, startSoc - lessCharged) };
}

/**
 * The charge that groups in series can pass together, over the rated one of a cell: from where the first is full to where
 * the first is empty; and where the run starts in it. The same current flows through all: what one gives, each gives.
 */
export function windowOf(groups: readonly GroupAtStart[]): { width: number; start: number } {
  const toEmpty = Math.min(...groups.map((g) => g.startSoc * g.capacity));
  const toFull = Math.min(...groups.map((g) => (1 - g.startSoc) * g.capacity));
  const width = toEmpty + toFull;
  return { width, start: width > 0 ? toEmpty / width : 0 };
}

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
