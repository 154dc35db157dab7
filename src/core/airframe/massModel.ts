import type { Airframe } from './airframe.ts';

/** Moments of inertia about the centre of gravity, body axes, kg m^2. The cross terms are left out. */
export interface Inertia {
  readonly xx: number;
  readonly yy: number;
  readonly zz: number;
}

/** Typical shares of the take-off mass; what is left sits near the centre of gravity with the battery. */
const WING_SHARE = 0.24;
const BODY_SHARE = 0.24;
const TAIL_SHARE = 0.05;
const MOTOR_SHARE = 0.06;

/** Inertia built from parts: wing and body as rods, tail and motors as points, the rest as a small block. */
export function inertiaOf(airframe: Airframe): Inertia {
  const m = airframe.massKg;
  const wing = WING_SHARE * m;
  const body = BODY_SHARE * m;
  const tailArm = airframe.tail.rootAftM + 0.4 * airframe.tail.rootChordM - airframe.cgAftM;
  const tail = TAIL_SHARE * m * tailArm ** 2;
  const bodyArm = airframe.lengthM / 2 - airframe.cgAftM;
  const bodyAlong = body * (airframe.lengthM ** 2 / 12 + bodyArm ** 2);
  let motorsXx = 0;
  let motorsYy = 0;
  for (const motor of airframe.motors) {
    motorsXx += MOTOR_SHARE * m * motor.rightM ** 2;
    motorsYy += MOTOR_SHARE * m * (motor.aftM - airframe.cgAftM) ** 2;
  }
  // A wing is heavier inboard, so less than the m b^2/12 of an even rod.
  const wingXx = 0.75 * ((wing * airframe.wing.spanM ** 2) / 12);
  const block = 0.2 * m * (0.3 * airframe.lengthM) ** 2 * 0.5;
  return {
    xx: wingXx + motorsXx + body * (airframe.bodyWidthM / 2) ** 2 + 0.002 * m,
    yy: bodyAlong + tail + motorsYy + block,
    zz: wingXx + bodyAlong + tail + motorsXx + motorsYy + block,
  };
}
