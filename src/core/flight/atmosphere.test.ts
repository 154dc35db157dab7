import { describe, expect, it } from 'vitest';
import { densityAt, heightOfPressure, pressureAt, SEA_LEVEL_DENSITY, temperatureAt } from './atmosphere.ts';

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
    expect(temperatureAt(h)).toBeCloseTo(t, 2);
    expect(pressureAt(h) / p).toBeCloseTo(1, 4);
    expect(densityAt(h) / rho).toBeCloseTo(1, 3);
  });

  it('gives a height back from its pressure', () => {
    for (const h of [-50, 0, 38, 412, 3000]) expect(heightOfPressure(pressureAt(h))).toBeCloseTo(h, 6);
  });

  it('has 1.225 kg/m^3 at sea level', () => {
    expect(SEA_LEVEL_DENSITY).toBeCloseTo(1.225, 4);
  });
});
