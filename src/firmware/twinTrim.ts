import { clamp } from '#core/math/scalar.ts';
import type { Config } from './config.ts';

/** How fast the rudder's effort for the thrust is followed, s: what it is now, and what it always was. */
const NOW_S = 4;
const ALWAYS_S = 60;
/** Effort over throttle that is not that of two motors alike, and for how long, s. */
const UNLIKE = 0.1;
const UNLIKE_FOR_S = 3;
/** Less than this again for so long, s, and both pull. */
const ALIKE = 0.05;
const ALIKE_FOR_S = 6;
/** In turns and with little thrust the effort tells nothing. */
const MOST_ROLL = 0.12;
const LEAST_THROTTLE = 0.25;
/** The trim goes over to the effort that it was told by so slowly, s, and no farther than this. */
const TRIM_S = 3;
const MOST_TRIM = 0.6;

/**
 * Of a wing with a motor on each side: tells by the yaw that straight flight takes that one of them pulls much less or
 * stands, and trims for it by the throttle, so that the nose does not swing with every change of thrust.
 */
export class TwinTrim {
  /** Which one is out; null while both pull. */
  out: 'left-motor' | 'right-motor' | null = null;
  /** Yaw command for each part of throttle. */
  private perThrottle = 0;
  private goal = 0;
  private now = 0;
  private always = 0;
  private unlikeFor = 0;
  private alikeFor = 0;
  private readonly twin: boolean;

  constructor(
    c: Config,
    private readonly say: (text: string) => void,
  ) {
    const motors = c.outputs.filter((o) => o.isMotor).map((o) => o.role);
    this.twin =
      !c.rotorcraft && motors.length === 2 && motors.includes('left-motor') && motors.includes('right-motor');
  }

  /** A new flight begins. */
  reset(): void {
    this.out = null;
    this.perThrottle = 0;
    this.now = 0;
    this.always = 0;
    this.unlikeFor = 0;
    this.alikeFor = 0;
  }

  /** What is added to the yaw command at a throttle. */
  yawAt(throttle: number): number {
    return this.perThrottle * throttle;
  }

  /** Fifty times a second in flight. @param yaw command as it goes to the outputs, trim and all */
  step(yaw: number, throttle: number, roll: number, dt: number): void {
    if (!this.twin || throttle < LEAST_THROTTLE || Math.abs(roll) > MOST_ROLL) return;
    const effort = yaw / throttle;
    this.now += (dt / NOW_S) * (effort - this.now);
    // While one is out, what always was is kept as it was before.
    if (this.out === null) this.always += (dt / ALWAYS_S) * (effort - this.always);
    const off = this.now - this.always;
    if (this.out === null) {
      this.unlikeFor = Math.abs(off) > UNLIKE ? this.unlikeFor + dt : 0;
      if (this.unlikeFor < UNLIKE_FOR_S) return;
      // Held to the right, the thrust turns it left: it is the left one that is missing.
      this.out = off > 0 ? 'left-motor' : 'right-motor';
      this.alikeFor = 0;
      // Fixed from here on: the more it trims the less it slips, and the more rudder that takes.
      this.goal = clamp(off, -MOST_TRIM, MOST_TRIM);
      this.say(
        `The ${off > 0 ? 'left' : 'right'} motor pulls much less than the other: flies on, trimmed for that.`,
      );
      return;
    }
    this.perThrottle += (dt / TRIM_S) * (this.goal - this.perThrottle);
    this.alikeFor = Math.abs(off) < ALIKE ? this.alikeFor + dt : 0;
    if (this.alikeFor < ALIKE_FOR_S) return;
    this.out = null;
    this.unlikeFor = 0;
    this.perThrottle = 0;
    this.say('Both motors pull alike again.');
  }
}
