import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MemoryFlash } from '#bench/memoryFlash.ts';
import { SettingsPages } from './pages.ts';

const old = { 'return.height': 60, name: 'old' };
const fresh = { 'return.height': 410, name: 'new', more: 'x'.repeat(400) };

function written(values: Record<string, string | number>): MemoryFlash {
  const flash = new MemoryFlash();
  const pages = new SettingsPages(flash);
  pages.load();
  pages.begin(values);
  expect(pages.step(1e6)).toBe(true);
  return flash;
}

describe('settings pages', () => {
  it('are empty on a new chip', () => {
    expect(new SettingsPages(new MemoryFlash()).load()).toBeNull();
  });

  it('hold what was written, and take turns', () => {
    const flash = written(old);
    const pages = new SettingsPages(flash);
    expect(pages.load()).toEqual(old);
    pages.begin(fresh);
    pages.step(1e6);
    expect(new SettingsPages(flash).load()).toEqual(fresh);
    pages.begin(old);
    pages.step(1e6);
    expect(new SettingsPages(flash).load()).toEqual(old);
  });

  it('give the old settings back when power is lost at any byte, and the new ones after the last', () => {
    for (let cut = 0; ; cut++) {
      const flash = written(old);
      const pages = new SettingsPages(flash);
      pages.load();
      pages.begin(fresh);
      const done = pages.step(cut);
      expect(new SettingsPages(flash).load()).toEqual(done ? fresh : old);
      if (done) break;
    }
  });

  it('never give half of anything from a page with any byte changed', () => {
    const flash = written(fresh);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 500 }), fc.integer({ min: 1, max: 255 }), (at, flip) => {
        const copy = new MemoryFlash([flash.pages[0].slice(), flash.pages[1].slice()]);
        copy.pages[0][at] = copy.pages[0][at]! ^ flip;
        const got = new SettingsPages(copy).load();
        expect(got === null || JSON.stringify(got) === JSON.stringify(fresh)).toBe(true);
      }),
    );
  });

  it('refuse settings that do not fit, before anything is erased', () => {
    const flash = written(old);
    const pages = new SettingsPages(flash);
    pages.load();
    expect(() => pages.begin({ big: 'x'.repeat(17000) })).toThrow(RangeError);
    expect(new SettingsPages(flash).load()).toEqual(old);
  });
});
