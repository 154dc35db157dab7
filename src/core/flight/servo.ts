import type { Surface } from '../airframe/airframe.ts';
import { clamp, DEG } from '../math/scalar.ts';

/** A small servo: 60 degrees in 0.12 s, 45 degrees of travel to either side. */
const USUAL_SPEED = 500 * DEG;
const USUAL_TRAVEL = 45 * DEG;
const USUAL_SLOP = 0.3 * DEG;

/**
 * A servo with its rod: follows the pulse at its own speed, moves the surface by the four-bar law of a long
 * rod, horn sin(d) = arm sin(servo), and has play that the surface has to cross when it turns back.
 */
export class Servo {
  /** Where the pulse asks it to stand, -1..1 of its travel. Set before `step`: a number given to a call goes on the heap. */
  share = 0;
  /** Surface deflection, rad. */
  deflection = 0;
  /** Deflection at full travel, rad. */
  readonly throw: number;
  private angle = 0;
  private wanted = 0;
  private readonly ratio: number;
  private readonly travel: number;
  private readonly speed: number;
  private readonly slop: number;

  constructor(surface: Surface) {
    const l = surface.linkage;
    this.travel = l ? l.servoTravelDeg * DEG : USUAL_TRAVEL;
    this.speed = l ? l.servoSpeedDegPerS * DEG : USUAL_SPEED;
    this.slop = l ? l.slopDeg * DEG : USUAL_SLOP;
    this.ratio = l ? l.armMm / l.hornMm : Math.sin(surface.throwDeg * DEG) / Math.sin(this.travel);
    this.throw = this.at(1);
  }

  /** Where the surface stands once the servo is at a share of its travel, without play, rad. */
  at(share: number): number {
    return surfaceAngle(share * this.travel, this.ratio);
  }

  /** Moves towards `share` for dt seconds. */
  step(dt: number): void {
    const target = clamp(this.share, -1.1, 1.1) * this.travel;
    const reach = this.speed * dt;
    const off = target - this.angle;
    if (off !== 0) {
      this.angle += off > reach ? reach : Math.max(off, -reach);
      this.wanted = surfaceAngle(this.angle, this.ratio);
    }
    const half = this.slop / 2;
    if (this.wanted > this.deflection + half) this.deflection = this.wanted - half;
    else if (this.wanted < this.deflection - half) this.deflection = this.wanted + half;
  }
}

/** Deflection that a servo angle gives over a long rod, rad. @param ratio arm over horn */
export function surfaceAngle(servo: number, ratio: number): number {
  return Math.asin(clamp(ratio * Math.sin(servo), -1, 1));
}
