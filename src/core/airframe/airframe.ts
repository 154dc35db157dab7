import * as z from 'zod';
import { type ActuatorId, fittingIds, isRotorKind, kinds, motorIds, surfaceIds } from './actuators.ts';

/**
 * A craft by its dimensions. Lengths in metres; `aft` is measured from the nose backwards, `right` from the
 * plane of symmetry, `up` from the wing root. Angles in degrees because a person types them.
 */
const length = z.number().min(0).max(20);
const signedLength = z.number().min(-20).max(20);

const planformIds = ['wing', 'tail', 'fin'] as const;
export type PlanformId = (typeof planformIds)[number];

const planformSchema = z.object({
  id: z.enum(planformIds),
  /** Two halves, mirrored left and right; otherwise one upright surface in the plane of symmetry. */
  pair: z.boolean(),
  /** Along both halves from tip to tip, roots left out; the height of a single upright one. */
  spanM: z.number().min(0.02).max(20),
  rootChordM: z.number().min(0.01).max(5),
  tipChordM: z.number().min(0.005).max(5),
  /** Leading edge at the root, aft of the nose. */
  rootAftM: length,
  /** Leading edge at the tip, aft of the nose. */
  tipAftM: length,
  /** Where the roots of a pair stand, right and left of the plane of symmetry. */
  rootRightM: length.default(0),
  upM: signedLength,
  dihedralDeg: z.number().min(-30).max(90),
  incidenceDeg: z.number().min(-15).max(15),
  /** How much less incidence the tip has than the root. */
  washoutDeg: z.number().min(-10).max(10).default(0),
  /** Angle of attack at which the section gives no lift; negative with camber. */
  zeroLiftDeg: z.number().min(-8).max(4).default(0),
  /** Pitching moment coefficient of the section about its quarter chord; positive with reflex. */
  sectionMoment: z.number().min(-0.2).max(0.2).default(0),
  /** Greatest lift coefficient of the section. */
  liftMax: z.number().min(0.3).max(3),
});
export type Planform = z.infer<typeof planformSchema>;

/** A servo and the rod from its arm to the horn. Left out, a usual one is taken. */
const linkageSchema = z.object({
  /** Degrees a second. */
  servoSpeedDegPerS: z.number().min(30).max(2000),
  /** To either side of the middle. */
  servoTravelDeg: z.number().min(10).max(90),
  /** Play of gears, rod and hinge at the surface. */
  slopDeg: z.number().min(0).max(5),
  armMm: z.number().min(2).max(100),
  hornMm: z.number().min(2).max(100),
});

const surfaceSchema = z.object({
  id: z.enum(surfaceIds),
  /** The planform it hinges on; `motor` for the servo that tilts a motor. */
  on: z.enum([...planformIds, 'motor']),
  /** Share of the half span where it begins and ends (of the height, on a single fin). */
  from: z.number().min(0).max(1),
  to: z.number().min(0).max(1),
  chordShare: z.number().min(0.05).max(0.9),
  /** Deflection at full servo travel to either side. */
  throwDeg: z.number().min(1).max(60),
  linkage: linkageSchema.optional(),
});
export type Surface = z.infer<typeof surfaceSchema>;

const motorSchema = z.object({
  id: z.enum(motorIds),
  /** A rotor may stand ahead of the nose. */
  aftM: signedLength,
  rightM: signedLength,
  upM: signedLength,
  /** Where the thrust points. */
  thrust: z.enum(['forward', 'up']).default('forward'),
  /** Seen along the thrust from behind, or from above. */
  spin: z.enum(['clockwise', 'anticlockwise']).default('clockwise'),
  /** A servo that tilts this motor sideways. */
  tiltedBy: z.enum(surfaceIds).optional(),
  propDiameterM: z.number().min(0.02).max(2),
  propPitchM: z.number().min(0.01).max(2),
  kvRpmPerV: z.number().min(50).max(10000),
  /** Windings and motor controller together. */
  resistanceOhm: z.number().min(0.001).max(5),
  idleCurrentA: z.number().min(0).max(20),
  maxCurrentA: z.number().min(1).max(400),
});
export type Motor = z.infer<typeof motorSchema>;

