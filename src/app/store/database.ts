import { type IDBPDatabase, openDB } from 'idb';

const DATABASE = 'wanderweg';
let database: Promise<IDBPDatabase> | null = null;

/** The browser's store: the craft, boards of the bench, the history of settings, sites, and firmware for use without network. */
export async function openStore(): Promise<IDBPDatabase> {
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

/** After a refusal the next use tries anew. */
export function forgetStore(): void {
  database = null;
}
