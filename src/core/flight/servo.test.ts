import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Surface } from '../airframe/airframe.ts';
import { DEG } from '../math/scalar.ts';
import { Servo, surfaceAngle } from './servo.ts';

const linkage = { servoSpeedDegPerS: 300, servoTravelDeg: 50, slopDeg: 0, armMm: 10, hornMm: 15 };
const surface = (change: Partial<typeof linkage> | null = {}): Surface => ({
  id: 'elevator',
  on: 'tail',
  from: 0,
  to: 1,
  chordShare: 0.3,
  throwDeg: 25,
  ...(change ? { linkage: { ...linkage, ...change } } : {}),
});
const settle = (servo: Servo, share: number) => {
  servo.share = share;
  for (let k = 0; k < 2000; k++) servo.step(0.001);
  return servo.deflection;
};

describe('a servo with its rod', () => {
  it('moves the surface by the four-bar law of a long rod', () => {
    // horn sin(surface) = arm sin(servo): 10/15 sin 50 degrees.
    expect(settle(new Servo(surface()), 1)).toBeCloseTo(Math.asin((10 / 15) * Math.sin(50 * DEG)), 9);
    expect(surfaceAngle(30 * DEG, 1)).toBeCloseTo(30 * DEG, 12);
  });

  it('of which nothing is known gives the throw of the surface at full travel', () => {
    expect(new Servo(surface(null)).throw).toBeCloseTo(25 * DEG, 12);
  });

  it('moves at its own speed and no faster', () => {
    const servo = new Servo(surface({ hornMm: 10 }));
    servo.share = 1;
    for (let k = 0; k < 100; k++) servo.step(0.001);
    expect(servo.deflection / DEG).toBeCloseTo(30, 6);
    servo.share = -1;
    for (let k = 0; k < 100; k++) servo.step(0.001);
    expect(servo.deflection).toBeCloseTo(0, 6);
  });

  it('has play: comes to rest short of the mark from either side', () => {
    const servo = new Servo(surface({ slopDeg: 2 }));
    settle(servo, -1);
    const fromBelow = settle(servo, 0);
    settle(servo, 1);
    const fromAbove = settle(servo, 0);
    expect((fromAbove - fromBelow) / DEG).toBeCloseTo(2, 6);
  });

  it('does not answer a movement smaller than its play', () => {
    const servo = new Servo(surface({ slopDeg: 2, hornMm: 10 }));
    const rest = settle(servo, 0.5);
    expect(settle(servo, 0.5 - 0.9 * (2 / 50))).toBeCloseTo(rest, 12);
  });

  it('stops where the horn cannot follow, and never gives a NaN', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 2, max: 100, noNaN: true }),
        (share, armMm) => {
          const servo = new Servo(surface({ armMm, hornMm: 5, servoTravelDeg: 90 }));
          servo.share = share;
          for (let k = 0; k < 400; k++) servo.step(0.001);
          expect(Math.abs(servo.deflection)).toBeLessThanOrEqual(Math.PI / 2);
        },
      ),
      { numRuns: 40 },
    );
  });
});
