import { latitudeAt, longitudeAt, type Place } from '#core/navigation/earth.ts';
import { EMPTY_PLAN, type Fence, type FlightPlan, type RoutePoint, USUAL_POINT } from '#core/plan/plan.ts';
import { torvholm } from './demoCraft.ts';

/** A place so many metres from another. */
export const placeAt = (north: number, east: number, from: Place = torvholm.home): Place => ({
  lat: latitudeAt(from.lat, north),
  lon: longitudeAt(from.lat, from.lon, east),
});

/** A point of a route so many metres from home. */
export const pointAt = (
  north: number,
  east: number,
  more: Partial<RoutePoint> = {},
  from: Place = torvholm.home,
): RoutePoint => ({ ...USUAL_POINT, ...placeAt(north, east, from), ...more });

export const routeOf = (
  points: readonly RoutePoint[],
  end: FlightPlan['end'] = 'return',
  fences: readonly Fence[] = [],
): FlightPlan => ({ ...EMPTY_PLAN, points, end, fences });

/** A square area so many metres to each side of a place given from home. */
export const squareAt = (
  north: number,
  east: number,
  half: number,
  more: Partial<Fence> = {},
  from: Place = torvholm.home,
): Fence => ({
  name: 'The square',
  keep: 'out',
  area: {
    corners: [
      placeAt(north - half, east - half, from),
      placeAt(north + half, east - half, from),
      placeAt(north + half, east + half, from),
      placeAt(north - half, east + half, from),
    ],
  },
  fromM: 0,
  toM: 500,
  ...more,
});
