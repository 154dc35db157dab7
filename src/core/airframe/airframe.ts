import * as z from 'zod';

/**
 * A craft by its dimensions. Lengths in metres; `aft` is measured from the nose backwards, `right` from the
 * plane of symmetry, `up` from the wing root. Angles in degrees because a person types them.
 */
const length = z.number().min(0).max(20);
const signedLength = z.number().min(-20).max(20);

export const planformSchema = z.object({
  spanM: z.number().min(0.02).max(20),
  rootChordM: z.number().min(0.01).max(5),
  tipChordM: z.number().min(0.005).max(5),
  /** Leading edge at the root, aft of the nose. */
  rootAftM: length,
  /** Leading edge at the tip, aft of the nose. */
  tipAftM: length,
  upM: signedLength,
  dihedralDeg: z.number().min(-30).max(60),
  incidenceDeg: z.number().min(-15).max(15),
  /** Greatest lift coefficient of the section on this wing. */
  liftMax: z.number().min(0.3).max(3),
});
export type Planform = z.infer<typeof planformSchema>;

export const surfaceIds = ['left-aileron', 'right-aileron', 'elevator', 'rudder'] as const;
export const motorIds = ['left-motor', 'right-motor', 'motor'] as const;
export type SurfaceId = (typeof surfaceIds)[number];
export type MotorId = (typeof motorIds)[number];
export type ActuatorId = SurfaceId | MotorId;

export const surfaceSchema = z.object({
  id: z.enum(surfaceIds),
  on: z.enum(['wing', 'tail', 'fin']),
  /** Share of the half span where it begins and ends (of the height, on a fin). */
  from: z.number().min(0).max(1),
  to: z.number().min(0).max(1),
  chordShare: z.number().min(0.05).max(0.9),
  /** Deflection at full servo travel to either side. */
  throwDeg: z.number().min(1).max(60),
});
export type Surface = z.infer<typeof surfaceSchema>;

export const motorSchema = z.object({
  id: z.enum(motorIds),
  aftM: length,
  rightM: signedLength,
  upM: signedLength,
  propDiameterM: z.number().min(0.02).max(2),
  propPitchM: z.number().min(0.01).max(2),
  kvRpmPerV: z.number().min(50).max(10000),
  resistanceOhm: z.number().min(0.001).max(5),
  idleCurrentA: z.number().min(0).max(20),
  maxCurrentA: z.number().min(1).max(400),
});
export type Motor = z.infer<typeof motorSchema>;

export const airframeSchema = z.object({
  name: z.string().min(1).max(80),
  kind: z.literal('conventional'),
  massKg: z.number().min(0.05).max(50),
  cgAftM: length,
  lengthM: z.number().min(0.05).max(20),
  bodyWidthM: z.number().min(0.01).max(2),
  bodyHeightM: z.number().min(0.01).max(2),
  /** Drag area (C_D A) of everything but the lifting surfaces, m^2. */
  bodyDragM2: z.number().min(0).max(1),
  wing: planformSchema,
  tail: planformSchema,
  fin: planformSchema,
  surfaces: z.array(surfaceSchema).max(12),
  motors: z.array(motorSchema).max(4),
  battery: z.object({
    chemistry: z.enum(['lipo']),
    cells: z.number().int().min(1).max(14),
    capacityMah: z.number().min(50).max(100000),
    cellResistanceOhm: z.number().min(0.0002).max(0.2),
  }),
});
export type Airframe = z.infer<typeof airframeSchema>;

/** What an actuator is called when spoken to a person. */
export const actuatorNames: Readonly<Record<ActuatorId, string>> = {
  'left-motor': 'left motor',
  'right-motor': 'right motor',
  motor: 'motor',
  'left-aileron': 'left aileron',
  'right-aileron': 'right aileron',
  elevator: 'elevator',
  rudder: 'rudder',
};

export function isMotor(id: string): id is MotorId {
  return (motorIds as readonly string[]).includes(id);
}

/** Everything on this craft that an output can drive, in the order people set it up. */
export function actuatorsOf(airframe: Airframe): ActuatorId[] {
  return [...airframe.motors.map((m) => m.id), ...airframe.surfaces.map((s) => s.id)];
}
