import type { CellGroup, Edit, OddCells, ThreadDocument } from '@mile-thread/core/model';

/** A group as the record says. */
const ALIKE: CellGroup = { capacity: 1, resistance: 1 };

/** Change one group, from the negative end; those before it that were not listed are as the record says. */
export function groupEdit({ pack }: ThreadDocument, k: number, change: Changes<CellGroup>): Edit {
  const path = ['pack', 'groups'];
  const groups = Array.from({ length: Math.max(k + 1, pack.groups?.length ?? 0) }, (_, n) => ({
    ...ALIKE,
    ...pack.groups?.[n],
  }));
  groups[k] = without({ ...groups[k]!, ...change });
  // What is as the record says need not be listed.
  while (groups.length > 0 && isAlike(groups.at(-1)!)) groups.pop();
  if (groups.length === 0) return { op: 'remove', path };
  return { op: pack.groups ? 'replace' : 'add', path, value: groups };
}

/** Change the odd cells; undefined takes them out. */
export function oddEdit({ pack }: ThreadDocument, change: Changes<OddCells> | undefined): Edit {
  const path = ['pack', 'odd'];
  if (!change) return { op: 'remove', path };
  const fresh: OddCells = { count: 1, capacity: 0.8, resistance: 1.6 };
  return { op: pack.odd ? 'replace' : 'add', path, value: without({ ...fresh, ...pack.odd, ...change }) };
}

type Changes<T> = { [F in keyof T]?: T[F] | undefined };

function isAlike({ capacity, resistance, startSoc }: CellGroup): boolean {
  return capacity === 1 && resistance === 1 && startSoc === undefined;
}

function without<T extends object>(value: { [F in keyof T]: T[F] | undefined }): T {
  return Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as T;
}
