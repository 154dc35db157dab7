import { DEG } from '../math/scalar.ts';

/** Mean radii of the WGS 84 ellipsoid at 62 degrees north would differ by 0.2 %; a sphere serves over 20 km. */
const EARTH_RADIUS_M = 6_378_137;

/** Metres north and east of an origin on the tangent plane; right to 0.3 % within 20 km. */
export function northOf(originLat: number, lat: number): number {
  return (lat - originLat) * DEG * EARTH_RADIUS_M;
}

export function eastOf(originLat: number, originLon: number, lon: number): number {
  return (lon - originLon) * DEG * EARTH_RADIUS_M * Math.cos(originLat * DEG);
}

/** Latitude in degrees of a place `north` metres from the origin. */
export function latitudeAt(originLat: number, north: number): number {
  return originLat + north / EARTH_RADIUS_M / DEG;
}

/** Longitude in degrees of a place `east` metres from the origin. */
export function longitudeAt(originLat: number, originLon: number, east: number): number {
  return originLon + east / (EARTH_RADIUS_M * Math.cos(originLat * DEG)) / DEG;
}

export interface Place {
  readonly lat: number;
  readonly lon: number;
}
