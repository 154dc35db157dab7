import { clamp, DEG, GRAVITY } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** How a rotorcraft holds speed and height. SI; throttle 0..1. */
export interface HoverSettings {
  readonly throttle: number;
  /** rad */
  readonly tilt: number;
  /** 1/s: acceleration per velocity error, and per its sum. */
  readonly velocityP: number;
  readonly velocityI: number;
  /** 1/s: velocity per distance. */
  readonly positionP: number;
  /** Throttle per m/s of climb error, and per its sum. */
  readonly climbP: number;
  readonly climbI: number;
  /** 1/s: climb per height error. */
  readonly heightP: number;
  readonly climbMps: number;
  readonly sinkMps: number;
}

/** As a board is set. */
export function hoverSettingsOf(values: Values): HoverSettings {
  const { number: n } = settingsOf(values);
  return {
    throttle: n('hover.throttle'),
    tilt: n('hover.tilt') * DEG,
    velocityP: n('hover.velocityP'),
    velocityI: n('hover.velocityI'),
    positionP: n('hover.positionP'),
    climbP: n('hover.climbP'),
    climbI: n('hover.climbI'),
    heightP: n('hover.heightP'),
    climbMps: n('nav.climb'),
    sinkMps: n('nav.sink'),
  };
}

/**
 * Velocity over ground to tilt: wanted acceleration from the velocity error, turned into roll and pitch by the
 * heading, held within the tilt limit. Climb to throttle about the hover throttle, raised by 1/cos(tilt).
 */
export class HoverLoops {
  roll = 0;
  pitch = 0;
  throttle = 0;
  private sumNorth = 0;
  private sumEast = 0;
  private sumClimb = 0;

  constructor(
    private readonly s: HoverSettings,
    private readonly dt: number,
  ) {}

  reset(): void {
    this.sumNorth = 0;
    this.sumEast = 0;
    this.sumClimb = 0;
  }

  /** Wanted velocity and what it is, earth axes, m/s. @param yaw heading, rad @param tilt limit now, rad */
  move(wantNorth: number, wantEast: number, north: number, east: number, yaw: number, tilt: number): void {
    const s = this.s;
    const eN = wantNorth - north;
    const eE = wantEast - east;
    const most = GRAVITY * Math.tan(tilt);
    let aN = s.velocityP * eN + this.sumNorth;
    let aE = s.velocityP * eE + this.sumEast;
    const size = Math.sqrt(aN * aN + aE * aE);
    if (size > most) {
      aN *= most / size;
      aE *= most / size;
    }
    // At the limit the sum may only shrink or turn, not grow.
    const nextN = this.sumNorth + s.velocityI * eN * this.dt;
    const nextE = this.sumEast + s.velocityI * eE * this.dt;
    const grows = nextN * nextN + nextE * nextE > this.sumNorth * this.sumNorth + this.sumEast * this.sumEast;
    if (size <= most || !grows) {
      this.sumNorth = nextN;
      this.sumEast = nextE;
    }
    const ahead = aN * Math.cos(yaw) + aE * Math.sin(yaw);
    const right = -aN * Math.sin(yaw) + aE * Math.cos(yaw);
    this.pitch = -Math.atan(ahead / GRAVITY);
    this.roll = Math.atan((right * Math.cos(this.pitch)) / GRAVITY);
  }

  /** @param tilt of the craft now, rad */
  climb(wanted: number, climb: number, tilt: number, least: number, most: number): void {
    const s = this.s;
    const error = clamp(wanted, -s.sinkMps, s.climbMps) - climb;
    const next = this.sumClimb + s.climbI * error * this.dt;
    const lift = 1 / Math.max(0.6, Math.cos(tilt));
    const out = s.throttle * lift + s.climbP * error + next;
    if ((out < most || error < 0) && (out > least || error > 0)) this.sumClimb = clamp(next, -0.4, 0.4);
    this.throttle = clamp(s.throttle * lift + s.climbP * error + this.sumClimb, least, most);
  }

  /** Climb that goes to a height. */
  climbFor(heightError: number): number {
    return clamp(this.s.heightP * heightError, -this.s.sinkMps, this.s.climbMps);
  }
}
