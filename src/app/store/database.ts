import { type IDBPDatabase, openDB } from 'idb';

const DATABASE = 'wanderweg';
const DATABASE_VERSION = 7;
/** A store that cannot be opened while another tab keeps an older one open is not waited for longer than this. */
const BLOCKED_AFTER_MS = 1500;
const ONCE_MORE_AFTER_MS = 150;

/** Parts of the browser's store. Rows of those in `KEYED` have their key, `id`, in them. */
export type Part =
  | 'crafts'
  | 'flights'
  | 'replaced'
  | 'aside'
  | 'desk'
  | 'bench'
  | 'snapshots'
  | 'contents'
  | 'firmware'
  | 'sites'
  | 'conventions'
  | 'tunings'
  | 'logs'
  | 'logBytes';

export type RowChange =
  | { readonly in: Part; readonly put: unknown; readonly key?: string }
  | { readonly in: Part; readonly delete: string };

/** What is kept between visits. Each may refuse, with a `StoreFault`. */
export interface Rows {
  get(from: Part, key: string): Promise<unknown>;
  all(from: Part): Promise<readonly unknown[]>;
  keys(from: Part): Promise<readonly string[]>;
  /** All of it or nothing. */
  write(changes: readonly RowChange[]): Promise<void>;
  /**
   * Puts a row with a count of its changes, `rev`, where the one kept is the one that was read: of two who write the
   * same row, the second is told. @param after rev of the row kept until now; null for none. @returns false where it is
   * another
   */
  swap(
    into: Part,
    row: { readonly id: string; readonly rev: number },
    after: number | null,
  ): Promise<boolean>;
}

/** Why the browser keeps nothing, in the one way that it is said. */
export type StoreFaultKind = 'refused' | 'full' | 'newer' | 'blocked';

export const storeFaultWords: Readonly<Record<StoreFaultKind, string>> = {
  refused:
    'This browser keeps nothing for us (a private window, or storage is switched off). Your work lives only in this tab: save the craft to a file before you close it.',
  full: 'The disk of this browser is full, so what you do now lives only in this tab. It is tried again every few seconds; until then save the craft to a file before you close the tab.',
  newer:
    'A newer Wanderweg has used this browser, and this one does not read what it kept. Nothing of that is touched. Open the newer one, or go on here and save the craft to a file.',
  blocked:
    'Another tab holds an older Wanderweg open, so nothing can be kept yet. Close that tab; until then save the craft to a file before you close this one.',
};

/** The browser's store did not do what it was asked. */
export class StoreFault extends Error {
  constructor(readonly kind: StoreFaultKind) {
    super(storeFaultWords[kind]);
  }
}

const KEYED: readonly Part[] = ['crafts', 'replaced', 'aside', 'snapshots', 'conventions', 'tunings', 'logs'];

function faultOf(error: unknown): StoreFault {
  if (error instanceof StoreFault) return error;
  const name = (error as { name?: unknown } | null)?.name;
  if (name === 'VersionError') return new StoreFault('newer');
  if (name === 'QuotaExceededError') return new StoreFault('full');
  return new StoreFault('refused');
}

let database: Promise<IDBPDatabase> | null = null;

/** Everything that is kept, made or brought to the newest form. Nothing of an older form is thrown away. */
function openStore(): Promise<IDBPDatabase> {
  let late: ReturnType<typeof setTimeout> | undefined;
  const held = new Promise<never>((_, reject) => {
    late = setTimeout(() => reject(new StoreFault('blocked')), BLOCKED_AFTER_MS);
  });
  let isBlocked = false;
  const opening = openDB(DATABASE, DATABASE_VERSION, {
    async upgrade(db, from, _to, tx) {
      if (from < 1) db.createObjectStore('bench');
      if (from < 2) {
        db.createObjectStore('snapshots', { keyPath: 'id' });
        db.createObjectStore('contents');
      }
      if (from < 3) db.createObjectStore('firmware');
      if (from < 4) db.createObjectStore('sites');
      if (from < 5) {
        for (const part of ['crafts', 'replaced', 'aside'] as const)
          db.createObjectStore(part, { keyPath: 'id' });
        for (const part of ['flights', 'desk'] as const) db.createObjectStore(part);
        if (from > 0) {
          // One craft was kept alone; it becomes the first of several, and the boards on its bench stay with it.
          const old = await tx.objectStore('craft' as never).get('current');
          if (old !== undefined) {
            await tx.objectStore('desk').put(old, 'before version 5');
            const boards = tx.objectStore('bench');
            for (const key of await boards.getAllKeys()) {
              await boards.put(await boards.get(key), `first/${String(key)}`);
              await boards.delete(key);
            }
          }
          db.deleteObjectStore('craft');
        }
      }
      if (from < 6) {
        db.createObjectStore('conventions', { keyPath: 'name' });
        db.createObjectStore('tunings', { keyPath: 'id' });
      }
      if (from < 7) {
        db.createObjectStore('logs', { keyPath: 'id' });
        db.createObjectStore('logBytes');
      }
    },
    blocked: () => {
      isBlocked = true;
    },
    // Another tab with a newer version waits for this one to let go.
    blocking: () => {
      void opening.then((db) => db.close());
      database = null;
    },
    terminated: () => {
      database = null;
    },
  });
  opening.then(
    () => clearTimeout(late),
    () => clearTimeout(late),
  );
  return Promise.race([
    opening,
    held.catch((fault) => {
      // A store that is only slow is waited for.
      if (!isBlocked) return opening;
      void opening.then((db) => db.close()).catch(() => {});
      throw fault;
    }),
  ]);
}

/** It refused when it was last asked. */
let refusing = false;

/** Does something with the store. One that fails to open is asked once more at once, and anew with the next use. */
async function inStore<T>(use: (db: IDBPDatabase) => Promise<T>): Promise<T> {
  try {
    try {
      database ??= openStore();
      return await use(await database);
    } catch (error) {
      database = null;
      const { kind } = faultOf(error);
      // One that has refused twice is not asked twice any more, until it worked again.
      if (kind !== 'refused' || refusing) throw error;
      await new Promise((resolve) => setTimeout(resolve, ONCE_MORE_AFTER_MS));
      database = openStore();
      return await use(await database);
    } finally {
      refusing = false;
    }
  } catch (error) {
    database = null;
    const fault = faultOf(error);
    refusing = fault.kind === 'refused';
    throw fault;
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
        const { key } = c as { key?: string };
        // A fault of one comes out of the transaction as a whole.
        void (
          'delete' in c ? part.delete(c.delete) : part.put(c.put, KEYED.includes(c.in) ? undefined : key)
        ).catch(() => {});
      }
      await tx.done;
    }),
  swap: (into, row, after) =>
    inStore(async (db) => {
      const tx = db.transaction(into, 'readwrite');
      const kept = (await tx.store.get(row.id)) as { rev?: unknown } | undefined;
      const fits = (kept?.rev ?? null) === after;
      if (fits) void tx.store.put(row).catch(() => {});
      await tx.done;
      return fits;
    }),
};
