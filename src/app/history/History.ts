import {
  changedKeys,
  MAX_HISTORY_BYTES,
  newestOf,
  type ReadHistory,
  remember,
  type Snapshot,
  type SnapshotCause,
  snapshotSchema,
  writeHistory,
} from '#core/formats/history.ts';
import { parsed } from '#core/parsed.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Identity } from '#core/wire/messages.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import { slug } from '../files.ts';
import type { MetBefore } from '../store/boardSlice.ts';
import type { RowChange, Rows } from '../store/database.ts';
import { historyLoaded, type Side, snapshotsGone, snapshotsKept } from '../store/historySlice.ts';
import { selectValues } from '../store/selectors.ts';

/** What a history works with; nothing of it is the browser's own. */
export interface HistoryParts {
  readonly store: SessionParts['store'];
  readonly storage: Rows;
  /** RFC 3339 */
  readonly now: () => string;
  /** Reads an exported history, away from the page. */
  readonly read: (text: string) => Promise<ReadHistory>;
  /** Gives a text to the person as a file. */
  readonly save: (name: string, type: string, text: string) => void;
  readonly say: SessionParts['say'];
}

/** The history of settings: what is kept, looked up, brought in and let go. Its list is in the store. */
export class History {
  private loading: Promise<void> | null = null;
  /** Settings of snapshots taken where the browser keeps nothing. */
  private readonly inThisTab = new Map<string, Values>();

  constructor(private readonly parts: HistoryParts) {}

  private get state() {
    return this.parts.store.getState();
  }

  /** Reads the list of snapshots once; their settings stay where they are. */
  load(): Promise<void> {
    this.loading ??= (async () => {
      let kept: readonly unknown[] = [];
      try {
        kept = await this.parts.storage.all('snapshots');
      } catch {
        // Without a store nothing was kept; the banner about storage says so.
      }
      const good = kept.flatMap((r) => parsed(snapshotSchema, r).data ?? []);
      this.parts.store.dispatch(historyLoaded(good));
    })();
    return this.loading;
  }

  /** False where the browser keeps nothing: then they live in this tab. */
  private async put(
    snapshots: readonly Snapshot[],
    contents: Readonly<Record<string, Values>>,
  ): Promise<boolean> {
    let kept = true;
    for (const [name, values] of Object.entries(contents)) this.inThisTab.set(name, values);
    try {
      await this.parts.storage.write([
        ...Object.entries(contents).map(([key, put]) => ({ in: 'contents', put, key }) as const),
        ...snapshots.map((put) => ({ in: 'snapshots', put }) as const),
      ]);
    } catch {
      // The banner about storage is shown for the craft; the snapshot lives in this tab.
      kept = false;
    }
    // Shown once it is kept, so that what is seen is there after a reload as well.
    this.parts.store.dispatch(snapshotsKept(snapshots));
    return kept;
  }

  /** Keeps what a board holds now. Gives the snapshot, the one of the same board before it, and whether it will last. */
  async keep(
    cause: SnapshotCause,
    identity: Identity,
    values: Values,
  ): Promise<{ snapshot: Snapshot; before: Snapshot | undefined; lasts: boolean }> {
    await this.load();
    const { history, craft } = this.state;
    const before = newestOf(history.snapshots, identity.serial);
    const { board, target, revision, serial, firmware, version } = identity;
    const of = {
      cause,
      board,
      target,
      revision,
      serial,
      firmware,
      version,
      craft: craft.file?.name ?? '',
      setup: craft.file?.setup ?? '',
    };
    const { snapshot } = remember(history.snapshots, of, values, this.parts.now());
    const lasts = await this.put([snapshot], { [snapshot.content]: values });
    return { snapshot, before, lasts };
  }

  /** Keeps what a board was met with, and says whether it was seen before and what changed on it since. */
  async keepMet(identity: Identity, values: Values): Promise<MetBefore | null> {
    const { before } = await this.keep('met', identity, values);
    if (!before) return null;
    const then = await this.contentOf(before.id);
    return {
      id: before.id,
      lastAt: before.lastAt,
      // Another version has other names: what changed there is told by the comparison, which carries them over.
      changed: then && before.version === identity.version ? changedKeys(then, values).length : 0,
      version: before.version === identity.version ? null : before.version,
    };
  }

