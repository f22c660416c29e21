import { openDB, type IDBPDatabase } from 'idb';
import type { SentStep } from './wire';

/** Steps that the server has not taken yet, kept in the browser so that closing the tab loses nothing. */
export interface PendingStore {
  load(projectId: string): Promise<SentStep[]>;
  save(projectId: string, steps: readonly SentStep[]): Promise<void>;
}

let database: Promise<IDBPDatabase> | null = null;
const open = () => (database ??= openDB('calque', 1, { upgrade: (db) => void db.createObjectStore('pending') }));

export const browserPending: PendingStore = {
  async load(projectId) {
    return ((await (await open()).get('pending', projectId)) as SentStep[] | undefined) ?? [];
  },
  async save(projectId, steps) {
    const db = await open();
    // Strict: kept means on the disk, also when the browser is killed right after.
    const transaction = db.transaction('pending', 'readwrite', { durability: 'strict' });
    void (steps.length === 0 ? transaction.store.delete(projectId) : transaction.store.put([...steps], projectId));
    await transaction.done;
  },
};
