import { DEG } from '../math/scalar.ts';
import { eastOf, latitudeAt, longitudeAt, northOf, type Place } from '../navigation/earth.ts';
import { MOST_POINTS, type RoutePoint, USUAL_POINT } from './plan.ts';
import { crossesItself } from './polygon.ts';

export interface SurveyWish {
  /** The area's corners in order. */
  readonly corners: readonly Place[];
  /** Between two tracks, m. */
  readonly spacingM: number;
  /** Along the tracks, degrees; left out, so that there are fewest of them. */
  readonly bearingDeg?: number | undefined;
  /** Flown so far beyond the area at both ends of a track, so that it is straight over the area, m. */
  readonly beyondM: number;
  readonly point: Pick<RoutePoint, 'heightM' | 'above' | 'speedMps' | 'cameraDeg'>;
}

export interface Survey {
  readonly points: readonly RoutePoint[];
  readonly tracks: number;
  readonly bearingDeg: number;
  /** Of all tracks over the area, and of the whole pattern, m. */
  readonly overM: number;
  readonly lengthM: number;
}

/**
 * Parallel tracks over an area, flown to and fro, beginning at the corner that is nearest to home. Where a track leaves
 * the area and comes in again, it is flown through. The first track lies half a spacing inside.
 * @throws RangeError with a sentence where there is nothing to fly, or more than a board keeps
 */
export function surveyOf(wish: SurveyWish, home: Place): Survey {
  const { corners, spacingM } = wish;
  if (corners.length < 3) throw new RangeError('An area has at least three corners.');
  const flat = corners.flatMap((c) => [northOf(home.lat, c.lat), eastOf(home.lat, home.lon, c.lon)]);
  if (crossesItself(flat))
    throw new RangeError('The border of the area crosses itself, so nobody can say what lies inside.');
  const bearing = wish.bearingDeg ?? fewestTracks(flat);
  const [along, across] = turnedTo(flat, bearing);
  const low = Math.min(...across);
  const high = Math.max(...across);
  const count = Math.max(1, Math.round((high - low) / spacingM));
  if (2 * count > MOST_POINTS)
    throw new RangeError(
      `That takes ${count} tracks with ${2 * count} points; a board keeps ${MOST_POINTS}. Lay them farther apart, or take a smaller area.`,
    );
  const first = low + (high - low - (count - 1) * spacingM) / 2;
  let overM = 0;
  const tracks: (readonly [number, number, number])[] = [];
  for (let k = 0; k < count; k++) {
    const at = first + k * spacingM;
    const cuts = cutsAt(along, across, at);
    if (cuts.length < 2) continue;
    for (let i = 0; i + 1 < cuts.length; i += 2) overM += cuts[i + 1]! - cuts[i]!;
    tracks.push([at, cuts[0]! - wish.beyondM, cuts.at(-1)! + wish.beyondM]);
  }
  if (tracks.length === 0) throw new RangeError('The area is too narrow for a single track.');
  const [s, c] = [Math.sin(bearing * DEG), Math.cos(bearing * DEG)];
  const placed = ([at, way]: readonly [number, number]) => [way * c - at * s, way * s + at * c] as const;
  const ends = bestStart(tracks, placed).map(placed);
  const lengthM = ends.reduce(
    (sum, p, i) => (i === 0 ? 0 : sum + Math.hypot(p[0] - ends[i - 1]![0], p[1] - ends[i - 1]![1])),
    0,
  );
  const { cameraDeg } = wish.point;
  const points = ends.map(([n, e], i) => ({
    ...USUAL_POINT,
    ...wish.point,
    lat: latitudeAt(home.lat, n),
    lon: longitudeAt(home.lat, home.lon, e),
    do: i === 0 && cameraDeg > 0 ? ('camera' as const) : ('pass' as const),
  }));
  return { points, tracks: tracks.length, bearingDeg: bearing, overM, lengthM };
}

/** Along and across a bearing, of each corner. */
function turnedTo(flat: readonly number[], bearingDeg: number): [number[], number[]] {
  const [s, c] = [Math.sin(bearingDeg * DEG), Math.cos(bearingDeg * DEG)];
  const along: number[] = [];
  const across: number[] = [];
  for (let i = 0; i < flat.length; i += 2) {
    along.push(flat[i]! * c + flat[i + 1]! * s);
    across.push(flat[i + 1]! * c - flat[i]! * s);
  }
  return [along, across];
}

/** Along the side about which the area is narrowest: of all directions one of its sides gives the least width. */
function fewestTracks(flat: readonly number[]): number {
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  const n = flat.length;
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const bearing = Math.atan2(flat[i + 1]! - flat[j + 1]!, flat[i]! - flat[j]!) / DEG;
    const [, across] = turnedTo(flat, bearing);
    const width = Math.max(...across) - Math.min(...across);
    if (width < least - 1e-6) [least, best] = [width, bearing];
  }
  return Math.round((best + 360) % 180);
}

/** Where a track meets the border, in order. */
function cutsAt(along: readonly number[], across: readonly number[], at: number): number[] {
  const cuts: number[] = [];
  for (let i = 0, j = along.length - 1; i < along.length; j = i++) {
    const [a, b] = [across[j]!, across[i]!];
    if (a > at === b > at) continue;
    cuts.push(along[j]! + ((at - a) / (b - a)) * (along[i]! - along[j]!));
  }
  return cuts.sort((x, y) => x - y);
}

/** To and fro in whichever of the four ways begins nearest to home, which is at nought. */
function bestStart(
  tracks: readonly (readonly [number, number, number])[],
  placed: (p: readonly [number, number]) => readonly [number, number],
): (readonly [number, number])[] {
  const ways = [tracks, [...tracks].reverse()].flatMap((order) =>
    [0, 1].map((flip) =>
      order.flatMap(([at, from, to], k) => {
        const turned = (k + flip) % 2 === 1;
        return [[at, turned ? to : from] as const, [at, turned ? from : to] as const];
      }),
    ),
  );
  const far = (way: (typeof ways)[number]) => Math.hypot(...placed(way[0]!));
  return ways.reduce((a, b) => (far(b) < far(a) - 1e-6 ? b : a));
}
