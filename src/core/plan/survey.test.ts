import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { placeAt } from '../../testing/plans.ts';
import { eastOf, northOf } from '../navigation/earth.ts';
import { surveyOf } from './survey.ts';

const { home } = torvholm;
const point = { heightM: 100, above: 'home', speedMps: 0, cameraDeg: 90 } as const;
const rectangle = [placeAt(500, 500), placeAt(500, 1500), placeAt(1100, 1500), placeAt(1100, 500)];
const flat = (p: { lat: number; lon: number }) =>
  [northOf(home.lat, p.lat), eastOf(home.lat, home.lon, p.lon)] as const;

describe('a survey', () => {
  it('covers a rectangle in as few tracks as there can be, half a spacing from its edges', () => {
    const s = surveyOf({ corners: rectangle, spacingM: 100, beyondM: 0, point }, home);
    // 600 m across and 1000 m along: six tracks along, ten across.
    expect(s.tracks).toBe(6);
    expect(s.bearingDeg).toBe(90);
    expect(s.overM).toBeCloseTo(6000, -1);
    expect(s.lengthM).toBeCloseTo(6000 + 5 * 100, -1);
    const norths = [...new Set(s.points.map((p) => Math.round(flat(p)[0])))].sort((a, b) => a - b);
    expect(norths).toEqual([550, 650, 750, 850, 950, 1050]);
  });

  it('is flown to and fro, from the corner that is nearest to home', () => {
    const s = surveyOf({ corners: rectangle, spacingM: 100, beyondM: 0, point }, home);
    const at = s.points.map(flat);
    expect(at[0]![0]).toBeCloseTo(550, 0);
    expect(at[0]![1]).toBeCloseTo(500, 0);
    for (let i = 0; i + 1 < at.length; i += 2)
      expect(Math.abs(at[i]![1] - at[i + 1]![1])).toBeCloseTo(1000, 0);
    for (let i = 1; i + 1 < at.length; i += 2) expect(Math.abs(at[i]![1] - at[i + 1]![1])).toBeLessThan(1);
  });

  it('goes on beyond the ends, along whatever bearing, and points the camera once', () => {
    const s = surveyOf({ corners: rectangle, spacingM: 100, bearingDeg: 0, beyondM: 50, point }, home);
    expect(s.tracks).toBe(10);
    const norths = s.points.map((p) => flat(p)[0]);
    expect(Math.min(...norths)).toBeCloseTo(450, 0);
    expect(Math.max(...norths)).toBeCloseTo(1150, 0);
    expect(s.points.map((p) => p.do).filter((d) => d === 'camera')).toHaveLength(1);
    expect(s.points[0]!.do).toBe('camera');
  });

  it('covers what it claims to: no place of a crooked area is farther than half a spacing from a track', () => {
    const corners = [
      placeAt(0, 0),
      placeAt(900, 200),
      placeAt(1200, 900),
      placeAt(400, 1300),
      placeAt(-200, 700),
    ];
    const spacing = 90;
    const s = surveyOf({ corners, spacingM: spacing, beyondM: 0, point }, home);
    const at = s.points.map(flat);
    const poly = corners.map(flat);
    const inside = (n: number, e: number) =>
      poly.filter(([pn, pe], i) => {
        const [qn, qe] = poly[(i + 1) % poly.length]!;
        return pn > n !== qn > n && e < pe + ((n - pn) / (qn - pn)) * (qe - pe);
      }).length %
        2 ===
      1;
    let seen = 0;
    for (let n = -150; n < 1200; n += 37)
      for (let e = 20; e < 1280; e += 41) {
        if (!inside(n, e)) continue;
        seen++;
        let least = Number.POSITIVE_INFINITY;
        for (let i = 0; i + 1 < at.length; i += 2) {
          const [a, b] = [at[i]!, at[i + 1]!];
          const [dn, de] = [b[0] - a[0], b[1] - a[1]];
          const k = Math.min(1, Math.max(0, ((n - a[0]) * dn + (e - a[1]) * de) / (dn * dn + de * de)));
          least = Math.min(least, Math.hypot(n - a[0] - k * dn, e - a[1] - k * de));
        }
        // At slanted ends of a track a corner may stick out a little more.
        expect(least).toBeLessThan(1.6 * (spacing / 2));
      }
    expect(seen).toBeGreaterThan(200);
  });

  it('says why there is none', () => {
    const asked = { spacingM: 100, beyondM: 0, point };
    expect(() => surveyOf({ ...asked, corners: rectangle.slice(0, 2) }, home)).toThrow(/three corners/);
    const [a, b, c, d] = rectangle;
    expect(() => surveyOf({ ...asked, corners: [a!, c!, b!, d!] }, home)).toThrow(/crosses itself/);
    expect(() => surveyOf({ ...asked, corners: rectangle, spacingM: 5 }, home)).toThrow(/farther apart/);
  });
});
