import { eastOf, northOf, type Place } from '../navigation/earth.ts';
import type { Fence } from './plan.ts';
import { borderDistance, isInside } from './polygon.ts';

/** A fence in metres north and east of an origin. */
export interface LocalFence {
  readonly name: string;
  readonly keep: 'in' | 'out';
  /** Of a circle. */
  readonly north: number;
  readonly east: number;
  readonly radiusM: number;
  /** Of an area; empty for a circle. */
  readonly corners: Float64Array;
  readonly fromM: number;
  readonly toM: number;
}

/** Fences of a plan about an origin. */
export function localFences(fences: readonly Fence[], origin: Place): LocalFence[] {
  const n = (p: Place) => northOf(origin.lat, p.lat);
  const e = (p: Place) => eastOf(origin.lat, origin.lon, p.lon);
  return fences.map(({ name, keep, area, fromM, toM }) =>
    'corners' in area
      ? {
          ...{ name, keep, fromM, toM, north: 0, east: 0, radiusM: 0 },
          corners: Float64Array.from(area.corners.flatMap((c) => [n(c), e(c)])),
        }
      : {
          ...{ name, keep, fromM, toM, north: n(area), east: e(area), radiusM: area.radiusM },
          corners: new Float64Array(0),
        },
  );
}

/** How far inside a fence's area a place is, m; outside below nought. */
export function depthInside(f: LocalFence, north: number, east: number): number {
  if (f.corners.length === 0) {
    const dn = north - f.north;
    const de = east - f.east;
    return f.radiusM - Math.sqrt(dn * dn + de * de);
  }
  const d = borderDistance(f.corners, north, east);
  return isInside(f.corners, north, east) ? d : -d;
}

/**
 * Which fence a place breaks: the first that is to be kept out of and is not, or one to be kept in where the place is in
 * none of those. Places in m from the fences' origin, height above home in m.
 * @param roomM so much farther from the border than on it; what was outside comes back only with some room
 * @returns its index, or -1 where it breaks none. Allocates nothing.
 */
export function brokenFence(
  fences: readonly LocalFence[],
  north: number,
  east: number,
  heightM: number,
  roomM: number,
): number {
  let keepIn = -1;
  let kept = false;
  for (let i = 0; i < fences.length; i++) {
    const f = fences[i]!;
    if (f.keep === 'out') {
      if (heightM <= f.fromM - roomM || heightM >= f.toM + roomM) continue;
      if (depthInside(f, north, east) > -roomM) return i;
    } else if (!kept) {
      if (keepIn < 0) keepIn = i;
      kept = (f.toM === 0 || heightM < f.toM - roomM) && depthInside(f, north, east) > roomM;
    }
  }
  return kept ? -1 : keepIn;
}

/** What a fence is broken by, as a sentence's end. */
export const brokenWords = (f: Pick<LocalFence, 'keep' | 'name'>): string =>
  f.keep === 'out' ? `inside ${f.name}, which is to be kept out of` : `outside ${f.name}`;
