import type { ActuatorId } from '../airframe/airframe.ts';

/**
 * How each role answers commands in -1..1. Roll right, pitch up, yaw right and throttle are positive; a
 * surface is positive trailing edge down (a rudder: trailing edge left), the same as on the panel model.
 */
export interface RoleMix {
  readonly roll: number;
  readonly pitch: number;
  readonly yaw: number;
  readonly throttle: number;
}

const mix = (roll: number, pitch: number, yaw: number, throttle: number): RoleMix => ({
  roll,
  pitch,
  yaw,
  throttle,
});

export const roleMixes: Readonly<Record<ActuatorId, RoleMix>> = {
  'left-motor': mix(0, 0, 1, 1),
  'right-motor': mix(0, 0, -1, 1),
  motor: mix(0, 0, 0, 1),
  'left-aileron': mix(1, 0, 0, 0),
  'right-aileron': mix(-1, 0, 0, 0),
  elevator: mix(0, -1, 0, 0),
  rudder: mix(0, 0, -1, 0),
};

/** The two ways an actuator can go, by the word a person would use, first the positive one. */
export function directionWords(role: ActuatorId): readonly [string, string] {
  return role === 'rudder' ? ['left', 'right'] : ['down', 'up'];
}
