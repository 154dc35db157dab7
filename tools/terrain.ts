/**
 * Makes the sites that the demo brings, demo/sites/: Torvholm and Skerrow; and Torvholm's ground as others would give
 * it: demo/terrain/torvholm.asc (ESRI ASCII grid of 30 m, metres from the island's centre) and demo/terrain/N61W013.hgt
 * (a tile of 3 arc seconds). `npx tsx tools/terrain.ts`.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { groundHeight, type Terrain } from '../src/core/flight/terrain.ts';
import { Random } from '../src/core/math/random.ts';
import { eastOf, latitudeAt, longitudeAt, northOf } from '../src/core/navigation/earth.ts';
import { makeSite, type SiteFields } from '../src/core/site/site.ts';
import { writeSiteFile } from '../src/core/site/siteFile.ts';

/** Centre of the island. */
const TORVHOLM = { lat: 61.905, lon: -12.43 };
/** The time of all demo data. */
const YEAR = 2026.4;

const CELL = 30;
const COLUMNS = 401;
const ROWS = 241;
const WEST = -6000;
const SOUTH = -3600;
const random = new Random(1907);

const lumps = Array.from({ length: 90 }, () => ({
  e: (random.uniform() - 0.5) * 10500,
  n: (random.uniform() - 0.5) * 5600,
  size: 180 + 420 * random.uniform(),
  height: (random.uniform() - 0.42) * 22,
}));

function ridge(
  e: number,
  n: number,
  ce: number,
  cn: number,
  along: number,
  se: number,
  sn: number,
  height: number,
) {
  const c = Math.cos(along);
  const s = Math.sin(along);
  const de = (e - ce) * c + (n - cn) * s;
  const dn = -(e - ce) * s + (n - cn) * c;
  return height * Math.exp(-0.5 * ((de / se) ** 2 + (dn / sn) ** 2));
}

function heightAt(e: number, n: number): number {
  const bearing = Math.atan2(n, e);
  const wobble =
    1 + 0.05 * Math.sin(3 * bearing + 0.6) + 0.035 * Math.sin(7 * bearing + 2) - 0.05 * Math.cos(2 * bearing);
  const r = Math.hypot(e / 5500, n / 3000) / (0.94 * wobble);
  const shore = 1 - r;
  // The sea floor falls away from the shore, so that the coastline runs between the cells.
  if (shore <= 0) return Math.max(-30, 330 * shore);
  let h = 44 * (1 - Math.exp(-shore / 0.1));
  h += ridge(e, n, -3100, 650, 1.25, 900, 520, 372);
  h += ridge(e, n, 3350, 950, 1.9, 780, 480, 249);
  const bumpy = Math.min(1, shore / 0.15);
  for (const l of lumps) {
    const d2 = ((e - l.e) ** 2 + (n - l.n) ** 2) / (l.size * l.size);
    if (d2 < 9) h += bumpy * l.height * Math.exp(-0.5 * d2);
  }
  // The strip at Mossvik lies flat at 38 m.
  const strip = Math.exp(-(((e / 420) ** 2 + ((n + 2449) / 230) ** 2) ** 2));
  h = h * (1 - strip) + 38 * strip;
  return h * Math.min(1, shore / 0.06);
}

const grid: number[][] = [];
for (let row = 0; row < ROWS; row++) {
  const n = SOUTH + (ROWS - 1 - row) * CELL;
  grid.push(Array.from({ length: COLUMNS }, (_, col) => heightAt(WEST + col * CELL, n)));
}
// The two summits are surveyed: 412 m and 287 m.
const peak = (from: number, to: number, top: number) => {
  let best = 0;
  for (const line of grid) for (let c = from; c < to; c++) best = Math.max(best, line[c]!);
  for (const line of grid)
    for (let c = from; c < to; c++)
      if (line[c]! > 120) line[c] = 120 + ((line[c]! - 120) * (top - 120)) / (best - 120);
};
const middle = Math.floor(COLUMNS / 2);
peak(0, middle, 412);
peak(middle, COLUMNS, 287);

function write(
  name: string,
  cell: number,
  lines: readonly (readonly number[])[],
  west: number,
  south: number,
) {
  const header = [
    `ncols ${lines[0]!.length}`,
    `nrows ${lines.length}`,
    `xllcenter ${west}`,
    `yllcenter ${south}`,
    `cellsize ${cell}`,
    'NODATA_value -9999',
  ];
  const rows = lines.map((line) => line.map((h) => Math.round(h)).join(' '));
  writeFileSync(`demo/terrain/${name}`, `${[...header, ...rows].join('\n')}\n`);
}

