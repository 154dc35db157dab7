import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { writeCraftFile } from '#core/formats/craftFile.ts';
import { makeProof } from '#core/proofs/proofs.ts';
import { bareSite } from '#core/site/site.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoCraft } from '../../testing/demoCraft.ts';
import { MemoryRows } from '../../testing/memoryRows.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { batchBegun, batchFlown } from '../store/batchSlice.ts';
import { airframeChanged, fieldBookChanged, videoSupplySaid } from '../store/craftSlice.ts';
import { StoreFault, storeFaultWords } from '../store/database.ts';
import { staged } from '../store/settingsSlice.ts';
import { siteTaken } from '../store/siteSlice.ts';
import { makeStore } from '../store/store.ts';
import { undone } from '../store/timeline.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Desk, type OnBench } from './Desk.ts';
import type { Hold } from './hold.ts';
import { CraftRecords, MOST_REPLACED } from './records.ts';

const known = { version: '3.2', entries: pfadCatalogue.entries, rules: pfadCatalogue.rules };

/** Locks of one browser, which its tabs share. */
class Locks {
  readonly held = new Map<string, TestHold>();
  readonly all: TestHold[] = [];
}

class TestHold implements Hold {
  onAsked = async () => {};
  onLost = () => {};
  onKept: (id: string) => void = () => {};
  /** A tab that is frozen does not answer. */
  frozen = false;

  constructor(private readonly locks: Locks) {
    locks.all.push(this);
  }

  async take(id: string): Promise<boolean> {
    this.letGo();
    if (this.locks.held.has(id)) return false;
    this.locks.held.set(id, this);
    return true;
  }

  async takeOver(id: string): Promise<void> {
    const other = this.locks.held.get(id);
    if (other && !other.frozen) {
      await other.onAsked();
      other.onLost();
    }
    this.locks.held.set(id, this);
  }

  letGo(): void {
    for (const [id, by] of this.locks.held) if (by === this) this.locks.held.delete(id);
  }

  tellKept(id: string): void {
    for (const h of this.locks.all) if (h !== this) h.onKept(id);
  }
}

