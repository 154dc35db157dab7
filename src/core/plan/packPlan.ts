import * as z from 'zod';
import { crc32 } from '../wire/crc32.ts';
import { decodeCbor, encodeCbor } from '../wire/frames.ts';
import {
  type FlightPlan,
  isEmptyPlan,
  MOST_CORNERS,
  MOST_FENCES,
  MOST_POINTS,
  planFaults,
  planSchema,
  pointActions,
} from './plan.ts';

/** Plans as they travel and are stored: apart from what a plan is, since the first page needs none of it. */

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
