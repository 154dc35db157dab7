import { GRAVITY } from '../math/scalar.ts';

const R = 287.05287;
const T0 = 288.15;
const P0 = 101325;
const LAPSE = -0.0065;
const EXPONENT = -GRAVITY / (LAPSE * R);

/** Height whose standard pressure this is, m: the inverse of `pressureOn` the standard day. */
export function heightOfPressure(pressurePa: number): number {
  return (T0 / LAPSE) * ((pressurePa / P0) ** (1 / EXPONENT) - 1);
}

/** Density of the standard atmosphere where it has this pressure, kg/m^3: all that a board without a thermometer knows. */
export function densityOfPressure(pressurePa: number): number {
  return pressurePa / (R * T0 * (pressurePa / P0) ** (1 / EXPONENT));
}

/** Density at sea level, kg/m^3. */
export const SEA_LEVEL_DENSITY = P0 / (R * T0);

/** Equivalent airspeed that a dynamic pressure is, m/s: q = 1/2 rho_0 V^2 (NOAA/NASA/USAF 1976 for rho_0). @param pressurePa below nought counts for none */
export const airspeedOfPressure = (pressurePa: number): number =>
  Math.sqrt((2 * Math.max(0, pressurePa)) / SEA_LEVEL_DENSITY);

/** The air of a day: pressure at sea level and temperature there, Pa and K. */
export interface Day {
  readonly pressurePa: number;
  readonly temperatureK: number;
}

export const STANDARD_DAY: Day = { pressurePa: P0, temperatureK: T0 };

/** The day that gives a pressure and temperature measured at a field, by the standard lapse rate. */
export function dayFromField(heightM: number, pressurePa: number, temperatureK: number): Day {
  const sea = temperatureK - LAPSE * heightM;
  return { temperatureK: sea, pressurePa: pressurePa / (temperatureK / sea) ** EXPONENT };
}

/**
 * The law of the 1976 standard atmosphere below 11 km (NOAA/NASA/USAF 1976, eq. 33a and 42) with the day's own
 * sea level.
 * @param heightM geopotential height above sea level, m
 * @returns pressure, Pa
 */
export function pressureOn(day: Day, heightM: number): number {
  return day.pressurePa * (temperatureOn(day, heightM) / day.temperatureK) ** EXPONENT;
}

/** Temperature on a day at a geopotential height below 11 km, K. */
export function temperatureOn(day: Day, heightM: number): number {
  return day.temperatureK + LAPSE * heightM;
}

/** Density on a day at a height, kg/m^3. */
export function densityOn(day: Day, heightM: number): number {
  return pressureOn(day, heightM) / (R * temperatureOn(day, heightM));
}

/** The standard day at a height as people type it in, whole degrees Celsius and hPa. */
export const standardAir = (heightM: number) => ({
  temperatureC: Math.round(T0 - 273.15 + LAPSE * heightM),
  pressureHpa: Math.round(pressureOn(STANDARD_DAY, heightM) / 100),
});
