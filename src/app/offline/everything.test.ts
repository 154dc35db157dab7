import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { encodeCbor } from '#core/wire/frames.ts';
import { demoCraft } from '../../testing/demoCraft.ts';
import { MemoryRows } from '../../testing/memoryRows.ts';
import { StoreFault } from '../store/database.ts';
import { bringBack, broughtBackWords, packEverything } from './everything.ts';

const record = (id: string, name: string) => ({
  ...{
    id,
    rev: 3,
    savedAt: '2026-11-01T10:00:00Z',
    demo: false,
    baseFrom: 'file',
    scenario: null,
    past: [],
    future: [],
  },
  craft: JSON.stringify({ ...demoCraft('turnstone'), name }),
});
async function browser() {
  const rows = new MemoryRows();
  await rows.write([
    { in: 'crafts', put: record('a', 'Turnstone') },
    { in: 'crafts', put: record('b', 'Dunlin') },
    { in: 'flights', put: { result: null, beside: [] }, key: 'b' },
    { in: 'bench', put: { flash: Uint8Array.of(1, 2, 255), at: 3 }, key: 'b/FF7' },
    { in: 'contents', put: { 'return.height': 120 }, key: 'c0' },
    { in: 'sites', put: 'text of a site', key: 'Torvholm' },
  ]);
  return rows;
}
const AT = '2026-11-27T12:00:00Z';
let ids = 0;
const newId = () => `new-${++ids}`;

describe('everything in one file', () => {
  it('comes back whole in an empty browser', async () => {
    const from = await browser();
    const to = new MemoryRows();
    const done = await bringBack(to, await packEverything(from, AT), newId);
    expect(done).toEqual({ ok: true, added: 6, same: 0, stayed: 0, twice: [] });
    for (const [part, key] of [
      ['crafts', 'a'],
      ['flights', 'b'],
      ['bench', 'b/FF7'],
      ['contents', 'c0'],
      ['sites', 'Torvholm'],
    ] as const)
      expect(await to.get(part, key), part).toEqual(await from.get(part, key));
    // Once more changes nothing.
    expect(await bringBack(to, await packEverything(from, AT), newId)).toMatchObject({ added: 0, same: 6 });
  });

  it('has the flights that were read, with every byte; they go with the craft that they were flown by', async () => {
    const log = (id: string) => ({
      ...{ id, serial: 'FF7', flight: 1, startedS: 12.5, file: '', total: 4, upTo: 4, whole: true },
      readAt: AT,
    });
    const [here, there] = [await browser(), await browser()];
    await there.write([
      { in: 'logs', put: log('b/FF7/1/12.5') },
      { in: 'logBytes', put: Uint8Array.of(0, 255, 7, 9), key: 'b/FF7/1/12.5' },
    ]);
    const empty = new MemoryRows();
    await bringBack(empty, await packEverything(there, AT), newId);
    expect(await empty.get('logBytes', 'b/FF7/1/12.5')).toEqual(Uint8Array.of(0, 255, 7, 9));
    expect(await empty.get('logs', 'b/FF7/1/12.5')).toEqual(log('b/FF7/1/12.5'));
    // Changed on both: the flights of the other one go with it.
    await there.write([{ in: 'crafts', put: record('b', 'Dunlin heavier') }]);
    await bringBack(here, await packEverything(there, AT), () => 'other');
    expect(await here.get('logs', 'other/FF7/1/12.5')).toMatchObject({ id: 'other/FF7/1/12.5', flight: 1 });
    expect(await here.get('logBytes', 'other/FF7/1/12.5')).toEqual(Uint8Array.of(0, 255, 7, 9));
    expect(await here.get('logs', 'b/FF7/1/12.5')).toBeUndefined();
  });

  it('loses nothing of a craft that was changed on two devices: both are kept, with what hangs on each', async () => {
    const [here, there] = [await browser(), await browser()];
    await there.write([
      { in: 'crafts', put: record('b', 'Dunlin heavier') },
      { in: 'flights', put: { result: null, beside: [1] }, key: 'b' },
      { in: 'sites', put: 'another text', key: 'Torvholm' },
    ]);
    const done = await bringBack(here, await packEverything(there, AT), () => 'other');
    expect(done).toMatchObject({ ok: true, added: 3, stayed: 1, twice: ['Dunlin heavier, brought in'] });
    expect(((await here.get('crafts', 'b')) as { craft: string }).craft).toContain('"Dunlin"');
    expect(await here.get('crafts', 'other')).toMatchObject({ id: 'other', rev: 0 });
    expect(await here.get('flights', 'other')).toEqual({ result: null, beside: [1] });
    expect(await here.get('bench', 'other/FF7')).toMatchObject({ at: 3 });
    expect(await here.get('sites', 'Torvholm')).toBe('text of a site');
    if (done.ok)
      expect(broughtBackWords(done)).toContain('kept side by side: Dunlin heavier, brought in. Look at both');
  });

  it('is refused in a sentence where it is none, and changes nothing', async () => {
    const rows = await browser();
    const bad = [
      new Uint8Array(),
      encodeCbor('hello'),
      encodeCbor({ format: 'wanderweg-everything', version: 2, at: AT, parts: {} }),
      encodeCbor({
        format: 'wanderweg-everything',
        version: 1,
        at: AT,
        parts: { crafts: [{ key: '', value: 1 }] },
      }),
      (await packEverything(rows, AT)).slice(0, -40),
    ];
    for (const bytes of bad)
      expect(await bringBack(rows, bytes, newId)).toMatchObject({
        ok: false,
        why: expect.stringContaining('Nothing was changed.'),
      });
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 200 }), async (noise) => {
        expect((await bringBack(rows, noise, newId)).ok).toBe(false);
      }),
    );
    expect(await rows.keys('crafts')).toEqual(['a', 'b']);
  });

  it('tells a full disk as such, and brings in nothing by half', async () => {
    const file = await packEverything(await browser(), AT);
    const full = new MemoryRows();
    full.write = async () => {
      throw new StoreFault('full');
    };
    await expect(bringBack(full, file, newId)).rejects.toThrow('full');
    expect(await full.keys('crafts')).toEqual([]);
  });
});
