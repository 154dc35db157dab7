import { GRAVITY } from '../math/scalar.ts';

const R = 287.05287;
const T0 = 288.15;
const P0 = 101325;
const LAPSE = -0.0065;
const EXPONENT = -GRAVITY / (LAPSE * R);

/**
 * 1976 standard atmosphere below 11 km (NOAA/NASA/USAF 1976, eq. 33a and 42).
 * @param heightM geopotential height above sea level, m
 * @returns pressure, Pa
 */
export function pressureAt(heightM: number): number {
  return P0 * (temperatureAt(heightM) / T0) ** EXPONENT;
}

/** Temperature at a geopotential height below 11 km, K. */
export function temperatureAt(heightM: number): number {
  return T0 + LAPSE * heightM;
}

/** Air density at a geopotential height below 11 km, kg/m^3. */
export function densityAt(heightM: number): number {
  return pressureAt(heightM) / (R * temperatureAt(heightM));
}

/** Height whose standard pressure this is, m: the inverse of `pressureAt`. */
export function heightOfPressure(pressurePa: number): number {
  return (T0 / LAPSE) * ((pressurePa / P0) ** (1 / EXPONENT) - 1);
}

/** Density at sea level, kg/m^3. */
export const SEA_LEVEL_DENSITY = P0 / (R * T0);
