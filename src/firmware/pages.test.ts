import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MemoryFlash } from '#bench/memoryFlash.ts';
import { fellF7Model } from '#core/board/boards.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { encodeCbor } from '#core/wire/frames.ts';
import { pfadCatalogue } from './catalogue.ts';
import { FlashPages } from './pages.ts';
import { Pfad } from './pfad.ts';
import { Readings } from './readings.ts';

const old = { 'return.height': 60, name: 'old' };
const fresh = { 'return.height': 410, name: 'new', more: 'x'.repeat(400) };

function written(values: Record<string, string | number>): MemoryFlash {
  const flash = new MemoryFlash();
  const pages = new FlashPages<Values>(flash);
  pages.load();
  pages.begin(values);
  expect(pages.step(1e6)).toBe(true);
  return flash;
}

describe('settings pages', () => {
  it('are empty on a new chip', () => {
    expect(new FlashPages<Values>(new MemoryFlash()).load()).toBeNull();
  });

  it('hold what was written, and take turns', () => {
    const flash = written(old);
    const pages = new FlashPages<Values>(flash);
    expect(pages.load()).toEqual(old);
    pages.begin(fresh);
    pages.step(1e6);
    expect(new FlashPages<Values>(flash).load()).toEqual(fresh);
    pages.begin(old);
    pages.step(1e6);
    expect(new FlashPages<Values>(flash).load()).toEqual(old);
  });

  it('give the old settings back when power is lost at any byte, and the new ones after the last', () => {
    for (let cut = 0; ; cut++) {
      const flash = written(old);
      const pages = new FlashPages<Values>(flash);
      pages.load();
      pages.begin(fresh);
      const done = pages.step(cut);
      expect(new FlashPages<Values>(flash).load()).toEqual(done ? fresh : old);
      if (done) break;
    }
  });

  it('never give half of anything from a page with any byte changed', () => {
    const flash = written(fresh);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 1, max: 255 }), (at, flip) => {
        const copy = new MemoryFlash([flash.pages[0].slice(), flash.pages[1].slice()]);
        copy.pages[0][at] = copy.pages[0][at]! ^ flip;
        const got = new FlashPages<Values>(copy).load();
        expect(got === null || JSON.stringify(got) === JSON.stringify(fresh)).toBe(true);
      }),
    );
  });

  it('have room for every setting at its longest, with space for those to come', () => {
    const longest = Object.fromEntries(
      pfadCatalogue.entries.map((e) => {
        if (e.type === 'text') return [e.key, 'x'.repeat(e.max ?? 64)];
        if (e.type === 'flag') return [e.key, true];
        if (e.type !== 'choice') return [e.key, 0.123456789];
        return [e.key, e.choices!.map((c) => c.value).reduce((a, b) => (b.length > a.length ? b : a))];
      }),
    );
    const { pageBytes } = new MemoryFlash();
    expect(encodeCbor(longest).length).toBeLessThan(0.8 * pageBytes);
  });

  it('refuse settings that do not fit, before anything is erased', () => {
    const flash = written(old);
    const pages = new FlashPages<Values>(flash);
    pages.load();
    expect(() => pages.begin({ big: 'x'.repeat(flash.pageBytes) })).toThrow(RangeError);
    expect(new FlashPages<Values>(flash).load()).toEqual(old);
  });
});

describe('pages that are damaged or worn', () => {
  it('are told from those of a new chip', () => {
    expect(new FlashPages<Values>(new MemoryFlash()).rotten).toBe(false);
    const flash = written(old);
    expect(new FlashPages<Values>(flash).rotten).toBe(false);
    flash.pages[0].fill(0x5a, 0, 40);
    flash.pages[1].fill(0x5a, 0, 40);
    const pages = new FlashPages<Values>(flash);
    expect(pages.load()).toBeNull();
    expect(pages.rotten).toBe(true);
  });

  it('take turns as well where the sequence numbers go round', () => {
    const flash = written(old);
    const page = flash.pages[0][4] === 1 ? 0 : 1;
    // The page as it would be after 2^32 - 1 writes, its checksum put right.
    const bytes = flash.pages[page];
    const view = new DataView(bytes.buffer);
    const end = 12 + view.getUint32(8, true);
    view.setUint32(4, 0xffffffff, true);
    view.setUint32(end, crc32(bytes, 0, end), true);
    const pages = new FlashPages<Values>(flash);
    expect(pages.load()).toEqual(old);
    for (const values of [fresh, old, fresh]) {
      pages.begin(values);
      expect(pages.step(1e6)).toBe(true);
      expect(new FlashPages<Values>(flash).load()).toEqual(values);
    }
  });

  it('that do not take a write are said, and what was before stands', () => {
    const flash = written({ 'return.height': 61 });
    const pfad = new Pfad(fellF7Model, flash, 'x', 'power on');
    expect(pfad.values['return.height']).toBe(61);
    const write = flash.write.bind(flash);
    flash.write = (page, at, byte) => write(page, at, at === 30 ? byte ^ 4 : byte);
    expect(pfad.commit({ 'return.height': 90 }).state).toBe('storing');
    for (let k = 0; k < 2000 && pfad.storing; k++) pfad.step(new Readings());
    expect(pfad.storeFailed).toBe(true);
    expect(pfad.values['return.height']).toBe(61);
    flash.write = write;
    pfad.commit({ 'return.height': 90 });
    for (let k = 0; k < 2000 && pfad.storing; k++) pfad.step(new Readings());
    expect(pfad.storeFailed).toBe(false);
    expect(pfad.values['return.height']).toBe(90);
  });

  it('are said by the board that starts on its defaults for it', () => {
    const flash = written(old);
    for (const page of flash.pages) page.fill(0, 0, 8);
    expect(new Pfad(fellF7Model, flash, 'x', 'power on').note).toContain(
      'both pages of the flash are damaged',
    );
  });
});