export const MOST_WEIGHTS = 60;

/** One weighed part: where its middle is. */
const weightSchema = z.object({
  /** A planform, a motor, `servo.` and its surface, board, battery, body, or a person's own. */
  id: z.string().min(1).max(40),
  name: z.string().min(1).max(60),
  massKg: z.number().min(0).max(50),
  aftM: signedLength,
  rightM: signedLength,
  upM: signedLength.default(0),
});
export type Weight = z.infer<typeof weightSchema>;

export const airframeSchema = z.object({
  name: z.string().min(1).max(80),
  kind: z.enum(kinds),
  massKg: z.number().min(0.05).max(50),
  cgAftM: length,
  lengthM: z.number().min(0.05).max(20),
  bodyWidthM: z.number().min(0.01).max(2),
  bodyHeightM: z.number().min(0.01).max(2),
  /** Drag area (C_D A) of everything but the lifting surfaces, m^2. */
  bodyDragM2: z.number().min(0).max(1),
  launch: z.enum(['hand', 'bungee', 'catapult', 'wheels', 'hover']).default('hand'),
  planforms: z.array(planformSchema).max(3),
  surfaces: z.array(surfaceSchema).max(12),
  motors: z.array(motorSchema).max(8),
  /** Left out, none. */
  fittings: z.array(z.enum(fittingIds)).max(fittingIds.length).optional(),
  battery: z.object({
    chemistry: z.enum(['lipo', 'li-ion']),
    cells: z.number().int().min(1).max(14),
    capacityMah: z.number().min(50).max(100000),
    cellResistanceOhm: z.number().min(0.0002).max(0.2),
  }),
  /** Weighed parts; mass and centre of gravity follow from them. Left out, they are estimated from those. */
  weights: z.array(weightSchema).min(1).max(MOST_WEIGHTS).optional(),
});
export type Airframe = z.infer<typeof airframeSchema>;

/** The schemas of a craft's parts, for the fields in which their numbers are typed. */
export const partSchemas = {
  planform: planformSchema.shape,
  surface: surfaceSchema.shape,
  motor: motorSchema.shape,
  weight: weightSchema.shape,
  battery: airframeSchema.shape.battery.shape,
  airframe: airframeSchema.shape,
} as const;

export function isRotorcraft(airframe: Pick<Airframe, 'kind'>): boolean {
  return isRotorKind(airframe.kind);
}

/** Everything on this craft that an output can drive, in the order people set it up. */
export function actuatorsOf(airframe: Airframe): ActuatorId[] {
  return [
    ...airframe.motors.map((m) => m.id),
    ...airframe.surfaces.map((s) => s.id),
    ...(airframe.fittings ?? []),
  ];
}

export function planformOf(airframe: Airframe, id: PlanformId): Planform | undefined {
  return airframe.planforms.find((p) => p.id === id);
}

/** The wing. @throws RangeError on a craft without one; ask `isRotorcraft` first. */
export function wingOf(airframe: Airframe): Planform {
  const wing = planformOf(airframe, 'wing');
  if (!wing) throw new RangeError(`${airframe.name} has no wing`);
  return wing;
}

/** The same craft with one planform changed. */
export function withPlanform(airframe: Airframe, id: PlanformId, change: Partial<Planform>): Airframe {
  return { ...airframe, planforms: airframe.planforms.map((p) => (p.id === id ? { ...p, ...change } : p)) };
}

/** Greatest width, for drawings: the span, or the rotors' outer edges, m. */
export function widthOf(airframe: Airframe): number {
  const wing = planformOf(airframe, 'wing');
  const rotors = Math.max(0, ...airframe.motors.map((m) => 2 * (Math.abs(m.rightM) + m.propDiameterM / 2)));
  return Math.max(wing ? wing.spanM + 2 * wing.rootRightM : 0, rotors, airframe.bodyWidthM);
}
