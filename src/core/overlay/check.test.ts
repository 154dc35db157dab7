import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { Random } from '../math/random.ts';
import type { Values } from '../settings/catalogue.ts';
import { overlayProblems } from './check.ts';
import { type OverlayConfig, overlayConfigOf } from './config.ts';
import { cellAt, columnOf, type ItemId, itemIds, placeKey, rowOf } from './items.ts';
import { itemSize } from './itemText.ts';
import { layoutFromToml, layoutToToml } from './layoutText.ts';
import { boxOf, carried, freeCell, inSight, nowhere, overlaps, usualPlacing } from './place.ts';
import { type VideoId, videoIds, videoSystems } from './videoSystems.ts';

const base: Values = { ...pfadCatalogue.defaults(), 'mode.level.channel': 6, 'mode.loiter.channel': 7 };
const withPlaces = (system: VideoId, places: Partial<Record<ItemId, number>>, more: Values = {}): Values => ({
  ...base,
  'overlay.system': system,
  ...Object.fromEntries(Object.entries(places).map(([id, cell]) => [placeKey('a', id as ItemId), cell])),
  ...more,
});
const checked = (values: Values) => {
  const c = overlayConfigOf(values);
  return overlayProblems('a', c, c.system!, values);
};
const kinds = (values: Values) => checked(values).map((p) => p.kind);

/** Cell by cell: which items may write where, and what lies outside. */
function byCells(c: OverlayConfig) {
  const s = c.system!;
  const writers = new Map<number, ItemId[]>();
  const outside = new Set<ItemId>();
  for (const id of itemIds) {
    const cell = c.layouts.a[id];
    if (cell < 0 || s.draws(id) !== true) continue;
    const { rows, columns } = itemSize(id, c);
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) {
        const [row, column] = [rowOf(cell) + j, columnOf(cell) + i];
        if (row >= s.rows || column >= s.columns) outside.add(id);
        const at = 1000 * row + column;
        writers.set(at, [...(writers.get(at) ?? []), id]);
      }
  }
  const pairs = new Set<string>();
  for (const ids of writers.values())
    for (const [i, a] of ids.entries()) for (const b of ids.slice(i + 1)) pairs.add(`${a} ${b}`);
  return { pairs, outside };
}

describe('what is wrong with an overlay', () => {
  it('agrees with looking at every cell, for a thousand layouts by chance', () => {
    const random = new Random(16);
    for (let k = 0; k < 1000; k++) {
      const system = videoSystems[videoIds[k % 4]!];
      const places: Partial<Record<ItemId, number>> = {};
      for (const id of itemIds)
        if (random.uniform() < 0.4)
          places[id] = cellAt(
            Math.floor(random.uniform() * (system.rows + 1)),
            Math.floor(random.uniform() * (system.columns + 2)),
          );
      const values = withPlaces(system.id, places, { 'overlay.units': k % 3 === 0 ? 'imperial' : 'metric' });
      const c = overlayConfigOf(values);
      const found = overlayProblems('a', c, system, values);
      const truth = byCells(c);
      const pairs = found.filter((p) => p.kind === 'overlap').map((p) => p.items.join(' '));
      expect(new Set(pairs)).toEqual(truth.pairs);
      expect(pairs).toHaveLength(truth.pairs.size);
      expect(new Set(found.filter((p) => p.kind === 'outside').flatMap((p) => p.items))).toEqual(
        truth.outside,
      );
    }
  });

  it('names the mode that would reach over its neighbour, and moves it', () => {
    const values = withPlaces('ouzel', { mode: cellAt(1, 15), distance: cellAt(1, 24) });
    const [problem] = checked(values);
    expect(problem).toMatchObject({ kind: 'overlap', items: ['distance', 'mode'] });
    expect(problem!.says).toContain('Return home takes 11');
    expect(checked({ ...values, ...problem!.mend!.edits } as Values).map((p) => p.kind)).not.toContain(
      'overlap',
    );
  });

  it('tells of the edge that goggles cut off, and of what the system does not draw', () => {
    expect(kinds(withPlaces('analogue-625', { cell: 0 }))).toContain('edge');
    expect(kinds(withPlaces('ouzel', { cell: 0 }))).not.toContain('edge');
    const dipper = checked(withPlaces('dipper', { horizon: cellAt(5, 20) }));
    expect(dipper[0]).toMatchObject({ kind: 'not-drawn', mend: { label: 'Show bank there' } });
    expect(kinds(withPlaces('dipper', { distance: cellAt(5, 20) }))).toContain('symbol');
  });

  it('puts a horizon back where the nose points', () => {
    const values = withPlaces('ouzel', { horizon: cellAt(2, 3), aim: cellAt(10, 25) });
    const off = checked(values).filter((p) => p.kind === 'off-middle');
    expect(off.map((p) => p.items)).toEqual([['horizon']]);
    expect(kinds({ ...values, ...off[0]!.mend!.edits } as Values)).not.toContain('off-middle');
  });

  it('tells of items whose source is off', () => {
    const says = (places: Partial<Record<ItemId, number>>, more: Values = {}) =>
      checked(withPlaces('ouzel', places, more)).map((p) => p.kind);
    expect(says({ ground: 505 })).toContain('no-source');
    expect(says({ ground: 505 }, { 'range.fitted': true })).not.toContain('no-source');
    expect(says({ words1: 505 })).toContain('no-source');
    expect(says({ words1: 505 }, { 'overlay.words.1': 'KNOT' })).not.toContain('no-source');
    expect(says({ satellites: 505 }, { 'port.3.use': 'free' })).toContain('no-source');
  });

  it('says when there is more than is read in a glance', () => {
    const c = overlayConfigOf(withPlaces('ouzel', {}));
    const places = nowhere();
    for (const id of itemIds) places[id] = freeCell(id, { row: 0, column: 0 }, places, c, c.system!) ?? -1;
    const problems = checked(withPlaces('ouzel', places));
    expect(problems.map((p) => p.kind)).toContain('too-much');
    expect(problems.map((p) => p.kind)).not.toContain('overlap');
  });
});

