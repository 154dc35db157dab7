import { describe, expect, it } from 'vitest';
import { DEG } from '../math/scalar.ts';
import { homeArrow, turnWords } from './homeArrow.ts';

describe('the arrow home', () => {
  it('points back to where one came from', () => {
    expect(homeArrow(30, 0, null)).toMatchObject({ distanceM: 30, bearingDeg: 180, turnDeg: null });
    expect(homeArrow(0, 40, null).bearingDeg).toBe(270);
    expect(homeArrow(-30, -30, null).bearingDeg).toBeCloseTo(45, 9);
  });

  it('goes by the nose where that is known', () => {
    // Walked north with the nose ahead: home is behind.
    expect(Math.abs(homeArrow(50, 0, 0).turnDeg!)).toBeCloseTo(180, 9);
    // The nose to the east: home, to the south, is to the right.
    expect(homeArrow(50, 0, 90 * DEG).turnDeg).toBeCloseTo(90, 9);
    expect(homeArrow(50, 0, -90 * DEG).turnDeg).toBeCloseTo(-90, 9);
  });

  it('is said in words', () => {
    expect([4, -176, 90, -40].map(turnWords)).toEqual([
      'straight ahead',
      'straight behind',
      '90° to the right of the nose',
      '40° to the left of the nose',
    ]);
  });
});
