import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mossvikGround } from '../../testing/aloft.ts';
import { groundInReach } from '../navigation/returnPlan.ts';
import { groundHeight, highestWithin, type Terrain } from './terrain.ts';

const grid = (columns: number, rows: number, heights: number[]): Terrain => ({
  origin: { lat: 60, lon: 10 },
  known: true,
  columns,
  rows,
  cellM: 100,
  westM: -200,
  southM: -200,
  heights: Float32Array.from(heights),
});

describe('the ground', () => {
  it('is as the grid says at its posts, whose first row is the northern one', () => {
    const t = grid(3, 3, [1, 2, 3, 4, 5, 6, 7, 8, 9]);
    expect(groundHeight(t, -200, 0)).toBe(1);
    expect(groundHeight(t, -100, 0)).toBe(2);
    expect(groundHeight(t, -200, -100)).toBe(4);
    expect(groundHeight(t, -150, -50)).toBeCloseTo((1 + 2 + 4 + 5) / 4, 9);
  });

  it('goes on beyond the grid as at its edge: land is never taken for sea', () => {
    const t = grid(2, 2, [50, 50, 50, 50]);
    for (const [e, n] of [
      [-5000, 0],
      [5000, 0],
      [0, 5000],
      [0, -5000],
    ] as const)
      expect(groundHeight(t, e, n)).toBeCloseTo(50, 6);
  });

  it('has its highest point in reach where a search by hand finds it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 25, maxLength: 25 }),
        fc.integer({ min: 0, max: 400 }),
        (heights, reach) => {
          const terrain = grid(5, 5, heights);
          const home = { terrain, homeEastM: 0, homeNorthM: 0 };
          let most = 0;
          heights.forEach((h, at) => {
            const east = -200 + 100 * (at % 5);
            const north = -200 + 100 * (4 - Math.floor(at / 5));
            if (Math.hypot(east, north) <= reach) most = Math.max(most, h);
          });
          expect(highestWithin(home, reach).heightM).toBe(most);
        },
      ),
    );
  });

  it('in reach of Mossvik asks for a height in steps of five that clears it by thirty', () => {
    const { top, homeM, needM } = groundInReach(mossvikGround);
    expect(needM % 5).toBe(0);
    expect(needM - (top.heightM - homeM)).toBeGreaterThanOrEqual(30);
    expect(needM - (top.heightM - homeM)).toBeLessThan(35);
    expect(groundInReach(mossvikGround)).toBe(groundInReach(mossvikGround));
  });
});
