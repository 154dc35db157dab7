import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from './catalogue.ts';
import { catalogueOf, isPfadVersion } from './releases.ts';
import { pfadVersions } from './versions.ts';

const frozen = readdirSync('docs/catalogues').map((f) => f.replace(/^pfad-|\.json$/g, ''));

describe('what a released version can be told', () => {
  it('is frozen for every version that is not a candidate', () => {
    expect(frozen.sort()).toEqual(pfadVersions.filter((v) => !v.includes('rc')));
  });

  it.each(frozen)('%s is to the letter what it was when it was released', (version) => {
    if (!isPfadVersion(version)) throw new Error(`There is no Pfad ${version}.`);
    const { entries, rules } = catalogueOf(version);
    const then = JSON.parse(readFileSync(`docs/catalogues/pfad-${version}.json`, 'utf8'));
    expect({ version, entries, rules }).toEqual(then);
  });

  it('differs from version to version', () => {
    const keys = pfadVersions.map((v) =>
      catalogueOf(v)
        .entries.map((e) => e.key)
        .join(),
    );
    expect(new Set(keys).size).toBe(pfadVersions.length);
    expect(pfadCatalogue.entries.length).toBeGreaterThan(300);
  });
});
