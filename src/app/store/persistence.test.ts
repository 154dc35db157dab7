import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoCraft, demoValues } from '../../testing/demoCraft.ts';
import { craftLoaded } from './craftSlice.ts';
import { loadKept, startPersistence } from './persistence.ts';
import { craftOpened, initialSettings, staged } from './settingsSlice.ts';
import { store } from './store.ts';

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

beforeAll(() => {
  // The store is kept when the page is hidden or left; there is no page here.
  vi.stubGlobal('document', { addEventListener: () => {} });
  vi.stubGlobal('window', { addEventListener: () => {} });
});

describe('what the browser keeps', () => {
  it('is nothing on a first visit', async () => {
    expect(await loadKept()).toBeNull();
  });

  it('is the craft with its edits and their history, within a moment of a change', async () => {
    startPersistence();
    store.dispatch(craftLoaded(demoCraft('turnstone')));
    store.dispatch(
      craftOpened({
        ...initialSettings,
        entries: pfadCatalogue.entries,
        rules: pfadCatalogue.rules,
        base: demoValues('turnstone'),
      }),
    );
    store.dispatch(staged({ 'return.height': 300 }));
    store.dispatch(staged({ 'return.height': 310 }));
    await wait(300);
    const kept = await loadKept();
    expect(kept!.craft.edits).toEqual({ 'return.height': 310 });
    expect(kept!.rest.past).toEqual([{}, { 'return.height': 300 }]);
    expect(store.getState().ui.storageFault).toBeNull();
  });

  it('is refused when damaged, with a sentence', async () => {
    const db = await openDB('wanderweg', 4);
    await db.put('craft', { craft: 7 }, 'current');
    await expect(loadKept()).rejects.toThrow('damaged');
    db.close();
  });
});
