import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { FlightPower } from '../airframe/flightPower.ts';
import { performanceOf } from '../airframe/performance.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';

/** How a craft comes down and flies on by itself, in the few numbers that a search needs. SI. */
export interface FallingCraft {
  readonly rotors: boolean;
  /** Speed at which it glides level, and lift over drag there, motors standing. */
  readonly glideMps: number;
  readonly glideRatio: number;
  /** Falling out of control. */
  readonly terminalMps: number;
  readonly cruiseMps: number;
  /** Of a craft with rotors that comes down by itself. */
  readonly landMps: number;
  readonly climbMps: number;
  /** With a full battery at cruise, s. */
  readonly enduranceS: number;
  /** What its board does when it hears nothing, and how. */
  readonly action: 'nothing' | 'cut' | 'glide' | 'return';
  readonly beforeS: number;
  readonly circleBankRad: number;
  readonly returnHeightM: number;
  readonly climbsFirst: boolean;
  /** Nearer to home than this it would have been seen to come. */
  readonly seenM: number;
}

/** Hands off, with propellers standing, a glide has this much of its best ratio: the demo's wings come 0.9 to 1.25 times as far in the bench, a delta 0.7 (`bench/lossFlown.test.ts`). */
const STANDING = 0.75;
/** Drag area of what tumbles over its wing's area, or over a quarter of the square about its rotors. Ours. */
const TUMBLING = 0.55;
/** Of its greatest sink, as the firmware comes down by itself. */
const COMES_DOWN = 0.6;
const SEEN_M = 60;
/** Of a battery's charge that flies. */
const USABLE = 0.85;
/** Where nobody can say what level flight takes, W. */
const USUAL_W = 300;
/** Of a cell in the mean, V. */
const CELL_V = 3.7;

/** What a search needs to know of a craft and of what its board does at a loss. */
export function fallingCraft(airframe: Airframe, values: Values): FallingCraft {
  const rotors = isRotorcraft(airframe);
  const weight = airframe.massKg * GRAVITY;
  const flight = rotors ? null : performanceOf(airframe);
  const armM = Math.max(0.1, ...airframe.motors.map((m) => Math.abs(m.rightM) + m.propDiameterM / 2));
  const area = flight ? flight.wingAreaM2 : (2 * armM) ** 2 * 0.25;
  const cruise = Number(settingOf(values, 'nav.speed') ?? 15);
  const cruiseMps = rotors ? Number(settingOf(values, 'return.speed') ?? 10) : cruise;
  const maxDuty = Number(settingOf(values, 'motor.max') ?? 1);
  const watts = new FlightPower(airframe, { rho: SEA_LEVEL_DENSITY, maxDuty }).watts({
    ...{ speedMps: cruiseMps, climbMps: 0, load: 1 },
  });
  const { battery } = airframe;
  const joules = battery.cells * CELL_V * battery.capacityMah * 3.6 * USABLE;
  return {
    rotors,
    // Hands off it flies as it was trimmed to cruise; never slower than it can.
    glideMps: flight ? Math.max(1.15 * flight.stallMps, 0.5 * (flight.bestGlideMps + cruise)) : 0,
    glideRatio: flight ? STANDING * flight.bestGlideRatio : 0,
    terminalMps: Math.sqrt((2 * weight) / (SEA_LEVEL_DENSITY * TUMBLING * area)),
    cruiseMps,
    landMps: Math.max(
      Number(settingOf(values, 'hover.land') ?? 1),
      COMES_DOWN * Number(settingOf(values, 'nav.sink') ?? 2),
    ),
    climbMps: Number(settingOf(values, 'nav.climb') ?? 2),
    enduranceS: joules / (Number.isFinite(watts) ? Math.max(5, watts) : USUAL_W),
    action: settingOf(values, 'lost.action') ?? 'nothing',
    beforeS: Number(settingOf(values, 'lost.notice') ?? 1) + Number(settingOf(values, 'lost.guard') ?? 1),
    circleBankRad: Number(settingOf(values, 'lost.glideBank') ?? 20) * DEG,
    returnHeightM: Number(settingOf(values, 'return.height') ?? 80),
    climbsFirst: settingOf(values, 'return.climb') === 'climb-first',
    seenM: SEEN_M,
  };
}
