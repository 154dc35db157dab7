import * as z from 'zod';
import { crossesItself } from './polygon.ts';

/** What a board keeps of a plan at most. */
export const MOST_POINTS = 120;
export const MOST_FENCES = 8;
export const MOST_CORNERS = 40;

const place = { lat: z.number().min(-90).max(90), lon: z.number().min(-180).max(180) };

/** What is done at a point: flown past, circled for a time or turns, climbed to, landed at, the camera pointed. */
export const pointActions = ['pass', 'circle', 'climb', 'camera', 'land'] as const;
export type PointAction = (typeof pointActions)[number];

const routePointSchema = z.strictObject({
  ...place,
  /** Above home, or above the ground below it, m. */
  heightM: z.number().min(-500).max(3000),
  above: z.enum(['home', 'ground']),
  /** On the way to it, m/s through the air for wings and over ground for rotors; 0 as is usual. */
  speedMps: z.number().min(0).max(60),
  do: z.enum(pointActions),
  /** How long it is circled at least, s, and how often; whichever takes longer. */
  seconds: z.number().min(0).max(3600),
  turns: z.number().min(0).max(50),
  /** Where the camera points from then on, degrees below the horizon. */
  cameraDeg: z.number().min(0).max(90),
});
export type RoutePoint = Readonly<z.infer<typeof routePointSchema>>;

const fenceSchema = z.strictObject({
  name: z.string().trim().min(1).max(40),
  keep: z.enum(['in', 'out']),
  /** A circle about a place, or the corners of an area. */
  area: z.union([
    z.strictObject({ ...place, radiusM: z.number().min(20).max(20_000) }),
    z.strictObject({ corners: z.array(z.strictObject(place)).min(3).max(MOST_CORNERS) }),
  ]),
  /** Above home, m: what is kept out of lies between the two; of what is kept in only the top counts, 0 for none. */
  fromM: z.number().min(-500).max(3000),
  toM: z.number().min(0).max(3000),
});
export type Fence = Readonly<z.infer<typeof fenceSchema>>;

/** A route and fences, in places on earth: what a board keeps apart from its settings. */
export const planSchema = z.strictObject({
  points: z.array(routePointSchema).max(MOST_POINTS),
  /** After the last point. */
  end: z.enum(['circle', 'return']),
  fences: z.array(fenceSchema).max(MOST_FENCES),
});
export type FlightPlan = {
  readonly points: readonly RoutePoint[];
  readonly end: 'circle' | 'return';
  readonly fences: readonly Fence[];
};

export const EMPTY_PLAN: FlightPlan = { points: [], end: 'return', fences: [] };

export const isEmptyPlan = (plan: FlightPlan): boolean => plan.points.length + plan.fences.length === 0;

/** A point as it is laid where nothing else is said. */
export const USUAL_POINT: Omit<RoutePoint, 'lat' | 'lon'> = {
  heightM: 100,
  above: 'home',
  speedMps: 0,
  do: 'pass',
  seconds: 0,
  turns: 0,
  cameraDeg: 0,
};

/** What is wrong with a plan that its schema cannot tell, in sentences; none where it is right. */
export function planFaults(plan: FlightPlan): string[] {
  return plan.fences.flatMap((f) => {
    const out: string[] = [];
    if ('corners' in f.area) {
      const flat = f.area.corners.flatMap((c) => [c.lat, c.lon]);
      if (crossesItself(flat))
        out.push(`The border of ${f.name} crosses itself, so nobody can say what lies inside.`);
    }
    if (f.keep === 'out' && f.fromM >= f.toM)
      out.push(`${f.name} ends no higher than it begins, so it keeps nothing out.`);
    return out;
  });
}
