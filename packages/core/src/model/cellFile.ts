import { CellRecord } from './cell.ts';
import { structuredCloneJson } from './edit.ts';
import { Choice, Part, Text, Whole } from './fields.ts';

export const CELL_FORMAT = 'mile-cell';

/** A cell kept apart from any thread. */
export class CellFile {
  @Choice([CELL_FORMAT], 'Marks a cell record')
  format!: typeof CELL_FORMAT;
  @Whole(1, 1, 'Version of the format')
  version!: 1;
  @Text(80, 'Name of the cell')
  name!: string;
  @Part(() => CellRecord, 'The cell')
  cell!: CellRecord;
}

/** A cell as it is written to a file. */
export function cellFileOf(cell: CellRecord): CellFile {
  return { format: CELL_FORMAT, version: 1, name: cell.name, cell: structuredCloneJson(cell) };
}
