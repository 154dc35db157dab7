import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { anyChanges } from '../../testing/anySettings.ts';
import type { Values } from '../settings/catalogue.ts';
import {
  changedKeys,
  contentName,
  historyBytes,
  newestOf,
  prunable,
  readHistory,
  remember,
  type Snapshot,
  type SnapshotOf,
  searchHistory,
  writeHistory,
} from './history.ts';

const of = (change: Partial<SnapshotOf> = {}): SnapshotOf => ({
  cause: 'met',
  board: 'Fell F7',
  target: 'fell-f7',
  revision: 'A',
  serial: 'FF7-1',
  firmware: 'Pfad',
  version: '3.1',
  craft: 'Turnstone 1600',
  setup: '',
  ...change,
});
const at = (n: number) => new Date(Date.UTC(2026, 4, 1, 8, n)).toISOString();
const base = pfadCatalogue.defaults();

/** A history of boards seen one after the other. */
function seen(list: readonly (readonly [Partial<SnapshotOf>, Values])[]): Snapshot[] {
  let all: Snapshot[] = [];
  list.forEach(([change, values], n) => {
    const { snapshot } = remember(all, of(change), values, at(n));
    all = [...all.filter((s) => s.id !== snapshot.id), snapshot];
  });
  return all;
}

describe('a history', () => {
  it('makes no second entry of a board that holds what it held', () => {
    const all = seen([
      [{}, base],
      [{}, base],
      [{}, { ...base, 'return.height': 90 }],
      [{}, { ...base, 'return.height': 90 }],
    ]);
    expect(all.map((s) => [s.at, s.lastAt])).toEqual([
      [at(0), at(1)],
      [at(2), at(3)],
    ]);
  });

  it('keeps boards and set-ups apart, and what is kept by hand always', () => {
    const all = seen([
      [{}, base],
      [{ serial: 'FF7-2' }, base],
      [{ setup: 'survey camera' }, base],
      [{ setup: 'survey camera', cause: 'by-hand' }, base],
    ]);
    expect(all).toHaveLength(4);
    expect(new Set(all.map((s) => s.content)).size).toBe(1);
    expect(newestOf(all, 'FF7-2')!.at).toBe(at(1));
    expect(newestOf(all, 'FF7-9')).toBeUndefined();
  });

  it('counts shared settings once', () => {
    const one = seen([[{}, base]]);
    const three = seen([
      [{}, base],
      [{ serial: 'b' }, base],
      [{ serial: 'c' }, base],
    ]);
    expect(historyBytes(three) - historyBytes(one)).toBe(800);
  });

  it('names settings by what they hold: equal ones alike, others not', () => {
    fc.assert(
      fc.property(anyChanges(5), anyChanges(5), (a, b) => {
        const [x, y] = [
          { ...base, ...a },
          { ...base, ...b },
        ];
        const entries = Object.entries(x).reverse();
        expect(contentName(Object.fromEntries(entries))).toBe(contentName(x));
        if (changedKeys(x, y).length > 0) expect(contentName(x)).not.toBe(contentName(y));
      }),
    );
  });

  it('lets go of the old, never of the newest, the noted or the named', () => {
    const all = seen(
      Array.from({ length: 30 }, (_, n) => [
        n === 3 ? { setup: 'bare' } : {},
        { ...base, 'return.height': 30 + n },
      ]),
    ).map((s, i) => (i === 5 ? { ...s, note: 'before the crash' } : s));
    const gone = prunable(all, 10);
    expect(gone).toHaveLength(18);
    expect(gone.some((s) => s.note !== '' || s.setup !== '')).toBe(false);
    expect(prunable(all, 100)).toEqual([]);
  });

  it('is searched by any words', () => {
    const all = seen([
      [{ craft: 'Sandpiper 1900' }, base],
      [
        { craft: 'Turnstone 1600', setup: 'survey camera' },
        { ...base, 'return.height': 99 },
      ],
    ]);
    expect(searchHistory(all, 'camera turn')).toHaveLength(1);
    expect(searchHistory(all, '')).toHaveLength(2);
    expect(searchHistory(all, 'quad')).toEqual([]);
  });
});

describe('an exported history', () => {
  const all = seen([
    [{}, base],
    [{}, { ...base, 'return.height': 90 }],
  ]);
  const contents = Object.fromEntries(
    all.map((s, i) => [s.content, i === 0 ? base : { ...base, 'return.height': 90 }]),
  );

  it('comes back as it went out, whole or in part', () => {
    expect(readHistory(writeHistory({ snapshots: all, contents }))).toEqual({
      ok: true,
      history: { snapshots: all, contents },
    });
    const one = readHistory(writeHistory({ snapshots: [all[1]!], contents }));
    expect(one.ok && Object.keys(one.history.contents)).toEqual([all[1]!.content]);
  });

  it('brings only settings that a snapshot of it names', () => {
    const text = writeHistory({ snapshots: [], contents: {} }).replace(
      '"contents":{}',
      JSON.stringify({
        contents: { [all[0]!.content]: { 'return.height': 20, 'lost.action': 'cut' } },
      }).slice(1, -1),
    );
    expect(readHistory(text)).toEqual({ ok: true, history: { snapshots: [], contents: {} } });
  });

  it.each([
    ['no JSON', 'hello', 'not JSON'],
    ['another format', '{"format":"x"}', 'no history'],
    [
      'settings that are missing',
      JSON.stringify({ format: 'wanderweg-history', version: 1, snapshots: all, contents: {} }),
      'missing',
    ],
    [
      'settings that were changed',
      writeHistory({ snapshots: all, contents }).replace('"return.height":90', '"return.height":91'),
      'were changed',
    ],
  ])('is refused with a sentence: %s', (_name, text, words) => {
    const read = readHistory(text);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.why).toMatch(new RegExp(`${words}.*Nothing was taken from it\\.$`));
  });

  it('never throws, whatever the file holds', () => {
    fc.assert(fc.property(fc.json(), (text) => typeof readHistory(text).ok === 'boolean'));
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  });
});
