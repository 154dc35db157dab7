import {
  causeWords,
  changedKeys,
  newestOf,
  remember,
  type Snapshot,
  type SnapshotCause,
  snapshotSchema,
  writeHistory,
} from '#core/formats/history.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Identity } from '#core/wire/messages.ts';
import { saveText, slug } from './files.ts';
import { notify } from './notify.tsx';
import type { MetBefore } from './store/boardSlice.ts';
import { openStore } from './store/database.ts';
import { historyLoaded, type Side, snapshotsGone, snapshotsKept } from './store/historySlice.ts';
import { selectValues } from './store/selectors.ts';
import { store } from './store/store.ts';
import { workshop } from './workers/index.ts';

/** The history of settings in the browser: what is kept, looked up, brought in and let go. */

let loading: Promise<void> | null = null;

/** Reads the list of snapshots once; their settings stay where they are. */
export function loadHistory(): Promise<void> {
  loading ??= (async () => {
    try {
      const rows: unknown[] = await (await openStore()).getAll('snapshots');
      const good = rows.flatMap((r) => {
        const parsed = snapshotSchema.safeParse(r);
        return parsed.success ? [parsed.data] : [];
      });
      store.dispatch(historyLoaded(good));
    } catch {
      // Without a store nothing was kept; the banner about storage says so.
      store.dispatch(historyLoaded([]));
    }
  })();
  return loading;
}

/** Settings of snapshots taken in a tab whose browser keeps nothing. */
const inThisTab = new Map<string, Values>();

/** False where the browser keeps nothing: then they live in this tab. */
async function put(
  snapshots: readonly Snapshot[],
  contents: Readonly<Record<string, Values>>,
): Promise<boolean> {
  let kept = true;
  for (const [name, values] of Object.entries(contents)) inThisTab.set(name, values);
  try {
    const tx = (await openStore()).transaction(['snapshots', 'contents'], 'readwrite');
    for (const [name, values] of Object.entries(contents)) void tx.objectStore('contents').put(values, name);
    for (const s of snapshots) void tx.objectStore('snapshots').put(s);
    await tx.done;
  } catch {
    // The banner about storage is shown for the craft; the snapshot lives in this tab.
    kept = false;
  }
  // Shown once it is kept, so that what is seen is there after a reload as well.
  store.dispatch(snapshotsKept(snapshots));
  return kept;
}

/** Keeps what a board holds now. Gives the snapshot, the one of the same board before it, and whether it will last. */
export async function keep(
  cause: SnapshotCause,
  identity: Identity,
  values: Values,
): Promise<{ snapshot: Snapshot; before: Snapshot | undefined; lasts: boolean }> {
  await loadHistory();
  const state = store.getState();
  const { snapshots } = state.history;
  const before = newestOf(snapshots, identity.serial);
  const { board, target, revision, serial, firmware, version } = identity;
  const of = {
    cause,
    board,
    target,
    revision,
    serial,
    firmware,
    version,
    craft: state.craft.file?.name ?? '',
    setup: state.craft.file?.setup ?? '',
  };
  const { snapshot } = remember(snapshots, of, values, new Date().toISOString());
  const lasts = await put([snapshot], { [snapshot.content]: values });
  return { snapshot, before, lasts };
}

/** Keeps what a board was met with, and says whether it was seen before and what changed on it since. */
export async function keepMet(identity: Identity, values: Values): Promise<MetBefore | null> {
  const { before } = await keep('met', identity, values);
  if (!before) return null;
  const then = await contentOf(before.id);
  return {
    id: before.id,
    lastAt: before.lastAt,
    // Another version has other names: what changed there is told by the comparison, which carries them over.
    changed: then && before.version === identity.version ? changedKeys(then, values).length : 0,
    version: before.version === identity.version ? null : before.version,
  };
}

/** The settings of one side of a comparison; null where they are not to be had. */
export async function contentOf(side: Side): Promise<Values | null> {
  const state = store.getState();
  if (side === 'board') return state.settings.base;
  if (side === 'draft') return selectValues(state);
  const snapshot = state.history.snapshots.find((s) => s.id === side);
  if (!snapshot) return null;
  const here = inThisTab.get(snapshot.content);
  if (here) return here;
  try {
    const values: unknown = await (await openStore()).get('contents', snapshot.content);
    return (values as Values | undefined) ?? null;
  } catch {
    return null;
  }
}

export async function noteOn(id: string, change: Partial<Pick<Snapshot, 'note' | 'setup'>>): Promise<void> {
  const snapshot = store.getState().history.snapshots.find((s) => s.id === id);
  if (snapshot) await put([{ ...snapshot, ...change }], {});
}

/** Lets snapshots go, and their settings where no other has the same. They can be had back for a moment. */
export async function letGo(snapshots: readonly Snapshot[]): Promise<void> {
  const contents: Record<string, Values> = {};
  for (const s of snapshots) {
    const values = await contentOf(s.id);
    if (values) contents[s.content] = values;
  }
  store.dispatch(snapshotsGone(snapshots.map((s) => s.id)));
  const used = new Set(store.getState().history.snapshots.map((s) => s.content));
  try {
    const tx = (await openStore()).transaction(['snapshots', 'contents'], 'readwrite');
    for (const s of snapshots) {
      await tx.objectStore('snapshots').delete(s.id);
      if (!used.has(s.content)) await tx.objectStore('contents').delete(s.content);
    }
    await tx.done;
  } catch {
    // Nothing was kept there either.
  }
  void notify(`${snapshots.length === 1 ? 'A snapshot was' : `${snapshots.length} snapshots were`} let go.`, {
    label: 'Have them back',
    onClick: () => void put(snapshots, contents),
  });
}

/** Gives snapshots to the person as a file. */
export async function exportHistory(snapshots: readonly Snapshot[]): Promise<void> {
  const contents: Record<string, Values> = {};
  for (const s of snapshots) {
    const values = await contentOf(s.id);
    if (values) contents[s.content] = values;
  }
  const whole = snapshots.filter((s) => contents[s.content]);
  const first = whole[0];
  const name = whole.length === 1 && first ? `${slug(first.craft)}-${first.at.slice(0, 10)}` : 'settings';
  saveText(
    `${name}.wanderweg-history.json`,
    'application/json',
    writeHistory({ snapshots: whole, contents }),
  );
}

/** Brings in an exported history. A sentence when the file is not one; nothing changes then. */
export async function importHistory(text: string): Promise<string | null> {
  const read = await workshop().readHistory(text);
  if (!read.ok) return read.why;
  await loadHistory();
  const known = new Set(store.getState().history.snapshots.map((s) => s.id));
  const fresh = read.history.snapshots.filter((s) => !known.has(s.id));
  await put(fresh, read.history.contents);
  const already = read.history.snapshots.length - fresh.length;
  void notify(
    `${fresh.length} ${fresh.length === 1 ? 'snapshot was' : 'snapshots were'} brought in${already > 0 ? `; ${already} were here already` : ''}.`,
  );
  return null;
}

/** What a side is called. */
export function sideName(side: Side, snapshots: readonly Snapshot[]): string {
  if (side === 'board') return 'the board as last read';
  if (side === 'draft') return 'the board with the waiting edits';
  const s = snapshots.find((x) => x.id === side);
  return s ? `${when(s.lastAt)}, ${causeWords[s.cause]}${s.setup ? `, ${s.setup}` : ''}` : 'nothing';
}

const clock = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
});

/** "23 Nov 2026, 19:04" in the person's own time. */
export function when(at: string): string {
  return clock.format(new Date(at));
}
