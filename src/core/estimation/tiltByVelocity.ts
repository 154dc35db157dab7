import { GRAVITY } from '../math/scalar.ts';
import type { AttitudeAids } from './attitude.ts';

/** How old a solution is when it has been read, in steps of 20 ms. */
const LATENCY_STEPS = 7;
/** Two solutions farther apart than this say nothing of the push between them, s. */
const APART_MOST_S = 1.5;
/** A push across this strong tells the heading, m/s^2. */
const PUSH_TELLS = 2.5;
/** Residual of a good receiver, rad: more is doubted in proportion to its square. */
const USUAL_OFF = 0.045;

/**
 * The attitude's error from what is felt against what is flown: the mean felt force between two solutions, turned to
 * the earth by the attitude believed, must be the change of velocity less gravity. What is left over in the level is
 * gravity seen askew. (The principle of in-motion alignment, e.g. Titterton and Weston 2004, 10.5.)
 */
export class TiltByVelocity {
  private impulseNorth = 0;
  private impulseEast = 0;
  private impulseDown = 0;
  private seconds = 0;
  private readonly pastNorth = new Float64Array(LATENCY_STEPS);
  private readonly pastEast = new Float64Array(LATENCY_STEPS);
  private readonly pastDown = new Float64Array(LATENCY_STEPS);
  private readonly pastSeconds = new Float64Array(LATENCY_STEPS);
  private slot = 0;
  private lastNorth = Number.NaN;
  private lastEast = 0;
  private fromNorth = 0;
  private fromEast = 0;
  private fromDown = 0;
  private fromSeconds = 0;
  private offSquare = USUAL_OFF * USUAL_OFF;

  /** Adds the mean force felt over dt seconds, earth axes by the attitude believed, m/s^2. Every 20 ms. */
  step(north: number, east: number, down: number, dt: number): void {
    this.impulseNorth += north * dt;
    this.impulseEast += east * dt;
    this.impulseDown += down * dt;
    this.seconds += dt;
    const at = this.slot;
    this.pastNorth[at] = this.impulseNorth;
    this.pastEast[at] = this.impulseEast;
    this.pastDown[at] = this.impulseDown;
    this.pastSeconds[at] = this.seconds;
    this.slot = (at + 1) % LATENCY_STEPS;
  }

  /** A solution's velocity over ground, m/s. Fills the aids where it says something. */
  velocity(north: number, east: number, aids: AttitudeAids): void {
    const at = this.slot;
    const dt = this.pastSeconds[at]! - this.fromSeconds;
    if (!Number.isNaN(this.lastNorth) && dt > 0.02 && dt < APART_MOST_S) {
      const g = Math.max(0.3 * GRAVITY, -(this.pastDown[at]! - this.fromDown) / dt);
      const offNorth = (this.pastNorth[at]! - this.fromNorth - (north - this.lastNorth)) / dt;
      const offEast = (this.pastEast[at]! - this.fromEast - (east - this.lastEast)) / dt;
      // A force seen too far north is an attitude turned about east, and the other way about.
      aids.tiltEast = limited(offNorth / g);
      aids.tiltNorth = limited(-offEast / g);
      const feltNorth = (this.pastNorth[at]! - this.fromNorth) / dt;
      const feltEast = (this.pastEast[at]! - this.fromEast) / dt;
      const push2 = feltNorth * feltNorth + feltEast * feltEast;
      aids.tiltDown = limited((feltEast * offNorth - feltNorth * offEast) / Math.max(push2, 1));
      aids.tiltDownShare = Math.min(1, push2 / PUSH_TELLS ** 2) ** 2;
      aids.tiltAge = 0;
      const off2 = aids.tiltNorth * aids.tiltNorth + aids.tiltEast * aids.tiltEast;
      this.offSquare += Math.min(1, dt / 4) * (off2 - this.offSquare);
      aids.tiltDoubt = Math.max(1, this.offSquare / (8 * USUAL_OFF * USUAL_OFF));
    }
    this.lastNorth = north;
    this.lastEast = east;
    this.fromNorth = this.pastNorth[at]!;
    this.fromEast = this.pastEast[at]!;
    this.fromDown = this.pastDown[at]!;
    this.fromSeconds = this.pastSeconds[at]!;
  }

  /** The velocity is no longer one to go by. */
  forget(): void {
    this.lastNorth = Number.NaN;
  }
}

/** One odd solution turns nothing over. */
function limited(angle: number): number {
  return Math.max(-0.6, Math.min(0.6, angle));
}
