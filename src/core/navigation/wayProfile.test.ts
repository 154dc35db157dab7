import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { groundOf } from '../site/site.ts';
import { climbRules, GROUND_MARGIN_M, groundInReach } from './returnPlan.ts';
import { heightOnWay, LINE_M, mendedWay, nearestAbout, type WayHome } from './wayProfile.ts';

const ground = groundOf(torvholm)!;
const { needM } = groundInReach(ground);
const way: WayHome = {
  rule: 'at-least',
  startM: 120,
  returnM: 405,
  speedMps: 15,
  climbMps: 3,
  endsM: 300,
};

describe('the way home from the side', () => {
  it('climbs on the way by the triangle of climb and speed, and first where it is told so', () => {
    // 285 m at 3 m/s take 95 s, in which it comes 1425 m at 15 m/s.
    expect(heightOnWay(way, LINE_M)).toBe(120);
    expect(heightOnWay(way, LINE_M - 1425)).toBeCloseTo(405, 9);
    expect(heightOnWay(way, LINE_M - 712.5)).toBeCloseTo(262.5, 9);
    expect(heightOnWay({ ...way, rule: 'climb-first' }, LINE_M)).toBe(405);
    expect(heightOnWay({ ...way, rule: 'keep-height' }, 1000)).toBe(120);
    expect(heightOnWay({ ...way, startM: 500 }, 1000)).toBe(500);
  });

  it('is near the ground where the ridge is, when it climbs too late', () => {
    const late = nearestAbout(ground, { ...way, returnM: needM });
    const first = nearestAbout(ground, { ...way, returnM: needM, rule: 'climb-first' });
    expect(late.clearanceM).toBeLessThan(GROUND_MARGIN_M);
    expect(first.clearanceM).toBeGreaterThanOrEqual(GROUND_MARGIN_M - 5);
  });

  it('is mended in one go, whatever it was: what is offered leaves nothing to be offered', () => {
    const anyWay = fc.record({
      rule: fc.constantFrom(...climbRules),
      startM: fc.integer({ min: 20, max: 800 }),
      returnM: fc.integer({ min: 30, max: 900 }),
      speedMps: fc.double({ min: 8, max: 30, noNaN: true }),
      climbMps: fc.double({ min: 1, max: 8, noNaN: true }),
      endsM: fc.integer({ min: 100, max: 600 }),
    });
    fc.assert(
      fc.property(anyWay, (w) => {
        const change = mendedWay(ground, w, needM);
        const mended = { ...w, ...change };
        expect(mendedWay(ground, mended, needM)).toBeNull();
        if (w.rule !== 'keep-height')
          expect(nearestAbout(ground, mended).clearanceM).toBeGreaterThanOrEqual(GROUND_MARGIN_M - 5);
      }),
      { numRuns: 60 },
    );
  });
});
