import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { placeAt, squareAt } from '../../testing/plans.ts';
import { brokenFence, depthInside, localFences } from './fences.ts';
import { areaOf, borderDistance, crossesItself, isInside } from './polygon.ts';

const L = [0, 0, 400, 0, 400, 100, 100, 100, 100, 400, 0, 400];

describe('a polygon', () => {
  it('knows what lies inside, in its notch and out of it', () => {
    for (const [n, e, inside] of [
      [50, 50, true],
      [350, 50, true],
      [50, 350, true],
      [250, 250, false],
      [-1, 50, false],
      [401, 50, false],
    ] as const)
      expect(isInside(L, n, e), `${n} ${e}`).toBe(inside);
  });

  it('is as far as its nearest edge or corner', () => {
    expect(borderDistance(L, 50, 50)).toBe(50);
    expect(borderDistance(L, -30, -40)).toBe(50);
    expect(borderDistance(L, 200, 200)).toBe(100);
  });

  it('has the area of its two rectangles', () => {
    expect(areaOf(L)).toBe(400 * 100 + 300 * 100);
  });

  it('agrees with the winding of a circle, wherever it is asked', () => {
    // A circle by its many corners against the closed form.
    const ring = Array.from({ length: 360 }, (_, i) => (i * Math.PI) / 180).flatMap((a) => [
      500 * Math.cos(a),
      500 * Math.sin(a),
    ]);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 900, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        (r, a) => {
          fc.pre(Math.abs(r - 500) > 1);
          const [n, e] = [r * Math.cos(a), r * Math.sin(a)];
          expect(isInside(ring, n, e)).toBe(r < 500);
          expect(Math.abs(borderDistance(ring, n, e) - Math.abs(500 - r))).toBeLessThan(0.1);
        },
      ),
      { numRuns: 300, seed: 4 },
    );
  });

  it('crosses itself where two of its edges meet, touch or run back', () => {
    expect(crossesItself(L)).toBe(false);
    expect(crossesItself([0, 0, 100, 100, 100, 0, 0, 100])).toBe(true);
    expect(crossesItself([0, 0, 100, 0, 100, 0, 50, 50])).toBe(true);
    // A corner on another edge.
    expect(crossesItself([0, 0, 100, 0, 100, 100, 50, 0, 0, 100])).toBe(true);
    expect(crossesItself([0, 0, 100, 0, 50, 80])).toBe(false);
  });
});

describe('fences', () => {
  const home = torvholm.home;
  it('lie in metres where they were drawn', () => {
    const [square] = localFences([squareAt(300, -200, 100)], home);
    expect(depthInside(square!, 300, -200)).toBeCloseTo(100, 0);
    expect(depthInside(square!, 300, -320)).toBeCloseTo(-20, 0);
    const [round] = localFences(
      [{ name: 'x', keep: 'out', area: { ...placeAt(0, 500), radiusM: 120 }, fromM: 0, toM: 100 }],
      home,
    );
    expect(depthInside(round!, 0, 500)).toBeCloseTo(120, 0);
    expect(depthInside(round!, 0, 370)).toBeCloseTo(-10, 0);
  });

  it('to keep in: one of several is enough, and the height of that one counts', () => {
    const fences = localFences(
      [squareAt(0, 0, 200, { keep: 'in', toM: 100 }), squareAt(1000, 0, 200, { keep: 'in', toM: 0 })],
      home,
    );
    expect(brokenFence(fences, 0, 0, 50, 0)).toBe(-1);
    expect(brokenFence(fences, 0, 0, 150, 0)).toBe(0);
    expect(brokenFence(fences, 1000, 0, 150, 0)).toBe(-1);
    expect(brokenFence(fences, 500, 0, 50, 0)).toBe(0);
    // With room to spare, near the edge is not yet inside.
    expect(brokenFence(fences, 190, 0, 50, 15)).toBe(0);
  });

  it('to keep out: only between its heights, and before any that keeps in', () => {
    const fences = localFences(
      [squareAt(0, 0, 2000, { keep: 'in', toM: 0 }), squareAt(500, 0, 100, { fromM: 40, toM: 120 })],
      home,
    );
    expect(brokenFence(fences, 500, 0, 80, 0)).toBe(1);
    expect(brokenFence(fences, 500, 0, 30, 0)).toBe(-1);
    expect(brokenFence(fences, 500, 0, 130, 0)).toBe(-1);
    expect(brokenFence(fences, 500, 0, 130, 15)).toBe(1);
    expect(brokenFence(fences, 610, 0, 80, 15)).toBe(1);
    expect(brokenFence([], 500, 0, 80, 0)).toBe(-1);
  });
});
