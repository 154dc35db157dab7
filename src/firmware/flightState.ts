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

/** Asked to sink and not sinking, this near to where the ground must be, a craft with rotors eases off its thrust. m/s, s, m */
const STANDS_MPS = 0.25;
const SINKS_AGAIN_MPS = 0.5;
const FEELS_FOR_S = 0.35;
const EASES_OFF_S = 0.7;
const NEAR_GROUND_M = 8;

/** A wing that the wind rocks on the ground is not still, but it goes nowhere: m/s, rad/s. */
const STANDS_OVER_GROUND_MPS = 1.5;
const ROCKS_MOST = 1;

function standsInWind(s: Sensing): boolean {
  const p = s.position;
  const w = s.attitude.rates;
  const turning = Math.hypot(w[0]!, w[1]!, w[2]!);
  const over = Math.hypot(p.velocityNorth, p.velocityEast);
  return p.hasFix && over < STANDS_OVER_GROUND_MPS && Math.abs(p.climb) < 0.5 && turning < ROCKS_MOST;
}

/** Tells when a landing by itself is over: takes the thrust off once the ground carries, then waits until it stands still. */
export class LandingWatch {
  /** Share of the thrust that is left, for rotors. */
  ease = 1;
  private stillFor = 0;
  private stoodFor = 0;

  constructor(private readonly c: Config) {}

  /**
   * @param landing armed, and coming down by itself. @param sink asked for, m/s. @param above the ground as far as
   * known, m; NaN when not. @returns true when it has landed
   */
  step(landing: boolean, s: Sensing, sink: number, above: number, dt: number): boolean {
    const { land, rotorcraft } = this.c;
    if (!landing) {
      this.ease = 1;
      this.stoodFor = 0;
      this.stillFor = 0;
      return false;
    }
    if (rotorcraft) this.feel(s.position.climb, sink, above, dt);
    const quiet = rotorcraft ? this.ease < 0.05 : s.still || standsInWind(s);
    this.stillFor = quiet ? this.stillFor + dt : 0;
    return land.disarm > 0 && this.stillFor >= land.disarm;
  }

  private feel(climb: number, sink: number, above: number, dt: number): void {
    const near = Number.isNaN(above) || above < NEAR_GROUND_M;
    if (climb < -SINKS_AGAIN_MPS || !near) {
      // Nothing carries it: it was the air.
      if (this.ease > 0.05) {
        this.ease = 1;
        this.stoodFor = 0;
      }
      return;
    }
    this.stoodFor = sink > 0 && climb > -STANDS_MPS ? this.stoodFor + dt : Math.max(0, this.stoodFor - dt);
    if (this.stoodFor > FEELS_FOR_S) this.ease = Math.max(0, this.ease - dt / EASES_OFF_S);
  }
}