/** A browser: its store and its locks. A tab of it is a desk with a store of its own. */
function browser() {
  const rows = new MemoryRows();
  const locks = new Locks();
  let ids = 0;
  let clock = 0;
  const newId = () => `id${++ids}`;
  const now = () => new Date(Date.UTC(2026, 0, 1) + 1000 * clock++).toISOString();
  const records = new CraftRecords(rows, now, newId);
  const tab = (session: { id: string | null } = { id: null }) => {
    const store = makeStore();
    const hold = new TestHold(locks);
    const bench: OnBench[] = [];
    let benchMs = 0;
    const holdBench = (ms: number) => {
      benchMs = ms;
    };
    const said: string[] = [];
    const desk = new Desk({
      store,
      records,
      rows,
      hold,
      bench: {
        setUp: async (what) => {
          bench.push(what);
          if (benchMs > 0) await new Promise((resolve) => setTimeout(resolve, benchMs));
        },
        keepNow: async () => {},
      },
      known: async () => known,
      goTo: async (_, home) => {
        store.dispatch(siteTaken({ site: bareSite(home, 2026), named: false }));
      },
      leaveBoard: async () => {},
      tab: {
        get: () => session.id,
        set: (id) => {
          session.id = id;
        },
      },
      newId,
      say: (text) => said.push(text),
    });
    const edits = () => store.getState().settings.edits;
    return {
      store,
      desk,
      hold,
      bench,
      holdBench,
      said,
      edits,
      session,
      crafts: () => store.getState().crafts,
    };
  };
  return { rows, records, tab };
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

const settle = () => vi.advanceTimersByTimeAsync(1500);
const height = (v: number) => staged({ 'return.height': v });

describe('the desk', () => {
  it('is empty on a first visit', async () => {
    const { desk, crafts } = browser().tab();
    await desk.start();
    expect(crafts().status).toBe('none');
  });

  it('has the craft with its edits and their steps back after a reload', async () => {
    const b = browser();
    const one = b.tab();
    await one.desk.start();
    await one.desk.add(demoCraft('turnstone'));
    expect(one.bench.at(-1)).toMatchObject({ anew: true, target: 'fell-f7' });
    one.store.dispatch(height(300));
    one.store.dispatch(height(310));
    one.store.dispatch(airframeChanged({ ...one.store.getState().craft.airframe!, massKg: 2.4 }));
    one.store.dispatch(uiChanged({ theme: 'dusk', units: 'imperial' }));
    await settle();
    one.hold.letGo();
    const two = b.tab();
    await two.desk.start();
    expect(two.edits()).toEqual({ 'return.height': 310 });
    expect(two.store.getState().craft.airframe!.massKg).toBe(2.4);
    expect(two.store.getState().ui).toMatchObject({ theme: 'dusk', units: 'imperial', storageFault: null });
    expect(two.bench.at(-1)).toMatchObject({ anew: false });
    two.store.dispatch(undone());
    expect(two.store.getState().craft.airframe!.massKg).not.toBe(2.4);
    two.store.dispatch(undone());
    expect(two.edits()).toEqual({ 'return.height': 300 });
  });

  it('puts one craft beside another: opening a file, the demo or another takes nothing away', async () => {
    const b = browser();
    const { desk, store, crafts } = b.tab();
    await desk.start();
    await desk.add(demoCraft('turnstone-as-found'), { demo: true });
    expect(crafts()).toMatchObject({ id: 'demo', demo: true });
    store.dispatch(height(300));
    await desk.add(demoCraft('avocet'));
    expect(crafts().demo).toBe(false);
    expect(store.getState().settings.edits).toEqual({});
    store.dispatch(height(60));
    await desk.open('demo');
    expect(store.getState().settings.edits).toEqual({ 'return.height': 300 });
    await desk.list();
    expect(crafts().listed.crafts.map((c) => c.craft.name)).toEqual(['Avocet 7', 'Turnstone 1600']);
    expect(crafts().listed.crafts[0]!.craft.edits).toEqual({ 'return.height': 60 });
    expect(crafts().listed.crafts[1]!.record.way.of).toBeGreaterThan(10);
  });

  it('keeps what is changed while the bench is still being laid out', async () => {
    const b = browser();
    const { desk, store, holdBench } = b.tab();
    await desk.start();
    holdBench(800);
    const added = desk.add(demoCraft('turnstone'));
    await vi.advanceTimersByTimeAsync(100);
    store.dispatch(height(300));
    await vi.advanceTimersByTimeAsync(400);
    store.dispatch(height(310));
    await settle();
    await added;
    store.dispatch(height(320));
    await settle();
    const { crafts } = await b.records.list();
    expect(crafts.map((c) => c.craft.edits)).toEqual([{ 'return.height': 320 }]);
  });

  it('brings a craft that was let go back whole, and forgets the oldest of many', async () => {
    const b = browser();
    const { desk, store, crafts } = b.tab();
    await desk.start();
    await desk.add(demoCraft('turnstone'));
    store.dispatch(height(300));
    const id = crafts().id!;
    await desk.letGo(id, 'let go');
    expect(crafts()).toMatchObject({ status: 'none', id: null });
    expect(crafts().listed.crafts).toEqual([]);
    await desk.bringBack(crafts().listed.replaced[0]!.id);
    expect(crafts().id).toBe(id);
    expect(store.getState().settings.edits).toEqual({ 'return.height': 300 });
    for (let k = 0; k < MOST_REPLACED + 3; k++) await b.records.replace('site', `S${k}`, 'let go', '{}');
    const { replaced } = await b.records.list();
    expect(replaced).toHaveLength(MOST_REPLACED);
    expect(replaced[0]!.name).toBe(`S${MOST_REPLACED + 2}`);
  });

  it('remembers the flown flight, those beside it and a batch, which can go on', async () => {
    const b = browser();
    const one = b.tab();
    await one.desk.start();
    await one.desk.add(demoCraft('turnstone'));
    const proof = makeProof({ kind: 'still', output: 7 }, proofWorld(), '2026-01-01T00:00:00Z');
    one.store.dispatch(batchBegun({ total: 240, proof }));
    const flight = { fromDeg: 0, speedMps: 5, seed: 1, verdict: 'home', reason: 'It is home.', seconds: 300 };
    one.store.dispatch(batchFlown(flight as never));
    await settle();
    one.hold.letGo();
    const two = b.tab();
    await two.desk.start();
    expect(two.store.getState().batch).toMatchObject({
      total: 240,
      flights: [flight],
      run: { kind: 'cancelled' },
    });
  });
});

describe('two tabs', () => {
  async function pair() {
    const b = browser();
    const one = b.tab();
    await one.desk.start();
    await one.desk.add(demoCraft('turnstone'));
    await settle();
    const two = b.tab();
    await two.desk.start();
    return { b, one, two };
  }

  it('one works, the other reads along and changes nothing', async () => {
    const { one, two } = await pair();
    expect(two.crafts()).toMatchObject({ reading: true, status: 'open', id: one.crafts().id });
    expect(two.bench).toEqual([]);
    two.store.dispatch(height(77));
    expect(two.edits()).toEqual({});
    const battery = { kind: 'battery' as const, name: 'B1', since: '2026-01-01' };
    two.store.dispatch(fieldBookChanged({ kit: [battery], signOffs: [], flown: [] }));
    two.store.dispatch(videoSupplySaid({ feed: 'rail', leastV: 4, mostV: 6 }));
    expect(two.store.getState().craft.file).toMatchObject({ name: one.store.getState().craft.file!.name });
    expect(two.store.getState().craft.file!.field).toBeUndefined();
    expect(two.store.getState().craft.file!.video).toBeUndefined();
    one.store.dispatch(height(300));
    await settle();
    expect(two.edits()).toEqual({ 'return.height': 300 });
  });

  it('the other takes it over: everything is kept first, and the roles change', async () => {
    const { one, two } = await pair();
    one.store.dispatch(height(300));
    await two.desk.takeOver();
    expect(two.crafts().reading).toBe(false);
    expect(two.edits()).toEqual({ 'return.height': 300 });
    expect(one.crafts().reading).toBe(true);
    expect(one.said.join()).toContain('Another tab works on this craft now');
    two.store.dispatch(height(320));
    await settle();
    expect(one.edits()).toEqual({ 'return.height': 320 });
  });

  it('of a tab that was frozen and does not know, the work goes beside the other’s', async () => {
    const { b, one, two } = await pair();
    one.hold.frozen = true;
    await two.desk.takeOver();
    two.store.dispatch(height(320));
    await settle();
    one.store.dispatch(height(111));
    await settle();
    const { crafts } = await b.records.list();
    expect(crafts.map((c) => [c.craft.name, c.craft.edits])).toEqual([
      ['Turnstone 1600 (from this tab)', { 'return.height': 111 }],
      ['Turnstone 1600', { 'return.height': 320 }],
    ]);
    expect(one.said.join()).toContain('kept beside it');
    expect(one.crafts()).toMatchObject({ reading: false, id: crafts[0]!.record.id });
  });

  it('have a craft each', async () => {
    const { one, two } = await pair();
    await two.desk.add(demoCraft('avocet'));
    expect(two.crafts().reading).toBe(false);
    expect(one.crafts().reading).toBe(false);
    expect(two.session.id).not.toBe(one.session.id);
  });
});

describe('a browser that refuses', () => {
  it('is said in its own words, tried again, and what was done meanwhile is kept then', async () => {
    for (const kind of ['refused', 'full', 'newer', 'blocked'] as const) {
      const b = browser();
      const { desk, store } = b.tab();
      await desk.start();
      await desk.add(demoCraft('turnstone'));
      b.rows.refuses = new StoreFault(kind);
      store.dispatch(height(300));
      await settle();
      expect(store.getState().ui.storageFault).toBe(storeFaultWords[kind]);
      b.rows.refuses = false;
      await vi.advanceTimersByTimeAsync(5000);
      expect(store.getState().ui.storageFault).toBeNull();
      expect((await b.records.list()).crafts[0]!.craft.edits).toEqual({ 'return.height': 300 });
    }
  });

  it('from the beginning still lets one work, and keeps nothing over what it did not read', async () => {
    const b = browser();
    b.rows.refuses = new StoreFault('newer');
    const { desk, store, crafts } = b.tab();
    await desk.start();
    expect(crafts().status).toBe('none');
    expect(await desk.open('demo')).toBe(false);
    await desk.add(demoCraft('turnstone'));
    store.dispatch(height(300));
    await settle();
    expect(store.getState().settings.edits).toEqual({ 'return.height': 300 });
    expect(store.getState().ui.storageFault).toBe(storeFaultWords.newer);
  });
});

describe('what cannot be read', () => {
  it('is put aside as it is, said why, and never written over', async () => {
    const b = browser();
    const one = b.tab();
    await one.desk.start();
    await one.desk.add(demoCraft('turnstone'));
    await settle();
    one.hold.letGo();
    const id = one.crafts().id!;
    const row = (await b.rows.get('crafts', id)) as { craft: string };
    const damaged = { ...row, craft: row.craft.replace('"massKg": 2.1', '"massKg": 210') };
    await b.rows.write([
      { in: 'crafts', put: damaged, key: id },
      { in: 'crafts', put: { id: 'x', nonsense: true }, key: 'x' },
    ]);
    const two = b.tab();
    await two.desk.start();
    expect(two.crafts().status).toBe('none');
    const { aside } = two.crafts().listed;
    expect(aside.map((a) => a.why)).toEqual(
      expect.arrayContaining([expect.stringContaining('massKg'), expect.stringContaining('damaged')]),
    );
    expect(aside.map((a) => a.raw)).toContainEqual(damaged);
    await two.desk.add(demoCraft('avocet'));
    await settle();
    expect((await b.records.list()).aside).toHaveLength(2);
  });

  it('of steps and scenario is let fall, the craft stays', async () => {
    const b = browser();
    const { desk, store } = b.tab();
    await desk.start();
    await desk.add(demoCraft('turnstone'));
    store.dispatch(height(300));
    await settle();
    const { crafts } = await b.records.list();
    const row = { ...crafts[0]!.record, past: [{ edits: 7 }], scenario: { wind: 'much' }, way: null };
    await b.rows.write([{ in: 'crafts', put: row, key: row.id }]);
    const again = await b.records.list();
    expect(again.crafts[0]!.record).toMatchObject({ past: [], scenario: null, way: { done: 0, of: 0 } });
    expect(again.crafts[0]!.craft.edits).toEqual({ 'return.height': 300 });
  });

  it('of the one craft that was kept before there were several is taken over, steps and all', async () => {
    const b = browser();
    const craft = writeCraftFile({ ...demoCraft('turnstone'), edits: { 'return.height': 310 } });
    const old = { craft, past: [{}, { 'return.height': 300 }], future: [], baseFrom: 'board' };
    await b.rows.write([{ in: 'desk', put: old, key: 'before version 5' }]);
    const { desk, edits, crafts, store } = b.tab();
    await desk.start();
    expect(crafts()).toMatchObject({ id: 'first', status: 'open' });
    expect(edits()).toEqual({ 'return.height': 310 });
    expect(store.getState().settings.baseFrom).toBe('board');
    store.dispatch(undone());
    expect(edits()).toEqual({ 'return.height': 300 });
    expect(await b.rows.get('desk', 'before version 5')).toBeUndefined();
  });
});
