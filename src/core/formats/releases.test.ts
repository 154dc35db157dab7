import { describe, expect, it } from 'vitest';
import { compareVersions, newestStable, offersFor, partVerdict, releaseCatalogueSchema } from './releases.ts';

const image = (target: string) => ({ target, file: `a-${target}.hex`, size: 10, sha256: 'a'.repeat(64) });
const release = (version: string, date: string, channel: string, targets: string[]) => ({
  product: 'Pfad',
  version,
  channel,
  date,
  notes: [],
  limits: [],
  images: targets.map(image),
  parts: [{ product: 'Lode', atLeast: '4.0', testedTo: '4.12', why: 'Older ones lie.' }],
});
const catalogue = releaseCatalogueSchema.parse({
  format: 'wanderweg-releases',
  version: 1,
  releases: [
    release('3.0', '2025-03-18', 'stable', ['fell-f7']),
    release('3.2-rc1', '2026-09-02', 'candidate', ['fell-f7', 'cobble-f4-wing']),
    release('3.1', '2026-02-11', 'stable', ['fell-f7', 'cobble-f4-wing']),
  ],
});

describe('releases', () => {
  it('are offered newest first, with none where there is no image for the board', () => {
    const offers = offersFor(catalogue, 'Pfad', 'cobble-f4-wing');
    expect(offers.map((o) => [o.release.version, o.image?.file ?? null])).toEqual([
      ['3.2-rc1', 'a-cobble-f4-wing.hex'],
      ['3.1', 'a-cobble-f4-wing.hex'],
      ['3.0', null],
    ]);
    expect(newestStable(catalogue, 'Pfad', 'fell-f7')?.version).toBe('3.1');
    expect(newestStable(catalogue, 'Pfad', 'massif-h7-a')).toBeUndefined();
    expect(offersFor(catalogue, 'Kolk', 'fell-f7')).toEqual([]);
  });

  it('name only files that lie beside the catalogue', () => {
    for (const file of ['../x.hex', '/etc/x.hex', 'a/b.hex', 'x.exe', '.hex'])
      expect(
        releaseCatalogueSchema.safeParse({
          ...catalogue,
          releases: [{ ...catalogue.releases[0]!, images: [{ ...image('fell-f7'), file }] }],
        }).success,
      ).toBe(false);
  });

  it('go with parts from the least version to the last that was tried', () => {
    const r = catalogue.releases[0];
    expect(partVerdict(r, 'Lode', '4.10').verdict).toBe('fits');
    expect(partVerdict(r, 'Lode', '3.9')).toMatchObject({
      verdict: 'too-old',
      why: 'Pfad 3.0 needs Lode 4.0 or later. Older ones lie.',
    });
    expect(partVerdict(r, 'Lode', '4.13').verdict).toBe('untested');
    expect(partVerdict(r, 'Tafel', '1.0').verdict).toBe('unknown');
    expect(partVerdict(undefined, 'Lode', '4.10').verdict).toBe('unknown');
  });

  it('are ordered by number, not by letter', () => {
    expect(compareVersions('4.10', '4.9')).toBeGreaterThan(0);
    expect(compareVersions('4', '4.0')).toBe(0);
  });
});
