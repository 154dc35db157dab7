/** Kinds of craft and what an output can drive on them, by their names. */

/** What a craft is, in the trade's words. How it flies follows from its parts, not from this. */
export const kinds = [
  'conventional',
  'v-tail',
  'wing',
  'delta',
  'quad-x',
  'quad-plus',
  'hex',
  'y6',
  'tri',
] as const;
export type Kind = (typeof kinds)[number];
export const kindNames: Readonly<Record<Kind, string>> = {
  conventional: 'conventional tail',
  'v-tail': 'V-tail',
  wing: 'flying wing',
  delta: 'delta',
  'quad-x': 'quad X',
  'quad-plus': 'quad +',
  hex: 'hex',
  y6: 'Y6',
  tri: 'tricopter',
};
const rotorKinds: readonly Kind[] = ['quad-x', 'quad-plus', 'hex', 'y6', 'tri'];

/** Whether this kind hovers on its motors. */
export function isRotorKind(kind: string): boolean {
  return (rotorKinds as readonly string[]).includes(kind);
}

export const surfaceIds = [
  'left-aileron',
  'right-aileron',
  'elevator',
  'rudder',
  'left-elevon',
  'right-elevon',
  'left-ruddervator',
  'right-ruddervator',
  'left-rudder',
  'right-rudder',
  'left-flap',
  'right-flap',
  'left-flaperon',
  'right-flaperon',
  'tail-servo',
] as const;
export const motorIds = [
  'left-motor',
  'right-motor',
  'motor',
  'front-motor',
  'rear-motor',
  'front-left-motor',
  'front-right-motor',
  'rear-left-motor',
  'rear-right-motor',
  'front-left-lower-motor',
  'front-right-lower-motor',
  'rear-lower-motor',
] as const;
/** What a craft carries that an output can move and that does not fly it. */
export const fittingIds = ['gimbal-roll', 'gimbal-pitch', 'pan', 'tilt', 'lights', 'release'] as const;
export type FittingId = (typeof fittingIds)[number];
export type SurfaceId = (typeof surfaceIds)[number];
export type MotorId = (typeof motorIds)[number];
export type ActuatorId = SurfaceId | MotorId | FittingId;
/** Everything that an output can drive. */
export const actuatorIds = [...motorIds, ...surfaceIds, ...fittingIds] as const;

/** What an actuator is called when spoken to a person. */
export const actuatorNames = Object.fromEntries(
  actuatorIds.map((id) => [id, id.replaceAll('-', ' ')]),
) as Readonly<Record<ActuatorId, string>>;

export function isMotor(id: string): id is MotorId {
  return (motorIds as readonly string[]).includes(id);
}

export function isFitting(id: string): id is FittingId {
  return (fittingIds as readonly string[]).includes(id);
}
