import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { catalogueOf, runningValues } from '#firmware/releases.ts';
import { pfadVersions } from '#firmware/versions.ts';
import { VersionLens } from './lens.ts';

const lensOf = (version: (typeof pfadVersions)[number]) =>
  new VersionLens(version, catalogueOf(version), '3.2', pfadCatalogue);

describe('a board of another version', () => {
  const others = pfadVersions.filter((v) => v !== '3.2');

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
      { key: 'set.channel', code: 'no-counterpart', why: expect.stringContaining('Put 3.2 on it first') },
    ]);
  });

  it.each(others)('of Pfad %s says which settings it lacks: those that it refuses to be told', (version) => {
    const lens = lensOf(version);
    const native = catalogueOf(version).defaults();
    const lacks = new Set(lens.lacks());
    expect(lacks.has('mount.levelPitch')).toBe(true);
    expect(lacks.has('return.height')).toBe(false);
    const shown = lens.toShown(native);
    for (const key of [...lacks].slice(0, 20)) {
      const entry = pfadCatalogue.entry(key)!;
      const other =
        entry.type === 'flag'
          ? shown[key] !== true
          : typeof shown[key] === 'number'
            ? shown[key] === entry.max
              ? entry.min!
              : entry.max!
            : null;
      if (other === null) continue;
      expect(
        lens.toNative(native, { [key]: other }).refusals.map((r) => r.key),
        key,
      ).toEqual([key]);
    }
  });

  it('is not known where no migration leads', () => {
    expect(() => new VersionLens('1.0', pfadCatalogue, '3.2', pfadCatalogue)).toThrow(RangeError);
  });
});
