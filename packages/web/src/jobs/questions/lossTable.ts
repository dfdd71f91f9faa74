import { readLossTable } from '@mile-thread/core';

/** Readings in the cells of a table. @param outputVolts [V] where it has no column for it */
export function lossTable(rows: string[][], outputVolts: number): ReturnType<typeof readLossTable> {
  return readLossTable(rows, outputVolts);
}
