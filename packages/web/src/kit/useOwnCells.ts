import type { CellRecord } from '@mile-thread/core/model';
import { useEffect, useState } from 'react';
import type { NamedRow } from '../storage/db.ts';
import { cellRecords } from '../storage/named.ts';

const NOBODY = () => undefined;

/** The cells of one's own, by name; followed as they change, in other tabs too. @param trouble told of a storage that fails */
export function useOwnCells(trouble: (error: unknown) => void = NOBODY): NamedRow<CellRecord>[] {
  const [own, setOwn] = useState<NamedRow<CellRecord>[]>([]);
  useEffect(() => cellRecords.watch(setOwn, trouble), [trouble]);
  return own;
}
