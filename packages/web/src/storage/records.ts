import type { StageRecord } from '@mile-thread/core/model';
import { liveQuery } from 'dexie';
import { db, type RecordRow } from './db.ts';

/** Keep records; one with the same name is replaced. */
export async function keepRecords(records: readonly StageRecord[]): Promise<void> {
  await db.transaction('rw', db.records, async () => {
    for (const record of records) {
      const old = await db.records.where('name').equals(record.name).first();
      const id = old?.id ?? crypto.randomUUID();
      await db.records.put({ id, name: record.name, record, at: Date.now() });
    }
  });
}

/** Remove a record. @returns what brings it back */
export async function removeRecord(id: string): Promise<() => Promise<void>> {
  const row = await db.records.get(id);
  await db.records.delete(id);
  return async () => {
    if (row) await db.records.put(row);
  };
}

/** Follow the records, by name. @returns what stops it */
export function watchRecords(
  next: (rows: RecordRow[]) => void,
  trouble: (error: unknown) => void,
): () => void {
  const watch = liveQuery(() => db.records.orderBy('name').toArray()).subscribe({ next, error: trouble });
  return () => watch.unsubscribe();
}
