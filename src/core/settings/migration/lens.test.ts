import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { catalogueOf, runningValues } from '#firmware/releases.ts';
import { pfadVersions } from '#firmware/versions.ts';
import { VersionLens } from './lens.ts';

const lensOf = (version: (typeof pfadVersions)[number]) =>
  new VersionLens(version, catalogueOf(version), '3.1', pfadCatalogue);

describe('a board of another version', () => {
  const others = pfadVersions.filter((v) => v !== '3.1');

  it.each(others)('of Pfad %s is shown as its own control code understands it', (version) => {
    const native = catalogueOf(version).defaults();
    expect(lensOf(version).toShown(native)).toEqual(runningValues(version, native));
  });

  it.each(others)('of Pfad %s is told only what was edited, and then shows it', (version) => {
    const native = catalogueOf(version).defaults();
    const lens = lensOf(version);
    const { edits, refusals } = lens.toNative(native, { 'out.3.high': 1950, 'return.height': 240 });
    expect(refusals).toEqual([]);
    expect(Object.keys(edits)).toHaveLength(2);
    for (const [key, value] of Object.entries(edits))
      expect(catalogueOf(version).checkValue(key, value)).toBeNull();
    expect(lens.toShown({ ...native, ...edits })).toMatchObject({ 'out.3.high': 1950, 'return.height': 240 });
  });

  it('refuses what its version cannot be told, by name, and changes nothing else', () => {
    const lens = lensOf('2.8');
    const { edits, refusals } = lens.toNative(catalogueOf('2.8').defaults(), { 'set.channel': 7 });
    expect(edits).toEqual({});
    expect(refusals).toEqual([
      { key: 'set.channel', code: 'no-counterpart', why: expect.stringContaining('Put 3.1 on it first') },
    ]);
  });

  it('is not known where no migration leads', () => {
    expect(() => new VersionLens('1.0', pfadCatalogue, '3.1', pfadCatalogue)).toThrow(RangeError);
  });
});