  /** The settings of one side of a comparison; null where they are not to be had. */
  async contentOf(side: Side): Promise<Values | null> {
    if (side === 'board') return this.state.settings.base;
    if (side === 'draft') return selectValues(this.state);
    const snapshot = this.state.history.snapshots.find((s) => s.id === side);
    if (!snapshot) return null;
    const here = this.inThisTab.get(snapshot.content);
    if (here) return here;
    try {
      const values = await this.parts.storage.get('contents', snapshot.content);
      return (values as Values | undefined) ?? null;
    } catch {
      return null;
    }
  }

  private async isKept(content: string): Promise<boolean> {
    return (await this.parts.storage.get('contents', content).catch(() => undefined)) !== undefined;
  }

  private async contentsOf(snapshots: readonly Snapshot[]): Promise<Record<string, Values>> {
    const contents: Record<string, Values> = {};
    for (const s of snapshots) {
      const values = await this.contentOf(s.id);
      if (values) contents[s.content] = values;
    }
    return contents;
  }

  async noteOn(id: string, change: Partial<Pick<Snapshot, 'note' | 'setup'>>): Promise<void> {
    const snapshot = this.state.history.snapshots.find((s) => s.id === id);
    if (snapshot) await this.put([{ ...snapshot, ...change }], {});
  }

  /** Lets snapshots go, and their settings where no other has the same. They can be had back for a moment. */
  async letGo(snapshots: readonly Snapshot[]): Promise<void> {
    const contents = await this.contentsOf(snapshots);
    this.parts.store.dispatch(snapshotsGone(snapshots.map((s) => s.id)));
    const used = new Set(this.state.history.snapshots.map((s) => s.content));
    try {
      await this.parts.storage.write(
        snapshots.flatMap(({ id, content }): RowChange[] => [
          { in: 'snapshots', delete: id },
          ...(used.has(content) ? [] : [{ in: 'contents', delete: content } as const]),
        ]),
      );
    } catch {
      // Nothing was kept there either.
    }
    const words = snapshots.length === 1 ? 'A snapshot was' : `${snapshots.length} snapshots were`;
    this.parts.say(`${words} let go.`, {
      label: 'Have them back',
      onClick: () => void this.put(snapshots, contents),
    });
  }

  /** Gives snapshots to the person as a file. */
  async exportFile(snapshots: readonly Snapshot[]): Promise<void> {
    const contents = await this.contentsOf(snapshots);
    const whole = snapshots.filter((s) => contents[s.content]);
    const first = whole[0];
    const name = whole.length === 1 && first ? `${slug(first.craft)}-${first.at.slice(0, 10)}` : 'settings';
    const text = writeHistory({ snapshots: whole, contents });
    if (text.length > MAX_HISTORY_BYTES) {
      this.parts.say(
        `A file of all that would have ${(text.length / 1e6).toFixed(0)} MB, and only ${MAX_HISTORY_BYTES / 1e6} MB can be read back. Search for a board or a craft and save that alone; nothing was saved.`,
      );
      return;
    }
    this.parts.save(`${name}.wanderweg-history.json`, 'application/json', text);
  }

  /** Brings in an exported history. A sentence when the file is not one; nothing changes then. */
  async importText(text: string): Promise<string | null> {
    const read = await this.parts.read(text);
    if (!read.ok) return read.why;
    await this.load();
    const known = new Set(this.state.history.snapshots.map((s) => s.id));
    const fresh = read.history.snapshots.filter((s) => !known.has(s.id));
    // Settings that are here stay as they are; a file only adds those that its new snapshots need.
    const contents: Record<string, Values> = {};
    for (const { content } of fresh) {
      const here = this.inThisTab.has(content) || (await this.isKept(content));
      if (!here) contents[content] = read.history.contents[content]!;
    }
    await this.put(fresh, contents);
    const already = read.history.snapshots.length - fresh.length;
    this.parts.say(
      `${fresh.length} ${fresh.length === 1 ? 'snapshot was' : 'snapshots were'} brought in${already > 0 ? `; ${already} were here already` : ''}.`,
    );
    return null;
  }
}
