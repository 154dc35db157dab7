// Writes the firmware images and their catalogue into dist/firmware, where the server finds them.
import { createHash } from 'node:crypto';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { controllerImage, releaseImage } from '../src/bench/releaseImages.ts';
import { boards } from '../src/core/board/boards.ts';
import { kolkModels } from '../src/core/controllers/kolk.ts';
import {
  RELEASES_FORMAT,
  type Release,
  type ReleaseImage,
  releaseCatalogueSchema,
} from '../src/core/formats/releases.ts';
import type { PfadVersion } from '../src/firmware/versions.ts';

const OUT = 'dist/firmware';
rmSync(OUT, { recursive: true, force: true });
mkdirSync(OUT, { recursive: true });

type About = Omit<Release, 'product' | 'version' | 'images'> & { readonly without?: readonly string[] };

type Need = Release['parts'][number];
const need =
  (product: string, why: string) =>
  (atLeast: string, testedTo: string): Need => ({ product, atLeast, testedTo, why });
const kolk = need('Kolk', 'Older controllers stop at a restart of the board.');
const lode = need('Lode', 'Older ones report a fix before they have one.');
const tafel = need('Tafel', 'Symbols of the return are missing from older ones.');
const handsOver = need('Beiboot', 'It does not hand over when the first processor stops.');
const reserve = need(
  'Beiboot',
  'It asks the second processor for the reserve, which older ones do not know.',
);

const about: Readonly<Record<PfadVersion, About>> = {
  '2.8': {
    channel: 'stable',
    date: '2024-04-09',
    notes: ['The last with the old names and scales of settings.'],
    limits: [
      'The home height is one for all winds.',
      'A return against a strong wind is not noticed to be stuck.',
    ],
    parts: [kolk('15.0', '16.2'), lode('3.8', '4.10'), tafel('1.0', '1.3')],
  },
  '3.0': {
    channel: 'stable',
    date: '2025-03-18',
    notes: ['Settings are named by what they do.', 'Route of waypoints with actions.'],
    limits: ['There is no build for Cobble F4 Wing: it came out too large for its flash.'],
    without: ['cobble-f4-wing'],
    parts: [kolk('16.0', '16.2'), lode('4.0', '4.10'), handsOver('0.8', '0.9')],
  },
  '3.1': {
    channel: 'stable',
    date: '2026-02-11',
    notes: ['Return checks its height against the ground.', 'Headwind response on the way home.'],
    limits: [],
    parts: [kolk('16.0', '16.4'), lode('4.0', '4.12'), tafel('1.2', '1.3'), handsOver('0.9', '0.9')],
  },
  '3.2': {
    channel: 'stable',
    date: '2026-11-04',
    notes: [
      'Each accelerometer is taught its own offsets and scales.',
      'What level means is kept apart from how the board is mounted.',
      'A compass is put right for soft iron, its own mounting and the motors’ current.',
      'Listens at every speed for the GNSS receiver, and tells which satellites it is to use.',
      'Raw samples of both gyro chips, of volts and amperes, of the port’s bytes.',
      'Optical flow keeps a craft over its place when it is low and has no fix.',
      'The airspeed has its own zero; the bus for sensors outside may run slower, and says what it loses.',
      'Outputs may follow anything by rows of their own, gimbals, lights and releases among them; a frame of any shape flies by its arms.',
      'Each stick has ends and a middle of its own; a receiver may turn its levels round, or speak on one wire.',
      'Reads and tells motor controllers, teaches their ends, passes their firmware on; rotors on their back turn over.',
      'Counts samples, frames, readings of its bus and what of its log is used, and tells them.',
      'What the candidate renamed has its old names again.',
    ],
    limits: [],
    parts: [kolk('16.0', '16.4'), lode('4.0', '4.12'), tafel('1.2', '1.3'), handsOver('0.9', '0.9')],
  },
  '3.2-rc1': {
    channel: 'candidate',
    date: '2026-09-02',
    notes: ['Keeps a reserve for the way home.'],
    limits: ['A candidate: not flown for long yet.'],
    parts: [kolk('16.0', '16.4'), lode('4.2', '4.12'), tafel('1.2', '1.3'), reserve('1.0', '1.0')],
  },
};

/** Writes an image, and says what the catalogue says of it. */
function imageFile(name: string, target: string, image: string): ReleaseImage {
  const file = `${name}.hex`;
  const hex = Buffer.from(image);
  writeFileSync(`${OUT}/${file}`, hex);
  return { target, file, size: hex.length, sha256: createHash('sha256').update(hex).digest('hex') };
}

const releases: Release[] = [];
for (const [version, { without = [], ...rest }] of Object.entries(about)) {
  const images = boards
    .filter((b) => !without.includes(b.target))
    .map(({ target }) =>
      imageFile(`pfad-${version}-${target}`, target, releaseImage(target, version as PfadVersion)),
    );
  releases.push({ product: 'Pfad', version, ...rest, images });
}
/** Firmware of motor controllers: a file for each model. */
const controllers: readonly Omit<Release, 'product' | 'images'>[] = [
  {
    version: '16.2',
    channel: 'stable',
    date: '2026-03-02',
    notes: ['Brakes more gently.'],
    limits: [],
    parts: [],
  },
  {
    version: '16.4',
    channel: 'stable',
    date: '2026-09-21',
    notes: [
      'Starts large propellers without stumbling.',
      'Tells speed, temperature and current over the frames’ own wire.',
    ],
    limits: [],
    parts: [],
  },
];
for (const { version, ...rest } of controllers) {
  const images = kolkModels.map(({ target }) =>
    imageFile(`kolk-${version}-${target}`, target, controllerImage(target, version)),
  );
  releases.push({ product: 'Kolk', version, ...rest, images });
}
const catalogue = releaseCatalogueSchema.parse({ format: RELEASES_FORMAT, version: 1, releases });
writeFileSync(`${OUT}/catalogue.json`, `${JSON.stringify(catalogue, null, 2)}\n`);
