import { describe, expect, it } from 'vitest';
import { attitudeOf } from '#core/calibration/poses.ts';
import { rolledBy, seen, spunBy } from './held.ts';

const level = attitudeOf(0, 0, 23);

describe('a craft as it is seen in hands', () => {
  it('shows its tail to the eye: the nose lies higher and farther away, the right wing to the right, its top towards the eye', () => {
    const nose = seen(level, 1, 0, 0);
    expect(nose.x).toBeCloseTo(0, 9);
    expect(nose.y).toBeLessThan(-0.5);
    expect(nose.away).toBeGreaterThan(0.8);
    expect(seen(level, 0, 1, 0)).toMatchObject({ x: expect.closeTo(1, 9), y: expect.closeTo(0, 9) });
    expect(seen(level, 0, 0, -1).away).toBeLessThan(0);
  });

  it('keeps lengths, whatever the attitude', () => {
    for (const q of [level, attitudeOf(110, -40, 260), attitudeOf(-5, 89, 10)]) {
      const { x, y, away } = seen(q, 0.3, -0.4, 1.2);
      expect(Math.hypot(x, y, away)).toBeCloseTo(1.3, 9);
    }
  });

  it('turns as a ball under a finger: what is near the eye goes where the finger goes', () => {
    const { x, y, away } = seen(level, -1, 0, -0.7);
    expect(away).toBeLessThan(-1);
    const toRight = seen(rolledBy(level, 0.2, 0), -1, 0, -0.7);
    expect(toRight.x).toBeGreaterThan(x + 0.15);
    expect(toRight.y).toBeCloseTo(y, 1);
    const down = seen(rolledBy(level, 0, 0.2), -1, 0, -0.7);
    expect(down.y).toBeGreaterThan(y + 0.15);
    expect(down.x).toBeCloseTo(x, 1);
  });

  it('turns clockwise on the screen beside the ball', () => {
    const wing = seen(spunBy(level, 0.3), 0, 1, 0);
    expect(wing.y).toBeCloseTo(Math.sin(0.3), 6);
    expect(wing.x).toBeCloseTo(Math.cos(0.3), 6);
  });
});
