// Writes the firmware images and their catalogue into dist/firmware, where the server finds them.
import { createHash } from 'node:crypto';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { releaseImage } from '../src/bench/releaseImages.ts';
import { boards } from '../src/core/board/boards.ts';
import { RELEASES_FORMAT, type Release, releaseCatalogueSchema } from '../src/core/formats/releases.ts';
import type { PfadVersion } from '../src/firmware/releases.ts';

const OUT = 'dist/firmware';
rmSync(OUT, { recursive: true, force: true });
mkdirSync(OUT, { recursive: true });

type About = Omit<Release, 'product' | 'version' | 'images'> & { readonly without?: readonly string[] };

const controllers = 'Older controllers stop at a restart of the board.';
const gnss = 'Older ones report a fix before they have one.';
const about: Readonly<Record<PfadVersion, About>> = {
  '2.8': {
    channel: 'stable',
    date: '2024-04-09',
    notes: ['The last with the old names and scales of settings.'],
    limits: [
      'The home height is one for all winds.',
      'A return against a strong wind is not noticed to be stuck.',
    ],
    parts: [
      { product: 'Kolk', atLeast: '15.0', testedTo: '16.2', why: controllers },
      { product: 'Lode', atLeast: '3.8', testedTo: '4.10', why: gnss },
      {
        product: 'Tafel',
        atLeast: '1.0',
        testedTo: '1.3',
        why: 'The overlay stays dark.',
      },
    ],
  },
  '3.0': {
    channel: 'stable',
    date: '2025-03-18',
    notes: ['Settings are named by what they do.', 'Route of waypoints with actions.'],
    limits: ['There is no build for Cobble F4 Wing: it came out too large for its flash.'],
    without: ['cobble-f4-wing'],
    parts: [
      { product: 'Kolk', atLeast: '16.0', testedTo: '16.2', why: controllers },
      { product: 'Lode', atLeast: '4.0', testedTo: '4.10', why: gnss },
      {
        product: 'Beiboot',
        atLeast: '0.8',
        testedTo: '0.9',
        why: 'It does not hand over when the first processor stops.',
      },
    ],
  },
  '3.1': {
    channel: 'stable',
    date: '2026-02-11',
    notes: ['Return checks its height against the ground.', 'Headwind response on the way home.'],
    limits: [],
    parts: [
      { product: 'Kolk', atLeast: '16.0', testedTo: '16.4', why: controllers },
      { product: 'Lode', atLeast: '4.0', testedTo: '4.12', why: gnss },
      {
        product: 'Tafel',
        atLeast: '1.2',
        testedTo: '1.3',
        why: 'Symbols of the return are missing from older ones.',
      },
      {
        product: 'Beiboot',
        atLeast: '0.9',
        testedTo: '0.9',
        why: 'It does not hand over when the first processor stops.',
      },
    ],
  },
  '3.2-rc1': {
    channel: 'candidate',
    date: '2026-09-02',
    notes: ['Keeps a reserve for the way home.'],
    limits: ['A candidate: not flown for long yet.'],
    parts: [
      { product: 'Kolk', atLeast: '16.0', testedTo: '16.4', why: controllers },
      { product: 'Lode', atLeast: '4.2', testedTo: '4.12', why: gnss },
      {
        product: 'Tafel',
        atLeast: '1.2',
        testedTo: '1.3',
        why: 'Symbols of the return are missing from older ones.',
      },
      {
        product: 'Beiboot',
        atLeast: '1.0',
        testedTo: '1.0',
        why: 'It asks the second processor for the reserve, which older ones do not know.',
      },
    ],
  },
};

const releases: Release[] = [];
for (const [version, { without = [], ...rest }] of Object.entries(about)) {
  const images = boards
    .filter((b) => !without.includes(b.target))
    .map(({ target }) => {
      const file = `pfad-${version}-${target}.hex`;
      const hex = Buffer.from(releaseImage(target, version as PfadVersion));
      writeFileSync(`${OUT}/${file}`, hex);
      return { target, file, size: hex.length, sha256: createHash('sha256').update(hex).digest('hex') };
    });
  releases.push({ product: 'Pfad', version, ...rest, images });
}
const catalogue = releaseCatalogueSchema.parse({ format: RELEASES_FORMAT, version: 1, releases });
writeFileSync(`${OUT}/catalogue.json`, `${JSON.stringify(catalogue, null, 2)}\n`);