mkdirSync('demo/terrain', { recursive: true });
write('torvholm.asc', CELL, grid, WEST, SOUTH);

/** A tile as terrain missions publish it: big-endian metres, row 0 in the north, named by its south-west corner. */
const SIDE = 1201;
const terrain: Terrain = {
  origin: TORVHOLM,
  known: true,
  columns: COLUMNS,
  rows: ROWS,
  cellM: CELL,
  westM: WEST,
  southM: SOUTH,
  heights: Float32Array.from(grid.flat()),
};
const tile = Buffer.alloc(SIDE * SIDE * 2);
for (let row = 0; row < SIDE; row++) {
  for (let col = 0; col < SIDE; col++) {
    const lat = 62 - row / (SIDE - 1);
    const lon = -13 + col / (SIDE - 1);
    const ground = groundHeight(terrain, eastOf(TORVHOLM.lat, TORVHOLM.lon, lon), northOf(TORVHOLM.lat, lat));
    tile.writeInt16BE(Math.round(ground), 2 * (row * SIDE + col));
  }
}
writeFileSync('demo/terrain/N61W013.hgt', tile);

const at = (origin: { lat: number; lon: number }, east: number, north: number) => ({
  lat: Number(latitudeAt(origin.lat, north).toFixed(5)),
  lon: Number(longitudeAt(origin.lat, origin.lon, east).toFixed(5)),
});

function writeSite(file: string, fields: SiteFields, ground: Terrain, posts: readonly number[]) {
  const heights = Float32Array.from(posts, (h) => Math.round(h));
  writeFileSync(
    `demo/sites/${file}.wanderweg-site.json`,
    writeSiteFile(makeSite(fields, { ...ground, heights })),
  );
}

mkdirSync('demo/sites', { recursive: true });
writeSite(
  'torvholm',
  {
    name: 'Torvholm',
    home: { lat: 61.883, lon: -12.43, heightM: 38 },
    year: YEAR,
    obstacles: [],
    places: [
      { name: 'Aldrygg 412 m', ...at(TORVHOLM, -3200, 620) },
      { name: 'Svarthamar 287 m', ...at(TORVHOLM, 3350, 950) },
      { name: 'Mossvik', ...at(TORVHOLM, 0, -2909) },
    ],
  },
  terrain,
  grid.flat(),
);

/** Skerrow: a coast of skerries with nothing above 40 m, and a beacon. */
const SKERROW = { lat: 62.4, lon: -11.9 };
const SKERRIES = 161;
const SKERRY_CELL = 50;
const skerries = Array.from({ length: 46 }, (_, i) => ({
  e: i === 0 ? 0 : (random.uniform() - 0.5) * 7200,
  n: i === 0 ? 0 : (random.uniform() - 0.5) * 7200,
  size: i === 0 ? 340 : 90 + 300 * random.uniform(),
  height: i === 0 ? 12 : 6 + 34 * random.uniform() ** 2,
}));
const half = ((SKERRIES - 1) / 2) * SKERRY_CELL;
const skerryHeights = new Float32Array(SKERRIES * SKERRIES);
for (let row = 0; row < SKERRIES; row++)
  for (let col = 0; col < SKERRIES; col++) {
    const e = -half + col * SKERRY_CELL;
    const n = half - row * SKERRY_CELL;
    let h = -8;
    for (const s of skerries)
      h = Math.max(
        h,
        (s.height + 8) * Math.exp(-0.5 * (((e - s.e) ** 2 + (n - s.n) ** 2) / s.size ** 2)) - 8,
      );
    const strip = Math.exp(-(((e / 300) ** 2 + (n / 120) ** 2) ** 2));
    skerryHeights[row * SKERRIES + col] = Math.min(40, h * (1 - strip) + 6 * strip);
  }
writeSite(
  'skerrow',
  {
    name: 'Skerrow',
    home: { ...SKERROW, heightM: 6 },
    air: { pressureHpa: 1002, temperatureC: 9 },
    year: YEAR,
    obstacles: [{ name: 'Beacon', ...at(SKERROW, 620, 410), topM: 38, radiusM: 20 }],
    places: [{ name: 'Skerrow', ...at(SKERROW, 0, -420) }],
  },
  {
    origin: SKERROW,
    known: true,
    columns: SKERRIES,
    rows: SKERRIES,
    cellM: SKERRY_CELL,
    westM: -half,
    southM: -half,
    heights: skerryHeights,
  },
  Array.from(skerryHeights),
);
