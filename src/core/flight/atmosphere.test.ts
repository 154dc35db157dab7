import { describe, expect, it } from 'vitest';
import {
  dayFromField,
  densityOn,
  heightOfPressure,
  pressureOn,
  SEA_LEVEL_DENSITY,
  STANDARD_DAY,
  temperatureOn,
} from './atmosphere.ts';

// U.S. Standard Atmosphere 1976 (NOAA-S/T 76-1562), table I: geopotential height, T, p, rho.
const table = [
  [0, 288.15, 101325, 1.225],
  [1000, 281.65, 89874.6, 1.1116],
  [2000, 275.15, 79495.2, 1.0065],
  [5000, 255.65, 54019.9, 0.7361],
  [10000, 223.15, 26436.3, 0.4127],
] as const;

describe('standard atmosphere', () => {
  it.each(table)('at %i m agrees with the published table', (h, t, p, rho) => {
    expect(temperatureOn(STANDARD_DAY, h)).toBeCloseTo(t, 2);
    expect(pressureOn(STANDARD_DAY, h) / p).toBeCloseTo(1, 4);
    expect(densityOn(STANDARD_DAY, h) / rho).toBeCloseTo(1, 3);
  });

  it('gives a height back from its pressure', () => {
    for (const h of [-50, 0, 38, 412, 3000])
      expect(heightOfPressure(pressureOn(STANDARD_DAY, h))).toBeCloseTo(h, 6);
  });

  it('of a day goes through what was measured at the field', () => {
    const day = dayFromField(412, 95_000, 283.15);
    expect(pressureOn(day, 412)).toBeCloseTo(95_000, 6);
    expect(temperatureOn(day, 412)).toBeCloseTo(283.15, 9);
    // Hydrostatics: dp/dh = -rho g.
    const slope = (pressureOn(day, 413) - pressureOn(day, 411)) / 2;
    expect(slope / (-densityOn(day, 412) * 9.80665)).toBeCloseTo(1, 5);
  });

  it('has 1.225 kg/m^3 at sea level', () => {
    expect(SEA_LEVEL_DENSITY).toBeCloseTo(1.225, 4);
  });
});
