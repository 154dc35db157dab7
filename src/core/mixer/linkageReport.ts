import * as z from 'zod';
import { DEG } from '../math/scalar.ts';
import {
  angleOfEdge,
  edgeOf,
  fitLinkage,
  type Linkage,
  leverageAt,
  type Reading,
  reachOf,
  rodFor,
  surfaceAt,
} from './linkage.ts';

const mm = z.number().min(2).max(200);
const lean = z.number().min(-80).max(80);
const pulse = z.number().min(500).max(2500);

/** A linkage as a person measures it, with a ruler: mm, degrees, us. */
export const linkageSchema = z.strictObject({
  armMm: mm,
  hornMm: mm,
  /** Left out, the rod that leaves the surface flush with the servo at its middle. */
  rodMm: z.number().min(2).max(1000).optional(),
  /** The servo's shaft from the hinge; negative is ahead of it. */
  shaftAftMm: z.number().min(-1000).max(1000),
  shaftUpMm: z.number().min(-200).max(200).default(0),
  /** How far they lean aft of square with the servo at its middle and the surface flush. */
  armLeanDeg: lean.default(0),
  hornLeanDeg: lean.default(0),
  /** From the hinge to the trailing edge. */
  chordMm: z.number().min(3).max(500),
  servo: z
    .strictObject({
      /** To either side. */
      travelDeg: z.number().min(10).max(90),
      lowUs: pulse,
      middleUs: pulse,
      highUs: pulse,
      /** A longer pulse swings the arm forward, so that the trailing edge goes down. */
      longIsDown: z.boolean(),
    })
    .default({ travelDeg: 45, lowUs: 1000, middleUs: 1500, highUs: 2000, longIsDown: true }),
  /** Two looks at it: where the trailing edge stood, down positive, by ruler or by protractor. */
  readings: z
    .array(
      z.union([
        z.strictObject({ us: pulse, edgeMm: z.number().min(-400).max(400) }),
        z.strictObject({ us: pulse, deg: z.number().min(-90).max(90) }),
      ]),
    )
    .length(2)
    .optional(),
});
export type LinkageMeasured = z.infer<typeof linkageSchema>;

/** Where the surface stands at one pulse. */
interface LinkagePoint {
  readonly us: number;
  readonly servoDeg: number;
  /** Down positive; null where it binds. */
  readonly deg: number | null;
  readonly edgeMm: number | null;
  /** Degrees of the surface for one of the servo. */
  readonly leverage: number | null;
}

export interface LinkageReport {
  readonly points: readonly LinkagePoint[];
  /** As they are, after the readings where there are any. */
  readonly armMm: number;
  readonly rodMm: number;
  /** With the servo at its middle. */
  readonly middleDeg: number;
  /** Pulses between which it moves freely, and whether one lies within the travel. */
  readonly freeFromUs: number;
  readonly freeToUs: number;
  readonly binds: boolean;
  /** Leverage at the ends over that in the middle, the lesser. */
  readonly endsShare: number;
}

const STEPS = 8;
const round = (v: number, digits: number) => Math.round(v * 10 ** digits) / 10 ** digits + 0;

/** What a linkage gives over the servo's travel; refused where the readings and the measures are not of one linkage. */
export function linkageReport(measured: LinkageMeasured): LinkageReport | { readonly refused: string } {
  const m = measured;
  const { servo } = m;
  if (!(servo.lowUs < servo.middleUs && servo.middleUs < servo.highUs))
    return { refused: 'The servo’s low, middle and high pulse are not in this order.' };
  const travel = servo.travelDeg * DEG;
  const sign = servo.longIsDown ? 1 : -1;
  const servoAt = (us: number) => {
    const off = us - servo.middleUs;
    return sign * travel * (off / (off > 0 ? servo.highUs - servo.middleUs : servo.middleUs - servo.lowUs));
  };
  const usAt = (angle: number) => {
    const share = (sign * angle) / travel;
    return (
      servo.middleUs + share * (share > 0 ? servo.highUs - servo.middleUs : servo.middleUs - servo.lowUs)
    );
  };
  const bare = {
    arm: m.armMm,
    horn: m.hornMm,
    shaftAft: m.shaftAftMm,
    shaftUp: m.shaftUpMm,
    armLean: m.armLeanDeg * DEG,
    hornLean: m.hornLeanDeg * DEG,
  };
  let linkage: Linkage = { ...bare, rod: m.rodMm ?? rodFor(bare) };
  if (m.readings) {
    const read = m.readings.map((r): Reading => {
      const surface = 'deg' in r ? r.deg * DEG : angleOfEdge(r.edgeMm, m.chordMm);
      return { servo: servoAt(r.us), surface };
    }) as [Reading, Reading];
    if (read.some((r) => Number.isNaN(r.surface)))
      return { refused: 'A trailing edge cannot stand off farther than twice its chord.' };
    const fit = fitLinkage(linkage, read);
    if ('refused' in fit) return fit;
    linkage = fit;
  }
  if (Number.isNaN(surfaceAt(linkage, 0)))
    return { refused: 'The rod does not reach from arm to horn with the servo at its middle.' };
  const reach = reachOf(linkage, travel);
  const middle = leverageAt(linkage, 0);
  const points = Array.from({ length: STEPS + 1 }, (_, k): LinkagePoint => {
    const us =
      k <= STEPS / 2
        ? servo.lowUs + ((servo.middleUs - servo.lowUs) * k) / (STEPS / 2)
        : servo.middleUs + ((servo.highUs - servo.middleUs) * (k - STEPS / 2)) / (STEPS / 2);
    const angle = servoAt(us);
    const free = angle >= reach.from - 1e-9 && angle <= reach.to + 1e-9;
    const d = surfaceAt(linkage, angle);
    return {
      us: round(us, 0),
      servoDeg: round(angle / DEG, 1),
      deg: free ? round(d / DEG, 2) : null,
      edgeMm: free ? round(edgeOf(d, m.chordMm), 2) : null,
      leverage: free ? round(leverageAt(linkage, angle), 3) : null,
    };
  });
  const ends = [usAt(reach.from), usAt(reach.to)].sort((a, b) => a - b);
  return {
    points,
    armMm: round(linkage.arm, 2),
    rodMm: round(linkage.rod, 2),
    middleDeg: round(surfaceAt(linkage, 0) / DEG, 2),
    freeFromUs: round(ends[0]!, 0),
    freeToUs: round(ends[1]!, 0),
    binds: reach.bindsFrom || reach.bindsTo,
    endsShare: round(Math.min(leverageAt(linkage, reach.from), leverageAt(linkage, reach.to)) / middle, 3),
  };
}
