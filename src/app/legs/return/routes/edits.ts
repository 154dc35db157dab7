import { eastOf, latitudeAt, longitudeAt, northOf, type Place } from '#core/navigation/earth.ts';
import {
  type Fence,
  type FlightPlan,
  MOST_FENCES,
  MOST_POINTS,
  type RoutePoint,
  USUAL_POINT,
} from '#core/plan/plan.ts';

/** Changes of a plan, each a new one. Nothing here goes beyond what a board keeps. */

/** A new point stands so far beyond the last one, m. */
const BEYOND_M = 300;

export const moved = (p: Place, northM: number, eastM: number): Place => ({
  lat: latitudeAt(p.lat, northM),
  lon: longitudeAt(p.lat, p.lon, eastM),
});

/** As the points before it are: what was chosen once goes for the next. */
function like(before: RoutePoint | undefined): Omit<RoutePoint, 'lat' | 'lon'> {
  if (!before) return USUAL_POINT;
  const { heightM, above, speedMps } = before;
  return { ...USUAL_POINT, heightM, above, speedMps };
}

/** @param after the point that it follows, -1 for none */
export function withPoint(plan: FlightPlan, place: Place, after = plan.points.length - 1): FlightPlan {
  if (plan.points.length >= MOST_POINTS) return plan;
  const { lat, lon } = place;
  const points = [...plan.points];
  points.splice(after + 1, 0, { ...like(points[after]), lat, lon });
  return { ...plan, points };
}

/** Where a point stands that is laid without the mouse: straight on beyond the last one, or a little off home. */
export function beyondLast({ points }: FlightPlan, home: Place): Place {
  const last = points.at(-1);
  if (!last) return moved(home, BEYOND_M, 0);
  const from = points.at(-2) ?? home;
  const n = northOf(from.lat, last.lat);
  const e = eastOf(from.lat, from.lon, last.lon);
  const far = Math.hypot(n, e) || 1;
  return moved(last, (BEYOND_M * n) / far, (BEYOND_M * e) / far);
}

export const withoutPoint = (plan: FlightPlan, at: number): FlightPlan => ({
  ...plan,
  points: plan.points.filter((_, i) => i !== at),
});

export const withPointChanged = (plan: FlightPlan, at: number, change: Partial<RoutePoint>): FlightPlan => ({
  ...plan,
  points: plan.points.map((p, i) => (i === at ? { ...p, ...change } : p)),
});

export const withAllPoints = (plan: FlightPlan, change: Partial<RoutePoint>): FlightPlan => ({
  ...plan,
  points: plan.points.map((p) => ({ ...p, ...change })),
});

export const turnedRound = (plan: FlightPlan): FlightPlan => ({
  ...plan,
  points: [...plan.points].reverse(),
});

export function withFence(plan: FlightPlan, fence: Fence): FlightPlan {
  return plan.fences.length >= MOST_FENCES ? plan : { ...plan, fences: [...plan.fences, fence] };
}

export const withoutFence = (plan: FlightPlan, at: number): FlightPlan => ({
  ...plan,
  fences: plan.fences.filter((_, i) => i !== at),
});

export const withFenceChanged = (plan: FlightPlan, at: number, change: Partial<Fence>): FlightPlan => ({
  ...plan,
  fences: plan.fences.map((f, i) => (i === at ? { ...f, ...change } : f)),
});

/** A corner of a fence, or the middle of a round one, put elsewhere. */
export function withCornerAt(plan: FlightPlan, at: number, corner: number, place: Place): FlightPlan {
  const { area } = plan.fences[at]!;
  const { lat, lon } = place;
  return withFenceChanged(plan, at, {
    area:
      'corners' in area
        ? { corners: area.corners.map((c, i) => (i === corner ? { lat, lon } : c)) }
        : { ...area, lat, lon },
  });
}

/** A name that no fence has yet. */
export function freeName(plan: FlightPlan, base: string): string {
  const taken = new Set(plan.fences.map((f) => f.name));
  for (let n = 1; ; n++) if (!taken.has(`${base} ${n}`)) return `${base} ${n}`;
}
