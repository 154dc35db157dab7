import geomagnetism from 'geomagnetism';
import { describe, expect, it } from 'vitest';
import { DEG } from '../math/scalar.ts';
import { magneticField } from './magneticField.ts';

describe('the World Magnetic Model', () => {
  // Second implementation: the package geomagnetism 0.2 (WMM 2025).
  const day = new Date('2026-06-01T00:00:00Z');
  const model = geomagnetism.model(day);
  const year = 2026 + 151 / 365;
  it.each([
    [61.905, -12.43],
    [0, 0],
    [-45, 170],
    [80, 120],
    [35, -100],
    [-70, -60],
  ])('agrees with a second implementation at %f, %f', (lat, lon) => {
    const theirs = model.point([lat, lon]);
    const ours = magneticField(lat, lon, 0, year);
    expect(ours.declination / DEG).toBeCloseTo(theirs.decl, 1);
    expect(ours.inclination / DEG).toBeCloseTo(theirs.incl, 1);
    expect(Math.abs(ours.strengthNt - theirs.f)).toBeLessThan(20);
  });
});
