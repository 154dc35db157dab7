import { type ActuatorId, isFitting, type Kind } from '../airframe/actuators.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/**
 * How a role answers commands in -1..1. Roll right, pitch up, yaw right, throttle and flap are positive; a
 * surface is positive trailing edge down (a rudder: trailing edge left; a tail servo: thrust to the left), the
 * same as on the panel model.
 */
export interface RoleMix {
  readonly roll: number;
  readonly pitch: number;
  readonly yaw: number;
  readonly throttle: number;
  readonly flap: number;
}

/** How much of each command goes to surfaces that serve two. */
export interface MixShares {
  readonly elevonRoll: number;
  readonly elevonPitch: number;
  readonly ruddervatorPitch: number;
  readonly ruddervatorYaw: number;
  readonly flaperonFlap: number;
  /** Rotors turn against the usual way round. */
  readonly spinFlipped: boolean;
}

export const usualShares: MixShares = {
  elevonRoll: 0.6,
  elevonPitch: 0.7,
  ruddervatorPitch: 0.7,
  ruddervatorYaw: 0.6,
  flaperonFlap: 0.4,
  spinFlipped: false,
};

/** The shares as a board is set. */
export function sharesOf(values: Values): MixShares {
  const s = settingsOf(values);
  return {
    elevonRoll: s.number('mix.elevonRoll'),
    elevonPitch: s.number('mix.elevonPitch'),
    ruddervatorPitch: s.number('mix.ruddervatorPitch'),
    ruddervatorYaw: s.number('mix.ruddervatorYaw'),
    flaperonFlap: s.number('mix.flaperonFlap'),
    spinFlipped: s.flag('mix.spinFlipped'),
  };
}

const mix = (roll: number, pitch: number, yaw: number, throttle: number, flap = 0): RoleMix => ({
  roll,
  pitch,
  yaw,
  throttle,
  flap,
});

/** Bearing of a rotor from straight ahead, degrees, by its name and the kind of craft. */
const rotorBearing: Partial<Record<ActuatorId, (kind: Kind) => number>> = {
  'front-motor': () => 0,
  'rear-motor': () => 180,
  'left-motor': () => -90,
  'right-motor': () => 90,
  'front-right-motor': frontRight,
  'front-left-motor': (k) => -frontRight(k),
  'rear-right-motor': (k) => 180 - frontRight(k),
  'rear-left-motor': (k) => frontRight(k) - 180,
  'front-right-lower-motor': frontRight,
  'front-left-lower-motor': (k) => -frontRight(k),
  'rear-lower-motor': () => 180,
};

function frontRight(kind: Kind): number {
  return kind === 'hex' ? 30 : kind === 'y6' || kind === 'tri' ? 60 : 45;
}

/** Rotors that turn anticlockwise seen from above, and so push the nose right. */
const anticlockwise: Partial<Record<Kind, readonly ActuatorId[]>> = {
  'quad-x': ['front-right-motor', 'rear-left-motor'],
  'quad-plus': ['front-motor', 'rear-motor'],
  hex: ['front-right-motor', 'rear-right-motor', 'left-motor'],
  y6: ['front-right-motor', 'rear-motor', 'front-left-motor'],
};

function rotorMix(kind: Kind, role: ActuatorId, shares: MixShares): RoleMix {
  const bearing = ((rotorBearing[role]?.(kind) ?? 0) * Math.PI) / 180;
  const turning = anticlockwise[kind];
  const spin = turning ? (turning.includes(role) ? 1 : -1) * (shares.spinFlipped ? -1 : 1) : 0;
  // The farthest rotor on each axis answers fully; the tricopter yaws by its servo alone.
  const side = kind === 'quad-x' ? Math.SQRT1_2 : kind === 'tri' || kind === 'y6' ? Math.sin(Math.PI / 3) : 1;
  const fore = kind === 'quad-x' ? Math.SQRT1_2 : kind === 'hex' ? Math.cos(Math.PI / 6) : 1;
  return mix(-Math.sin(bearing) / side, Math.cos(bearing) / fore, spin, 1);
}

/** The mix of a role on a kind of craft; what is carried follows rows of one's own alone. */
export function roleMix(role: ActuatorId, kind: Kind, shares: MixShares = usualShares): RoleMix {
  if (rotorKind(kind) && role.endsWith('motor')) return rotorMix(kind, role, shares);
  if (isFitting(role)) return mix(0, 0, 0, 0);
  const s = shares;
  switch (role) {
    case 'left-motor':
      return mix(0, 0, 1, 1);
    case 'right-motor':
      return mix(0, 0, -1, 1);
    case 'left-aileron':
      return mix(1, 0, 0, 0);
    case 'right-aileron':
      return mix(-1, 0, 0, 0);
    case 'elevator':
      return mix(0, -1, 0, 0);
    case 'rudder':
    case 'left-rudder':
    case 'right-rudder':
      return mix(0, 0, -1, 0);
    case 'left-elevon':
      return mix(s.elevonRoll, -s.elevonPitch, 0, 0);
    case 'right-elevon':
      return mix(-s.elevonRoll, -s.elevonPitch, 0, 0);
    case 'left-ruddervator':
      return mix(0, -s.ruddervatorPitch, -s.ruddervatorYaw, 0);
    case 'right-ruddervator':
      return mix(0, -s.ruddervatorPitch, s.ruddervatorYaw, 0);
    case 'left-flap':
    case 'right-flap':
      return mix(0, 0, 0, 0, 1);
    case 'left-flaperon':
      return mix(1, 0, 0, 0, s.flaperonFlap);
    case 'right-flaperon':
      return mix(-1, 0, 0, 0, s.flaperonFlap);
    case 'tail-servo':
      // Thrust of the rear motor to the left turns the nose to the right.
      return mix(0, 0, 1, 0);
    default:
      return mix(0, 0, 0, 1);
  }
}

const rotorKind = (kind: Kind) =>
  kind === 'quad-x' || kind === 'quad-plus' || kind === 'hex' || kind === 'y6' || kind === 'tri';

const sideways: ReadonlySet<ActuatorId> = new Set(['tail-servo', 'pan', 'gimbal-roll']);

/** Whether it only answers or does not: a light, a release. */
export function goesNoWay(role: ActuatorId): boolean {
  return role === 'lights' || role === 'release';
}

/** The two ways an actuator can go, by the word a person would use, first the positive one. */
export function directionWords(role: ActuatorId): readonly [string, string] {
  return sideways.has(role) || role.endsWith('rudder') ? ['left', 'right'] : ['down', 'up'];
}
