import { type IDBPDatabase, openDB } from 'idb';

const DATABASE = 'wanderweg';
let database: Promise<IDBPDatabase> | null = null;

/** Parts of the browser's store. Rows of `snapshots` have their key in them. */
export type Part = 'craft' | 'bench' | 'snapshots' | 'contents' | 'firmware' | 'sites';

export type RowChange =
  | { readonly in: Part; readonly put: unknown; readonly key?: string }
  | { readonly in: Part; readonly delete: string };

/** What is kept between visits. Each may refuse: a private window, a full disk. */
export interface Rows {
  get(from: Part, key: string): Promise<unknown>;
  all(from: Part): Promise<readonly unknown[]>;
  keys(from: Part): Promise<readonly string[]>;
  /** All of it or nothing. */
  write(changes: readonly RowChange[]): Promise<void>;
}

/** The browser's store: the craft, boards of the bench, the history of settings, sites, and firmware for use without network. */
async function openStore(): Promise<IDBPDatabase> {
  database ??= openDB(DATABASE, 4, {
    upgrade(db, from) {
      if (from < 1) {
        db.createObjectStore('craft');
        db.createObjectStore('bench');
      }
      if (from < 2) {
        db.createObjectStore('snapshots', { keyPath: 'id' });
        db.createObjectStore('contents');
      }
      if (from < 3) db.createObjectStore('firmware');
      if (from < 4) db.createObjectStore('sites');
    },
    // Another tab with a newer version waits for this one to let go.
    blocking: () => {
      void database?.then((db) => db.close());
      database = null;
    },
  });
  return database;
}

/** Does something with the store; after a refusal the next use tries anew. */
async function inStore<T>(use: (db: IDBPDatabase) => Promise<T>): Promise<T> {
  try {
    return await use(await openStore());
  } catch (error) {
    database = null;
    throw error;
  }
}

export const rows: Rows = {
  get: (from, key) => inStore((db) => db.get(from, key)),
  all: (from) => inStore((db) => db.getAll(from)),
  keys: (from) => inStore(async (db) => (await db.getAllKeys(from)).map(String)),
  write: (changes) =>
    inStore(async (db) => {
      const tx = db.transaction([...new Set(changes.map((c) => c.in))], 'readwrite');
      for (const c of changes) {
        const part = tx.objectStore(c.in);
        void ('delete' in c ? part.delete(c.delete) : part.put(c.put, c.key));
      }
      await tx.done;
    }),
};
