import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { skerrow, torvholm } from '../../testing/demoCraft.ts';
import { groundHeight, highestWithin, levelGround, pooled, withObstacles } from '../flight/terrain.ts';
import { latitudeAt, longitudeAt } from '../navigation/earth.ts';
import { parseAsciiGrid } from './asciiGrid.ts';
import { fillGaps } from './gaps.ts';
import { parseHgt } from './hgt.ts';
import { bareSite, fieldYear, groundOf, homeInSea, makeSite } from './site.ts';
import { readSiteFile, sitePrint, writeSiteFile } from './siteFile.ts';

const reread = (text: string) => {
  const read = readSiteFile(text);
  if (!read.ok) throw new Error(read.why);
  return read.site;
};
const refused = (change: object) => {
  const read = readSiteFile(JSON.stringify({ ...JSON.parse(writeSiteFile(skerrow)), ...change }));
  return read.ok ? '' : read.why;
};

describe('a site', () => {
  it('is the same after being kept, ground and obstacles with it', () => {
    for (const site of [torvholm, skerrow, bareSite({ lat: 12, lon: 34, heightM: 560 }, 2026.4)]) {
      const again = reread(writeSiteFile(site));
      expect(again).toEqual(site);
      expect(sitePrint(again)).toBe(sitePrint(site));
    }
  });

  it('is Torvholm with its two ridges, or Skerrow with nothing above 40 m but home at 6 m', () => {
    expect(highestWithin(groundOf(torvholm)!, 9000).heightM).toBe(412);
    expect(highestWithin(groundOf(skerrow)!, 9000).heightM).toBeLessThanOrEqual(40);
    const { terrain, homeEastM, homeNorthM } = groundOf(skerrow)!;
    expect(groundHeight(terrain, homeEastM, homeNorthM)).toBeCloseTo(6, 0);
  });

  it('is level at the height of home and tells so where nobody knows the ground', () => {
    const site = bareSite({ lat: 46, lon: 8, heightM: 1234 }, 2026.4);
    expect(groundOf(site)).toBeUndefined();
    for (const [e, n] of [
      [0, 0],
      [-14_000, 9000],
      [300_000, 0],
    ] as const)
      expect(groundHeight(site.terrain, e, n)).toBeCloseTo(1234, 6);
  });

  it('has another print with other ground, air, obstacles or year, and not with another name', () => {
    const { bare, terrain, ...fields } = skerrow;
    const prints = [
      skerrow,
      makeSite({ ...fields, obstacles: [] }, bare),
      makeSite({ ...fields, air: { pressureHpa: 990, temperatureC: 9 } }, bare),
      makeSite({ ...fields, year: 2027 }, bare),
      makeSite(fields, null),
    ].map(sitePrint);
    expect(new Set(prints).size).toBe(5);
    expect(sitePrint(makeSite({ ...fields, name: 'Another' }, bare))).toBe(sitePrint(skerrow));
  });

  it('is refused in a sentence where its file is not right', () => {
    expect(readSiteFile('no')).toMatchObject({ why: expect.stringContaining('not JSON') });
    expect(readSiteFile('[]')).toMatchObject({ why: expect.stringContaining('is no site') });
    expect(refused({ format: 'other' })).toContain('is no site');
    expect(refused({ version: 9 })).toContain('newer Wanderweg');
    expect(refused({ home: { lat: 99, lon: 0, heightM: 0 } })).toContain('home.lat');
    const { ground } = JSON.parse(writeSiteFile(skerrow)) as { ground: object };
    expect(refused({ ground: { ...ground, rows: 160 } })).toContain('has not the');
    expect(refused({ ground: { ...ground, heights: '%%%' } })).toContain('has not the');
    expect(refused({ ground: { ...ground, columns: 8000, rows: 8000 } })).toContain('has not the');
  });

  it('has the year of the moment, within what the field’s model holds for', () => {
    expect(fieldYear(Date.UTC(2026, 5, 1))).toBeCloseTo(2026.4, 1);
    expect(fieldYear(0)).toBe(2025);
    expect(fieldYear(Date.UTC(2050, 0, 1))).toBe(2030);
  });
});

