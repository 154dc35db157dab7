import { describe, expect, it } from 'vitest';
import { readHistory } from '#core/formats/history.ts';
import type { Identity } from '#core/wire/messages.ts';
import { demoCraft, demoValues } from '../../testing/demoCraft.ts';
import { MemoryRows } from '../../testing/memoryRows.ts';
import { craftLoaded } from '../store/craftSlice.ts';
import { makeStore } from '../store/store.ts';
import { History } from './History.ts';

const identity: Identity = {
  board: 'Fell F7',
  revision: 'A',
  target: 'fell-f7',
  firmware: 'Pfad',
  version: '3.2',
  serial: 'FF7-1',
  link: 1,
  settings: 380,
  fingerprint: '',
  uptimeS: 1,
  restartCause: 'power on',
  can: { requests: [], telemetry: [], procedures: [], streams: [] },
};
const base = demoValues('turnstone');

function visit(storage: MemoryRows) {
  const store = makeStore();
  store.dispatch(craftLoaded(demoCraft('turnstone')));
  const said: { text: string; back?: () => void }[] = [];
  const saved: string[] = [];
  let minute = 0;
  const history = new History({
    store,
    storage,
    now: () => `2026-11-25T10:${String(minute++).padStart(2, '0')}:00Z`,
    read: async (text) => readHistory(text),
    save: (_name, _type, text) => saved.push(text),
    say: (text, action) => said.push({ text, ...(action ? { back: action.onClick } : {}) }),
  });
  return { history, said, saved, list: () => store.getState().history.snapshots };
}

describe('the history of settings', () => {
  it('knows a board again in the next visit, and what changed on it since', async () => {
    const storage = new MemoryRows();
    expect(await visit(storage).history.keepMet(identity, base)).toBeNull();
    const next = visit(storage);
    const before = await next.history.keepMet(identity, { ...base, 'return.height': 99, 'return.speed': 12 });
    expect(before).toMatchObject({ changed: 2, version: null });
    expect(next.list()).toHaveLength(2);
    expect((await next.history.contentOf(before!.id))?.['return.height']).toBe(405);
    // Of another version nothing is counted: its names are others.
    expect(await next.history.keepMet({ ...identity, version: '3.0' }, base)).toMatchObject({
      changed: 0,
      version: '3.2',
    });
  });

  it('lets go, and gives back on request, together with the settings that no other has', async () => {
    const storage = new MemoryRows();
    const { history, said, list } = visit(storage);
    const { snapshot } = await history.keep('by-hand', identity, base);
    await history.letGo([snapshot]);
    expect(list()).toEqual([]);
    expect(await storage.all('contents')).toEqual([]);
    said.at(-1)!.back!();
    await expect.poll(list).toHaveLength(1);
    expect(await history.contentOf(snapshot.id)).toEqual(base);
  });

  it('leaves as a file and comes in again, each once', async () => {
    const { history, saved } = visit(new MemoryRows());
    const { snapshot } = await history.keep('by-hand', identity, base);
    await history.exportFile([snapshot]);
    const other = visit(new MemoryRows());
    expect(await other.history.importText('{}')).toMatch(/\.$/);
    expect(await other.history.importText(saved[0]!)).toBeNull();
    expect(await other.history.importText(saved[0]!)).toBeNull();
    expect(other.list()).toHaveLength(1);
    expect(other.said.at(-1)!.text).toContain('1 were here already');
    expect(await other.history.contentOf(snapshot.id)).toEqual(base);
  });

  it('lives in the tab where the browser keeps nothing, and says that it will not last', async () => {
    const storage = new MemoryRows();
    storage.refuses = true;
    const { history, list } = visit(storage);
    const { snapshot, lasts } = await history.keep('by-hand', identity, base);
    expect(lasts).toBe(false);
    expect(list()).toHaveLength(1);
    expect(await history.contentOf(snapshot.id)).toEqual(base);
    await history.letGo([snapshot]);
    expect(list()).toEqual([]);
  });
});
