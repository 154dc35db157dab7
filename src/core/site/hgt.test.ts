import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { groundHeight } from '../flight/terrain.ts';
import { parseHgt } from './hgt.ts';

const bytes = new Uint8Array(readFileSync('demo/terrain/N61W013.hgt'));

const centre = torvholm.terrain.origin;

describe('a terrain tile', () => {
  it('says the same of Torvholm as the grid it was made from', () => {
    const tile = parseHgt([{ name: 'N61W013.hgt', bytes }], centre, 90, 5400);
    let worst = 0;
    for (let n = -2800; n <= 2800; n += 140)
      for (let e = -5200; e <= 5200; e += 130)
        worst = Math.max(worst, Math.abs(groundHeight(tile, e, n) - groundHeight(torvholm.terrain, e, n)));
    // Three arc seconds are 93 m north; steep ground differs by what lies between.
    expect(worst).toBeLessThan(14);
    expect(groundHeight(tile, 0, -2449)).toBeCloseTo(38, 0);
    expect(Math.max(...tile.heights)).toBeGreaterThan(405);
    expect(Math.max(...torvholm.terrain.heights)).toBe(412);
    expect(torvholm.terrain.cellM).toBe(30);
  });

  it('is refused in a sentence when it is of another size, name or place', () => {
    expect(() => parseHgt([{ name: 'tile.hgt', bytes }], centre, 90, 1000)).toThrow('does not tell');
    expect(() => parseHgt([{ name: 'N61W013.hgt', bytes: bytes.subarray(2) }], centre, 90, 1000)).toThrow(
      '1201 or 3601',
    );
    expect(() => parseHgt([{ name: 'N10E013.hgt', bytes }], centre, 90, 1000)).toThrow(
      'lies elsewhere: none of it is within 1 km of home',
    );
  });

  it('that does not meet another, or has holes, tells how much had to be guessed', () => {
    // Home near its western edge: what lies west of it is in a tile that is not there.
    const edge = { lat: 61.9, lon: -12.99 };
    const alone = parseHgt([{ name: 'N61W013.hgt', bytes }], edge, 200, 4000);
    expect(alone.guessedShare).toBeGreaterThan(0.3);
    expect(alone.guessedShare).toBeLessThan(0.5);
    const both = [
      { name: 'N61W013.hgt', bytes },
      { name: 'N61W014.hgt', bytes },
    ];
    expect(parseHgt(both, edge, 200, 4000).guessedShare).toBeUndefined();
    // Another one far away is refused, not passed over.
    expect(() => parseHgt([both[0]!, { name: 'N10E013.hgt', bytes }], edge, 200, 4000)).toThrow(
      'N10E013.hgt lies elsewhere',
    );
    const holes = bytes.slice();
    // No data (-32768) over a third of its rows, away from home.
    for (let k = 0; k < 2 * 1201 * 60; k += 2) [holes[k], holes[k + 1]] = [0x80, 0];
    const told = parseHgt([{ name: 'N61W013.hgt', bytes: holes }], { lat: 61.93, lon: -12.5 }, 200, 4000);
    expect(told.guessedShare).toBeGreaterThan(0.05);
  });
});
