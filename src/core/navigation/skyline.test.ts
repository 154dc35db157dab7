import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { groundOf } from '../site/site.ts';
import { skylineAt, skylineOf } from './skyline.ts';

describe('the skyline', () => {
  const skyline = skylineOf(groundOf(torvholm)!, torvholm.home.heightM + 1);

  it('has Aldrygg in the north-west and the sea in the south', () => {
    const north = Math.max(...[280, 290, 300, 310, 320, 330, 340].map((b) => skylineAt(skyline, b)));
    expect(north).toBeGreaterThan(2);
    expect(skylineAt(skyline, 180)).toBeLessThan(0.5);
  });

  it('stands as high as a ridge of known height and distance makes it', () => {
    // Ground of 100 m that begins 1 km to the north: atan((100 - 1) / 1000), less a hundredth for the earth's roundness.
    const columns = 101;
    const heights = new Float32Array(columns * columns);
    const terrain = {
      ...torvholm.terrain,
      known: true,
      columns,
      rows: columns,
      cellM: 40,
      westM: -2000,
      southM: -2000,
      heights,
    };
    for (let j = 0; j < columns; j++)
      for (let i = 0; i < columns; i++) if (j >= 20 && j <= 25) heights[j * columns + i] = 100;
    const of = skylineOf({ terrain, homeEastM: 0, homeNorthM: 0 }, 1);
    expect(skylineAt(of, 0)).toBeCloseTo((Math.atan2(99, 1000) * 180) / Math.PI, 0);
    expect(skylineAt(of, 180)).toBe(0);
    // Along the wall it is farther: by the cosine.
    expect(skylineAt(of, 45)).toBeCloseTo((Math.atan2(99, 1414) * 180) / Math.PI, 0);
  });
});
