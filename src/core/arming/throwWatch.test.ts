import { describe, expect, it } from 'vitest';
import { throwIn } from './throwWatch.ts';

/** Pushes of 5 ms each. */
const pushes = (...parts: readonly (readonly [push: number, seconds: number])[]) =>
  Float64Array.from(parts.flatMap(([push, s]) => Array<number>(Math.round(s / 0.005)).fill(push)));

describe('what a throw feels like', () => {
  it('is a push above the threshold for six hundredths of a second', () => {
    const told = throwIn(pushes([0, 1], [30, 0.2], [-20, 0.3]), 12, 0.005);
    expect(told.atS).toBeCloseTo(1.06, 2);
    expect(told).toMatchObject({ mostMps2: 30 });
    expect(told.longestS).toBeCloseTo(0.2, 6);
  });

  it('is neither a knock nor a swing that is too weak', () => {
    expect(throwIn(pushes([0, 1], [60, 0.03], [0, 1]), 12, 0.005)).toMatchObject({ atS: null, mostMps2: 60 });
    expect(throwIn(pushes([0, 1], [9, 0.4]), 12, 0.005)).toMatchObject({ atS: null, longestS: 0 });
  });
});
