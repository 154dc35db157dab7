import type { PositionEstimator } from '#core/estimation/position.ts';
import {
  type AimPoint,
  accelerationTowards,
  aimOnCircle,
  aimOnLine,
  bankFor,
  lookahead,
} from '#core/navigation/pathGuidance.ts';
import { returnHeights } from '#core/navigation/returnPlan.ts';
import type { Config } from './config.ts';

export type HomePhase = 'climbing' | 'homeward' | 'circling';

/** The way home: climb if asked to, along the straight line, then circle. */
export class HomeFlight {
  phase: HomePhase = 'homeward';
  bankDemand = 0;
  /** Height above sea level to fly at, m. */
  heightDemand = 0;
  speedDemand = 0;
  /** No nearer home over the watched time. */
  noProgress = false;
  private homeNorth = 0;
  private homeEast = 0;
  private homeHeight = 0;
  private startNorth = 0;
  private startEast = 0;
  private cruiseHeight = 0;
  private bestDistance = 0;
  private sinceBest = 0;
  private readonly aim: AimPoint = { north: 0, east: 0 };

  constructor(private readonly c: Config) {}

  setHome(north: number, east: number, height: number): void {
    this.homeNorth = north;
    this.homeEast = east;
    this.homeHeight = height;
  }

  distance(p: PositionEstimator): number {
    const n = p.north - this.homeNorth;
    const e = p.east - this.homeEast;
    return Math.sqrt(n * n + e * e);
  }

  begin(p: PositionEstimator, linkLost: boolean): void {
    const c = this.c;
    const start = p.height - this.homeHeight;
    const near = linkLost && this.distance(p) < c.nearHome;
    const plan = returnHeights(near ? 'keep-height' : c.returnClimb, start, c.returnHeight);
    this.startNorth = p.north;
    this.startEast = p.east;
    // Never lower than the circle's own floor, even when "keep height" begins low.
    this.cruiseHeight = this.homeHeight + Math.max(plan.heightM, 15);
    this.phase = plan.climbFirst ? 'climbing' : 'homeward';
    this.bestDistance = this.distance(p);
    this.sinceBest = 0;
    this.noProgress = false;
  }

  step(p: PositionEstimator, dt: number): void {
    const c = this.c;
    const speed = Math.sqrt(p.velocityNorth * p.velocityNorth + p.velocityEast * p.velocityEast);
    const ahead = lookahead(c.period, c.damping, speed);
    const distance = this.distance(p);
    this.heightDemand = this.cruiseHeight;
    this.speedDemand = c.returnSpeed;
    const aim = this.aim;
    if (this.phase === 'climbing') {
      if (p.height > this.cruiseHeight - 5) {
        this.phase = 'homeward';
        this.startNorth = p.north;
        this.startEast = p.east;
      }
      aimOnCircle(
        aim,
        this.startNorth,
        this.startEast,
        c.loiterRadius,
        c.loiterSense,
        p.north,
        p.east,
        ahead,
      );
    } else if (this.phase === 'homeward') {
      this.watch(distance, dt);
      if (this.noProgress) this.speedDemand += c.faster;
      if (distance < c.loiterRadius + 0.5 * ahead) this.phase = 'circling';
      aimOnLine(aim, this.startNorth, this.startEast, this.homeNorth, this.homeEast, p.north, p.east, ahead);
    } else {
      // Blown far out of its circle, it goes home anew.
      if (distance > 4 * c.loiterRadius + 200) {
        this.phase = 'homeward';
        this.startNorth = p.north;
        this.startEast = p.east;
        this.bestDistance = distance;
        this.sinceBest = 0;
      }
      if (c.arrival === 'circle-low') this.heightDemand = this.homeHeight + c.arrivalHeight;
      aimOnCircle(aim, this.homeNorth, this.homeEast, c.loiterRadius, c.loiterSense, p.north, p.east, ahead);
    }
    const a = accelerationTowards(p.velocityNorth, p.velocityEast, aim.north - p.north, aim.east - p.east);
    this.bankDemand = bankFor(a, c.bank);
  }

  /** Progress is a new least distance; without one for the watched time there is none. */
  private watch(distance: number, dt: number): void {
    if (distance < this.bestDistance - 10) {
      this.bestDistance = distance;
      this.sinceBest = 0;
      this.noProgress = false;
    } else {
      this.sinceBest += dt;
      if (this.sinceBest > this.c.watch) this.noProgress = true;
    }
  }
}
