import type { PositionEstimator } from '#core/estimation/position.ts';
import {
  type AimPoint,
  accelerationTowards,
  aimOnCircle,
  aimOnLine,
  approachSpeed,
  bankFor,
  lookahead,
} from '#core/navigation/pathGuidance.ts';
import type { Config } from './config.ts';

/**
 * What navigation wants of the craft, whichever kind it is: along a line, or about a point. Places in m north
 * and east of the origin, heights above sea.
 */
export interface Goal {
  kind: 'line' | 'circle';
  fromNorth: number;
  fromEast: number;
  /** End of the line; centre of the circle. */
  north: number;
  east: number;
  radius: number;
  height: number;
  /** Through the air for wings, over ground for rotors, m/s. */
  speed: number;
  /** Come down at this speed instead of holding the height, m/s; 0 for not. Rotors straight down, wings in the flare. */
  sink: number;
  /** Motor off, wings level, nose at this angle; NaN for not. Wings only. */
  flare: number;
}

export const newGoal = (): Goal => ({
  kind: 'circle',
  fromNorth: 0,
  fromEast: 0,
  north: 0,
  east: 0,
  radius: 0,
  height: 0,
  speed: 0,
  sink: 0,
  flare: Number.NaN,
});

/** Turns a goal into bank for wings, and velocity over ground for rotors. */
export class Steering {
  bank = 0;
  velocityNorth = 0;
  velocityEast = 0;
  /** Where the nose should point, rad; NaN to leave it. Rotors only. */
  yaw = Number.NaN;
  private readonly aim: AimPoint = { north: 0, east: 0 };

  constructor(private readonly c: Config) {}

  wings(g: Goal, p: PositionEstimator, bankLimit: number): void {
    const c = this.c;
    const speed = Math.sqrt(p.velocityNorth * p.velocityNorth + p.velocityEast * p.velocityEast);
    const ahead = lookahead(c.period, c.damping, speed);
    const aim = this.aim;
    if (g.kind === 'circle')
      aimOnCircle(aim, g.north, g.east, g.radius, c.loiterSense, p.north, p.east, ahead);
    else aimOnLine(aim, g.fromNorth, g.fromEast, g.north, g.east, p.north, p.east, ahead);
    const a = accelerationTowards(
      p.velocityNorth,
      p.velocityEast,
      aim.north - p.north,
      aim.east - p.east,
      ahead,
    );
    this.bank = bankFor(a, bankLimit);
  }

  rotors(g: Goal, p: PositionEstimator): void {
    const h = this.c.hover;
    let toNorth = g.north - p.north;
    let toEast = g.east - p.east;
    const distance = Math.sqrt(toNorth * toNorth + toEast * toEast);
    if (distance > 25) this.yaw = Math.atan2(toEast, toNorth);
    if (g.kind === 'line' && distance > 30) {
      // Towards a point of the line some way ahead, so that wind does not bow the path.
      aimOnLine(this.aim, g.fromNorth, g.fromEast, g.north, g.east, p.north, p.east, 25);
      toNorth = this.aim.north - p.north;
      toEast = this.aim.east - p.east;
    }
    const length = Math.sqrt(toNorth * toNorth + toEast * toEast);
    const wanted = approachSpeed(distance, g.speed, h.positionP);
    const k = length > 0.01 ? wanted / length : 0;
    this.velocityNorth = k * toNorth;
    this.velocityEast = k * toEast;
  }
}
