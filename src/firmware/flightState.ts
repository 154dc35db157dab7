import type { Config } from './config.ts';
import type { Sensing } from './sensing.ts';

/** Above this share of the hover throttle, and this high, a craft with rotors has left the ground. */
const LIFT_SHARE = 0.75;
const LIFT_M = 0.7;
/** A wing flies above this airspeed; without an airspeed, at this speed over ground and height. m/s, m */
const FLYING_MPS = 6;
const FLYING_OVER_GROUND_MPS = 9;
const FLYING_UP_M = 2;

/** True once the craft has left the ground, as far as the board can tell. @param up height gained since arming, m */
export function hasLeftGround(c: Config, s: Sensing, throttle: number, up: number): boolean {
  if (c.rotorcraft) return throttle > LIFT_SHARE * c.hover.throttle && up > LIFT_M;
  const p = s.position;
  return (
    s.airspeed > FLYING_MPS ||
    (Math.hypot(p.velocityNorth, p.velocityEast) > FLYING_OVER_GROUND_MPS && up > FLYING_UP_M)
  );
}

/** Tells that a landing by itself is over: the craft has stood still for the set time. */
export class LandingWatch {
  private stillFor = 0;

  constructor(private readonly c: Config) {}

  /** @param landing armed, and coming down by itself. @param throttle 0..1 @returns true when it has landed */
  step(landing: boolean, s: Sensing, throttle: number, dt: number): boolean {
    const { land, rotorcraft, hover } = this.c;
    const quiet = rotorcraft ? Math.abs(s.position.climb) < 0.25 && throttle < 0.6 * hover.throttle : s.still;
    this.stillFor = landing && quiet ? this.stillFor + dt : 0;
    return land.disarm > 0 && this.stillFor >= land.disarm;
  }
}