describe('ground', () => {
  const bytes = new Uint8Array(readFileSync('demo/terrain/N61W013.hgt'));
  const text = readFileSync('demo/terrain/torvholm.asc', 'utf8');
  const { origin } = torvholm.bare;

  it('of a grid in metres is that of the site made with it', () => {
    const grid = parseAsciiGrid(text, origin);
    expect(grid).toEqual(torvholm.bare);
  });

  it('of a grid in degrees is that of the same slope in metres', () => {
    // A plane: 1 m higher for each 100 m east, 1 m for each 50 m north.
    const cell = 1 / 1200;
    const about = { lat: 50, lon: 8 };
    const plane = (lat: number, lon: number) =>
      500 + ((lon - 8) * 111_319.49 * Math.cos((50 * Math.PI) / 180)) / 100 + ((lat - 50) * 111_319.49) / 50;
    const rows = Array.from({ length: 81 }, (_, j) =>
      Array.from({ length: 81 }, (_, i) => plane(50 + (40 - j) * cell, 8 + (i - 40) * cell).toFixed(3)).join(
        ' ',
      ),
    );
    const head = `ncols 81\nnrows 81\nxllcenter ${8 - 40 * cell}\nyllcenter ${50 - 40 * cell}\ncellsize ${cell}\n`;
    const grid = parseAsciiGrid(head + rows.join('\n'), about, 50, 2000);
    for (const [e, n] of [
      [0, 0],
      [1500, -1200],
      [-1800, 1900],
    ] as const)
      expect(groundHeight(grid, e, n)).toBeCloseTo(plane(latitudeAt(50, n), longitudeAt(50, 8, e)), 1);
  });

  it('is refused where it does not hold home, or counts from some map’s origin', () => {
    const far = 'ncols 2\nnrows 2\nxllcorner 500000\nyllcorner 5400000\ncellsize 30\n1 2\n3 4\n';
    expect(() => parseAsciiGrid(far, origin)).toThrow('origin of some map');
    const degrees = 'ncols 2\nnrows 2\nxllcorner 10\nyllcorner 50\ncellsize 0.01\n1 2\n3 4\n';
    expect(() => parseAsciiGrid(degrees, origin)).toThrow('does not hold home');
    expect(() => parseHgt([{ name: 'N10E013.hgt', bytes }], origin)).toThrow('lies elsewhere');
  });

  it('without a height is as high as the nearest with one, never the sea', () => {
    const gaps = (cells: (number | null)[]) =>
      Array.from(
        fillGaps(
          Float32Array.from(cells, (c) => c ?? Number.NaN),
          3,
          2,
        ),
      );
    expect(gaps([1, null, 9, null, null, null])).toEqual([1, 9, 9, 1, 9, 9]);
    expect(() => gaps([null, null, null, null, null, null])).toThrow('no cell');
    const voided = bytes.slice();
    new DataView(voided.buffer).setInt16(2 * (600 * 1201 + 700), -32768);
    const tile = parseHgt([{ name: 'N61W013.hgt', bytes: voided }], origin, 90, 5400);
    expect(tile.heights.every((h) => Number.isFinite(h))).toBe(true);
  });

  it('over the edge of one tile comes from its neighbour', () => {
    const east = new Uint8Array(bytes.length);
    new DataView(east.buffer).setInt16(0, 0);
    for (let i = 0; i < east.length; i += 2) new DataView(east.buffer).setInt16(i, 77);
    const about = { lat: 61.9, lon: -12.02 };
    const tiles = [
      { name: 'N61W013.hgt', bytes },
      { name: 'N61W012.hgt', bytes: east },
    ];
    const both = parseHgt(tiles, about, 90, 4500);
    expect(groundHeight(both, 3000, 0)).toBe(77);
    expect(groundHeight(both, -3000, 0)).toBe(0);
    // Without it the last known goes on.
    expect(groundHeight(parseHgt(tiles.slice(0, 1), about, 90, 4500), 3000, 0)).toBe(0);
  });

  it('is raised by what stands on it, at every place that it may stand', () => {
    const beacon = skerrow.obstacles[0]!;
    const { homeEastM, homeNorthM } = groundOf(skerrow)!;
    expect(groundHeight(skerrow.terrain, homeEastM + 620, homeNorthM + 410)).toBeCloseTo(beacon.topM, 3);
    expect(groundHeight(skerrow.bare, homeEastM + 620, homeNorthM + 410)).toBeLessThan(beacon.topM - 5);
    const level = { ...levelGround(skerrow.home, 6), known: true, columns: 41, rows: 41, cellM: 25 };
    const flat = { ...level, westM: -500, southM: -500, heights: new Float32Array(41 * 41).fill(6) };
    const mast = { ...skerrow.home, name: 'Mast', topM: 80, radiusM: 40 };
    const raised = withObstacles(flat, [mast]);
    for (let a = 0; a < 6.28; a += 0.3)
      expect(groundHeight(raised, 39 * Math.cos(a), 39 * Math.sin(a))).toBeCloseTo(80, 3);
    expect(groundHeight(raised, 120, 0)).toBe(6);
    expect(flat.heights.every((h) => h === 6)).toBe(true);
  });

  it('drawn coarser keeps its highest, in its place', () => {
    const coarse = pooled(torvholm.bare, 3);
    expect(coarse.columns).toBe(133);
    expect(Math.max(...coarse.heights)).toBe(412);
    const fine = torvholm.bare;
    const topOf = (t: typeof fine) => {
      const at = t.heights.indexOf(412);
      const [i, j] = [at % t.columns, Math.floor(at / t.columns)];
      return [t.westM + i * t.cellM, t.southM + (t.rows - 1 - j) * t.cellM] as const;
    };
    const [[fe, fn], [ce, cn]] = [topOf(fine), topOf(coarse)];
    expect(Math.abs(fe - ce)).toBeLessThanOrEqual(30);
    expect(Math.abs(fn - cn)).toBeLessThanOrEqual(30);
  });

  it('with holes is kept and read again with how much of it was guessed', () => {
    const head = 'ncols 3\nnrows 3\nxllcorner -90\nyllcorner -90\ncellsize 60\nNODATA_value -9999\n';
    const bare = parseAsciiGrid(`${head}5 6 7\n5 -9999 -9999\n5 6 7\n`, torvholm.home);
    expect(bare.guessedShare).toBeCloseTo(2 / 9, 6);
    const { bare: _, terrain: __, ...fields } = torvholm;
    const site = makeSite(fields, bare);
    const again = reread(writeSiteFile(site));
    expect(again.bare.guessedShare).toBe(bare.guessedShare);
    expect(sitePrint(again)).toBe(sitePrint(site));
    expect('guessedShare' in reread(writeSiteFile(torvholm)).bare).toBe(false);
  });

  it('tells a home in the sea', () => {
    expect(homeInSea(torvholm)).toBe(false);
    // North-west of the island is only water.
    expect(homeInSea({ ...torvholm, home: { lat: 61.94, lon: -12.53, heightM: 0 } })).toBe(true);
  });
});
