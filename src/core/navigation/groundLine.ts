import { groundHeight, type Terrain } from '../flight/terrain.ts';
import { DEG } from '../math/scalar.ts';

/** Ground along a straight line outward from home. */
export interface GroundLine {
  readonly bearingDeg: number;
  /** Distance from home and height above sea level of each sample, m. */
  readonly points: readonly { readonly distanceM: number; readonly heightM: number }[];
  readonly highest: { readonly distanceM: number; readonly heightM: number };
}

/** @param homeEastM @param homeNorthM metres from the terrain's centre */
export function groundLine(
  terrain: Terrain,
  homeEastM: number,
  homeNorthM: number,
  bearingDeg: number,
  lengthM: number,
  samples = 120,
): GroundLine {
  const dn = Math.cos(bearingDeg * DEG);
  const de = Math.sin(bearingDeg * DEG);
  const points = Array.from({ length: samples + 1 }, (_, i) => {
    const distanceM = (lengthM * i) / samples;
    return {
      distanceM,
      heightM: groundHeight(terrain, homeEastM + de * distanceM, homeNorthM + dn * distanceM),
    };
  });
  const highest = points.reduce((a, b) => (b.heightM > a.heightM ? b : a));
  return { bearingDeg, points, highest };
}

/**
 * The highest ground on the straight way from a place towards another, m above the sea.
 * @param groundAt by metres north and east @param from where it is @param reachM no farther than this, or the other place
 */
export function highestAhead(
  groundAt: (north: number, east: number) => number,
  from: { readonly north: number; readonly east: number },
  toNorth: number,
  toEast: number,
  reachM: number,
  stepM: number,
): number {
  const dn = toNorth - from.north;
  const de = toEast - from.east;
  const distance = Math.sqrt(dn * dn + de * de);
  let most = groundAt(from.north, from.east);
  for (let s = stepM; s <= reachM && s <= distance; s += stepM) {
    const ground = groundAt(from.north + (dn * s) / distance, from.east + (de * s) / distance);
    if (ground > most) most = ground;
  }
  return most;
}
