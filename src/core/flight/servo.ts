import type { Surface } from '../airframe/airframe.ts';
import { clamp, DEG } from '../math/scalar.ts';
import { type Linkage, reachOf, surfaceAt } from '../mixer/linkage.ts';

/** A small servo: 60 degrees in 0.12 s (rad/s), 45 degrees of travel to either side. */
export const USUAL_SPEED = 500 * DEG;
const USUAL_TRAVEL = 45 * DEG;
const USUAL_SLOP = 0.3 * DEG;

/** Servo angles at which a measured linkage is worked out, from one end to the other. */
const TABLE = 240;
/** A servo goes a little beyond its nominal travel, share. */
const BEYOND = 1.1;

/** A rod as it was truly built, and its play at the surface, rad. */
export interface TrueRod {
  readonly linkage: Linkage;
  readonly play: number;
}

/**
 * A servo with its rod: follows the pulse at its own speed, moves the surface by the four-bar law of a long
 * rod, horn sin(d) = arm sin(servo), and has play that the surface has to cross when it turns back. A rod that was measured
 * moves it by its own four bars, and stops it where it binds.
 */
export class Servo {
  /** Where the pulse asks it to stand, -1..1 of its travel. Set before `step`: a number given to a call goes on the heap. */
  share = 0;
  /** It holds where it stands and follows no pulse. */
  stuck = false;
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
  /** Surface angles of a measured rod, evenly over the servo's travel; null for a long one. */
  private readonly table: Float64Array | null;

  constructor(surface: Surface, rod?: TrueRod) {
    const l = surface.linkage;
    this.travel = l ? l.servoTravelDeg * DEG : USUAL_TRAVEL;
    this.speed = l ? l.servoSpeedDegPerS * DEG : USUAL_SPEED;
    this.slop = rod ? rod.play : l ? l.slopDeg * DEG : USUAL_SLOP;
    this.table = rod ? tableOf(rod.linkage, this.travel * BEYOND) : null;
    this.ratio = l ? l.armMm / l.hornMm : Math.sin(surface.throwDeg * DEG) / Math.sin(this.travel);
    // Of a measured rod the farther of its ends: it need not go as far to both.
    this.throw = rod ? Math.max(Math.abs(this.at(1)), Math.abs(this.at(-1))) : this.at(1);
    this.deflection = this.at(0);
    this.wanted = this.deflection;
  }

  /** Where the surface stands once the servo is at a share of its travel, without play, rad. */
  at(share: number): number {
    return this.follow(share * this.travel);
  }

  private follow(angle: number): number {
    const { table } = this;
    if (table === null) return surfaceAngle(angle, this.ratio);
    const at = clamp((angle / (this.travel * BEYOND) + 1) / 2, 0, 1) * TABLE;
    const k = Math.min(TABLE - 1, Math.floor(at));
    return table[k]! + (at - k) * (table[k + 1]! - table[k]!);
  }

  /** Moves towards `share` for dt seconds. */
  step(dt: number): void {
    if (this.stuck) return;
    const target = clamp(this.share, -BEYOND, BEYOND) * this.travel;
    const reach = this.speed * dt;
    const off = target - this.angle;
    if (off !== 0) {
      this.angle += off > reach ? reach : Math.max(off, -reach);
      this.wanted = this.follow(this.angle);
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

function tableOf(linkage: Linkage, travel: number): Float64Array {
  const { from, to } = reachOf(linkage, travel);
  return Float64Array.from({ length: TABLE + 1 }, (_, k) =>
    surfaceAt(linkage, clamp(travel * ((2 * k) / TABLE - 1), from, to)),
  );
}