describe('a layout', () => {
  it.each(videoIds)('as it usually is on %s has nothing wrong with it but signs that are lacking', (id) => {
    const c = overlayConfigOf(withPlaces(id, {}));
    const wrong = kinds(withPlaces(id, usualPlacing(c, videoSystems[id], false)));
    expect(wrong.filter((k) => k !== 'symbol')).toEqual([]);
  });

  it('carried to another grid stands in the same corners, whole and apart', () => {
    for (const from of videoIds)
      for (const to of videoIds) {
        const c = overlayConfigOf(withPlaces(to, {}));
        const before = usualPlacing(c, videoSystems[from], false);
        const { placing } = carried(before, videoSystems[from], videoSystems[to], c);
        const shown = itemIds.filter((i) => placing[i] >= 0);
        expect(shown.length).toBeGreaterThan(9);
        for (const [k, a] of shown.entries()) {
          const box = boxOf(a, placing[a], c);
          expect(inSight(box, videoSystems[to])).toBe(true);
          for (const b of shown.slice(k + 1)) expect(overlaps(box, boxOf(b, placing[b], c))).toBe(false);
        }
        expect(columnOf(placing.cell)).toBeLessThan(8);
        expect(rowOf(placing.cell)).toBeGreaterThan(videoSystems[to].rows / 2);
        expect(columnOf(placing.satellites)).toBeGreaterThan(videoSystems[to].columns / 2);
      }
  });

  it('comes back from another grid where it was', () => {
    const c = overlayConfigOf(withPlaces('ouzel', {}));
    const before = usualPlacing(c, videoSystems.ouzel, false);
    const there = carried(before, videoSystems.ouzel, videoSystems.dipper, c).placing;
    expect(carried(there, videoSystems.dipper, videoSystems.ouzel, c).placing).toEqual(before);
  });

  it('lets what tells much the same stand in for what is not drawn', () => {
    const c = overlayConfigOf(withPlaces('dipper', {}));
    const { placing, instead, left } = carried(
      { ...nowhere(), horizon: cellAt(6, 20), aim: cellAt(12, 3) },
      videoSystems.ouzel,
      videoSystems.dipper,
      c,
    );
    expect(instead).toEqual([{ item: 'horizon', by: 'bank' }]);
    expect(placing.bank).toBeGreaterThanOrEqual(0);
    expect(left.map((l) => l.item)).toEqual(['aim']);
  });

  it('as text comes back as it was, whatever stands in it', () => {
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom(...itemIds), fc.tuple(fc.nat(21), fc.nat(59))),
        fc.constantFrom(...videoIds),
        fc.stringMatching(/^[ -~]{0,20}$/),
        (places, system, words) => {
          const placing = nowhere();
          for (const [id, [row, column]] of Object.entries(places))
            placing[id as ItemId] = cellAt(row, column);
          const read = layoutFromToml(layoutToToml(placing, system, [words, '', words], 'Any\nname'));
          expect(read).toMatchObject({ ok: true, layout: { placing, system: { id: system }, unknown: [] } });
          if (read.ok) expect(read.layout.words['3'] ?? '').toBe(words);
        },
      ),
    );
  });

  it('that is none is refused in a sentence, whatever it is', () => {
    for (const text of [
      '',
      'place = 3',
      'system = "ouzel"',
      '[[[',
      'x'.repeat(30_000),
      'system = "ouzel"\n[place]\nmode = [0, 1]',
    ])
      expect(layoutFromToml(text)).toMatchObject({
        ok: false,
        why: expect.stringContaining('Nothing was changed'),
      });
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(typeof layoutFromToml(text).ok).toBe('boolean');
      }),
    );
    const read = layoutFromToml('system = "ouzel"\n[place]\nmode = [2, 3]\nmoonphase = [1, 1]');
    expect(read).toMatchObject({ ok: true, layout: { unknown: ['moonphase'], placing: { mode: 102 } } });
  });
});
