import { describe, expect, it } from 'vitest';
import { stickDemand } from './stickShape.ts';

const plain = { low: 1000, middle: 1500, high: 2000, deadband: 0, expo: 0 };

describe('what a board makes of a stick', () => {
  it('is the share of its travel, without expo and deadband', () => {
    for (const us of [1000, 1250, 1500, 1875, 2000])
      expect(stickDemand(us, plain)).toBeCloseTo((us - 1500) / 500, 12);
  });

  it('is rest within the deadband, begins at nothing beyond it, and ends at the whole', () => {
    const s = { ...plain, deadband: 20 };
    expect(stickDemand(1519, s)).toBe(0);
    expect(stickDemand(1521, s)).toBeCloseTo(1 / 480, 9);
    expect(stickDemand(2000, s)).toBe(1);
    expect(stickDemand(900, s)).toBe(-1);
  });

  it('is softer about the middle by expo, by hand: half a stick at 0.4 gives 0.5 (0.6) + 0.4 (0.125)', () => {
    expect(stickDemand(1750, { ...plain, expo: 0.4 })).toBeCloseTo(0.35, 12);
    expect(stickDemand(1250, { ...plain, expo: 0.4 })).toBeCloseTo(-0.35, 12);
  });
});
