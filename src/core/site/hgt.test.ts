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
    expect(() => parseHgt([{ name: 'N10E013.hgt', bytes }], centre, 90, 1000)).toThrow('does not hold home');
  });
});
