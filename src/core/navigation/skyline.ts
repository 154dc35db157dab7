import { groundHeight, type HomeGround } from '../flight/terrain.ts';
import { DEG } from '../math/scalar.ts';

/** Bearings that a skyline is worked out for, evenly round. */
export const SKYLINE_BEARINGS = 72;
/** Nearer ground is what one stands on; farther ground is lower than it looks. m */
const NEAR_M = 60;
const FAR_M = 9000;
/** Mean radius of the earth (IUGG), m. */
export const EARTH_M = 6371008.8;

/**
 * How high the ground stands above the horizon all round a place.
 * @param eyeM height of the eye above the sea, m
 * @returns elevation of the skyline in degrees, from north by east; the earth's roundness is taken off, refraction left out
 */
export function skylineOf({ terrain, homeEastM, homeNorthM }: HomeGround, eyeM: number): Float64Array {
  const out = new Float64Array(SKYLINE_BEARINGS);
  const step = Math.max(40, terrain.cellM * 0.7);
  for (let k = 0; k < SKYLINE_BEARINGS; k++) {
    const bearing = (k * 360 * DEG) / SKYLINE_BEARINGS;
    const [north, east] = [Math.cos(bearing), Math.sin(bearing)];
    let most = 0;
    for (let d = NEAR_M; d <= FAR_M; d += step) {
      const height = groundHeight(terrain, homeEastM + east * d, homeNorthM + north * d);
      const rise = height - eyeM - (d * d) / (2 * EARTH_M);
      most = Math.max(most, Math.atan2(rise, d));
    }
    out[k] = most / DEG;
  }
  return out;
}

/** The skyline at a bearing, degrees, between the bearings it was worked out for. */
export function skylineAt(skyline: ArrayLike<number>, bearingDeg: number): number {
  const at = (((bearingDeg % 360) + 360) % 360) / (360 / SKYLINE_BEARINGS);
  const i = Math.floor(at) % SKYLINE_BEARINGS;
  const next = (i + 1) % SKYLINE_BEARINGS;
  return skyline[i]! + (skyline[next]! - skyline[i]!) * (at - Math.floor(at));
}
