import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { groundOf } from '../site/site.ts';
import { eastOf, latitudeAt, longitudeAt, northOf } from './earth.ts';
import { accelerationTowards, aimOnCircle, aimOnLine, bankFor, lookahead } from './pathGuidance.ts';
import { returnHeights } from './returnPlan.ts';
import { linesAbout } from './wayProfile.ts';
import { groundSpeedAlong } from './windTriangle.ts';

describe('places on the earth', () => {
  it('come back from metres', () => {
    const n = northOf(61.883, 61.905);
    const e = eastOf(61.883, -12.43, -12.4);
    expect(latitudeAt(61.883, n)).toBeCloseTo(61.905, 9);
    expect(longitudeAt(61.883, -12.43, e)).toBeCloseTo(-12.4, 9);
    // One minute of latitude is a nautical mile by its old definition.
    expect(northOf(61, 61 + 1 / 60)).toBeGreaterThan(1852);
    expect(northOf(61, 61 + 1 / 60)).toBeLessThan(1858);
  });
});

describe('path guidance', () => {
  it('asks on a circle for exactly V^2/R, inwards', () => {
    const aim = { north: 0, east: 0 };
    for (const bearing of [0, 70, 200, 310]) {
      const n = 80 * Math.cos(bearing * DEG);
      const e = 80 * Math.sin(bearing * DEG);
      aimOnCircle(aim, 0, 0, 80, 1, n, e, 40);
      // Clockwise seen from above: a quarter turn ahead of the bearing.
      const vn = -18 * Math.sin(bearing * DEG);
      const ve = 18 * Math.cos(bearing * DEG);
      expect(accelerationTowards(vn, ve, aim.north - n, aim.east - e, 40)).toBeCloseTo((18 * 18) / 80, 6);
    }
  });

  it('flies round a circle and onto a line from anywhere, kinematically', () => {
    const aim = { north: 0, east: 0 };
    for (const start of [
      [400, 50],
      [-20, 10],
      [80, 0],
      [0, -300],
    ] as const) {
      let [n, e] = start;
      let course = 1;
      for (let k = 0; k < 9000; k++) {
        aimOnCircle(aim, 0, 0, 80, -1, n, e, lookahead(16, 0.75, 16));
        const a = accelerationTowards(
          16 * Math.cos(course),
          16 * Math.sin(course),
          aim.north - n,
          aim.east - e,
          lookahead(16, 0.75, 16),
        );
        course += (GRAVITY * Math.tan(bankFor(a, 45 * DEG)) * 0.02) / 16;
        n += 16 * Math.cos(course) * 0.02;
        e += 16 * Math.sin(course) * 0.02;
      }
      expect(Math.hypot(n, e)).toBeGreaterThan(76);
      expect(Math.hypot(n, e)).toBeLessThan(84);
    }
    let n = -100;
    let e = 200;
    let course = 3;
    for (let k = 0; k < 4000; k++) {
      aimOnLine(aim, 0, 0, 5000, 0, n, e, lookahead(16, 0.75, 16));
      const a = accelerationTowards(
        16 * Math.cos(course),
        16 * Math.sin(course),
        aim.north - n,
        aim.east - e,
        lookahead(16, 0.75, 16),
      );
      course += (GRAVITY * Math.tan(bankFor(a, 45 * DEG)) * 0.02) / 16;
      n += 16 * Math.cos(course) * 0.02;
      e += 16 * Math.sin(course) * 0.02;
    }
    expect(Math.abs(e)).toBeLessThan(1);
  });

  it('turns fully round when the goal lies behind', () => {
    expect(Math.abs(accelerationTowards(16, 0, -100, 1, 60))).toBeGreaterThan(5);
  });

  it('turns as sharply a kilometre off the path as near it', () => {
    // Across the way to an aim far off to the side: the law's L1 counts, not how far the aim is.
    expect(accelerationTowards(8, 0, 30, 900, 40)).toBeCloseTo(
      (2 * 64 * Math.sin(Math.atan2(900, 30))) / 40,
      9,
    );
  });

  it('never banks past its limit', () => {
    expect(bankFor(1000, 0.7)).toBe(0.7);
    expect(bankFor(GRAVITY, 1.2)).toBeCloseTo(Math.PI / 4, 9);
  });
});

describe('wind triangle', () => {
  it('is airspeed and wind along the track, and a right triangle across it', () => {
    expect(groundSpeedAlong(15, -5, 0)).toBe(10);
    expect(groundSpeedAlong(5, 0, 3)).toBe(4);
    expect(groundSpeedAlong(15, -20, 0)).toBeLessThan(0);
    expect(groundSpeedAlong(10, 0, 12)).toBeNaN();
  });
});

describe('return heights', () => {
  it.each([
    ['climb-first', 50, 120, 120, true],
    ['climb-first', 200, 120, 120, false],
    ['climb-on-the-way', 50, 120, 120, false],
    ['at-least', 200, 120, 200, false],
    ['at-least', 50, 120, 120, false],
    ['keep-height', 50, 120, 50, false],
  ] as const)('%s from %i m with %i m set flies at %i m', (rule, start, set, height, first) => {
    expect(returnHeights(rule, start, set)).toEqual({ heightM: height, climbFirst: first });
  });
});

describe('the worst line home', () => {
  it('leads over the summit of Aldrygg', () => {
    const lines = linesAbout({ ...groundOf(torvholm)!, homeEastM: 0, homeNorthM: -2449 });
    const line = lines.reduce((a, b) => (b.highest.heightM > a.highest.heightM ? b : a));
    expect(line.highest.heightM).toBeGreaterThan(400);
    expect(line.bearingDeg).toBeGreaterThan(290);
    expect(line.bearingDeg).toBeLessThan(330);
  });
});
