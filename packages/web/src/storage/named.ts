import { liveQuery, type EntityTable } from 'dexie';
import { db, type NamedRow } from './db.ts';

/** Records of one's own, kept by their names. */
class Named<R extends { name: string }> {
  constructor(private readonly table: EntityTable<NamedRow<R>, 'id'>) {}

  /** Keep records; one with the same name is replaced. */
  async keep(records: readonly R[]): Promise<void> {
    await db.transaction('rw', this.table, async () => {
      for (const record of records) {
        const old = await this.table.where('name').equals(record.name).first();
        const id = old?.id ?? crypto.randomUUID();
        await this.table.put({ id, name: record.name, record, at: Date.now() } as NamedRow<R>);
      }
    });
  }

  /** Put another record in the place of one, under its own name. */
  async replace(id: string, record: R): Promise<void> {
    await this.table.put({ id, name: record.name, record, at: Date.now() } as NamedRow<R>);
  }

  /** Remove a record. @returns what brings it back */
  async remove(id: string): Promise<() => Promise<void>> {
    const row = await this.table.where('id').equals(id).first();
    await this.table.where('id').equals(id).delete();
    return async () => {
      if (row) await this.table.put(row);
    };
  }

  /** Follow the records, by name. @returns what stops it */
  watch(next: (rows: NamedRow<R>[]) => void, trouble: (error: unknown) => void): () => void {
    const watch = liveQuery(() => this.table.orderBy('name').toArray()).subscribe({ next, error: trouble });
    return () => watch.unsubscribe();
  }
}

export const stageRecords = new Named(db.records);
export const cellRecords = new Named(db.cells);
