import * as z from 'zod';
import { crc32 } from '../wire/crc32.ts';
import { decodeCbor, encodeCbor } from '../wire/frames.ts';
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

/** Places travel in ten-millionths of a degree, which is a centimetre; heights, speeds and times in tenths. */
const DEG_PARTS = 1e7;
const TENTHS = 10;
const whole = z.number().int();

/** A plan as it travels and is stored: lists of whole numbers, in the order in which they are named below. */
const packedSchema = z.strictObject({
  points: z.array(z.tuple([whole, whole, whole, whole, whole, whole, whole, whole, whole])).max(MOST_POINTS),
  end: z.enum(['circle', 'return']),
  fences: z
    .array(
      z.strictObject({
        name: z.string().max(40),
        keep: z.enum(['in', 'out']),
        /** Of a circle its middle and radius; of an area its corners. */
        places: z.array(whole).max(2 * MOST_CORNERS),
        radius: whole,
        from: whole,
        to: whole,
      }),
    )
    .max(MOST_FENCES),
});
export type PackedPlan = z.infer<typeof packedSchema>;

const deg = (v: number) => Math.round(v * DEG_PARTS);
const tenths = (v: number) => Math.round(v * TENTHS);

/** As whole numbers: lat, lon, height, above the ground (1) or home (0), speed, action, seconds, turns, camera. */
export function packPlan(plan: FlightPlan): PackedPlan {
  return {
    points: plan.points.map((p) => [
      ...([deg(p.lat), deg(p.lon), tenths(p.heightM), p.above === 'ground' ? 1 : 0] as const),
      ...([tenths(p.speedMps), pointActions.indexOf(p.do), tenths(p.seconds)] as const),
      ...([tenths(p.turns), tenths(p.cameraDeg)] as const),
    ]),
    end: plan.end,
    fences: plan.fences.map(({ name, keep, area, fromM, toM }) => ({
      name,
      keep,
      places: ('corners' in area ? area.corners : [area]).flatMap((c) => [deg(c.lat), deg(c.lon)]),
      radius: 'corners' in area ? 0 : tenths(area.radiusM),
      from: tenths(fromM),
      to: tenths(toM),
    })),
  };
}

/** @returns null where it is no plan that a board could fly by */
export function unpackPlan(packed: unknown): FlightPlan | null {
  const result = packedSchema.safeParse(packed);
  if (!result.success) return null;
  const { points, end, fences } = result.data;
  const plan = planSchema.safeParse({
    points: points.map(([lat, lon, height, ground, speed, action, seconds, turns, camera]) => ({
      lat: lat / DEG_PARTS,
      lon: lon / DEG_PARTS,
      heightM: height / TENTHS,
      above: ground === 1 ? 'ground' : 'home',
      speedMps: speed / TENTHS,
      do: pointActions[action],
      seconds: seconds / TENTHS,
      turns: turns / TENTHS,
      cameraDeg: camera / TENTHS,
    })),
    end,
    fences: fences.map(({ name, keep, places, radius, from, to }) => ({
      name,
      keep,
      area: areaOf(places, radius),
      fromM: from / TENTHS,
      toM: to / TENTHS,
    })),
  });
  return plan.success && planFaults(plan.data).length === 0 ? plan.data : null;
}

function areaOf(places: readonly number[], radius: number) {
  const corners = Array.from({ length: places.length / 2 }, (_, i) => ({
    lat: places[2 * i]! / DEG_PARTS,
    lon: places[2 * i + 1]! / DEG_PARTS,
  }));
  return radius > 0 && corners.length === 1 ? { ...corners[0]!, radiusM: radius / TENTHS } : { corners };
}

/** CBOR (RFC 8949) of a packed plan. */
export const planBytes = (plan: FlightPlan): Uint8Array => encodeCbor(packPlan(plan));

/** @returns null where the bytes are no plan */
export function planFromBytes(bytes: Uint8Array): FlightPlan | null {
  try {
    return unpackPlan(decodeCbor(bytes));
  } catch {
    return null;
  }
}

/** A short name for what a plan is: CRC-32 of its bytes; empty for an empty one. */
export function planPrint(plan: FlightPlan): string {
  if (isEmptyPlan(plan)) return '';
  return crc32(planBytes(plan)).toString(16).padStart(8, '0');
}
