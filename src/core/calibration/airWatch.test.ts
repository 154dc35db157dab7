import { describe, expect, it } from 'vitest';
import { Noise } from '../math/random.ts';
import { flowScaleFrom, rangeFromLift, tubeSeen } from './airWatch.ts';

describe('a rangefinder', () => {
  it('is put right by a measured lift', () => {
    // It says 1.1 times the distance, and 7 cm while it stands.
    const found = rangeFromLift(0.07, 0.07 + 1.1, 1);
    if ('refused' in found) throw new Error(found.refused);
    expect(found.scale * (0.07 + 1.1) - found.offset).toBeCloseTo(1, 9);
    expect(found.scale * 0.07 - found.offset).toBeCloseTo(0, 9);
  });

  it.each([
    [0.07, 1.07, 0.1, /0.3 m at least/],
    [0.07, 0.1, 1, /did not grow/],
    [0.07, 2.4, 1, /scaled by/],
  ])('standing at %f and lifted to %f by %f is refused', (standing, lifted, by, why) => {
    expect(rangeFromLift(standing, lifted, by)).toMatchObject({ refused: expect.stringMatching(why) });
  });
});

describe('optical flow', () => {
  const noise = new Noise(4);
  const gyro = Array.from({ length: 300 }, (_, i) => 0.8 * Math.sin(i * 0.12));

  it('is scaled to what the gyro says of a craft that is rocked, within a hundredth', () => {
    for (const scale of [0.8, 1, 1.25]) {
      const found = flowScaleFrom(
        gyro.map((w) => w / scale + 0.02 * noise.next()),
        gyro,
      );
      if ('refused' in found) throw new Error(found.refused);
      expect(found.scale).toBeCloseTo(scale, 2);
    }
  });

  it('is refused at rest, carried along, and with another lens', () => {
    expect(
      flowScaleFrom(
        gyro.map(() => 0),
        gyro.map(() => 0.01),
      ),
    ).toHaveProperty('refused');
    expect(
      flowScaleFrom(
        gyro.map(() => noise.next()),
        gyro,
      ),
    ).toHaveProperty('refused');
    expect(
      flowScaleFrom(
        gyro.map((w) => w / 2),
        gyro,
      ),
    ).toHaveProperty('refused');
  });
});

describe('a tube', () => {
  it('is whole, leaks or is blocked by what a breath makes of it', () => {
    expect(tubeSeen(3, 420).verdict).toBe('whole');
    expect(tubeSeen(3, 120).verdict).toBe('weak');
    expect(tubeSeen(3, 9).verdict).toBe('blocked');
  });
});
