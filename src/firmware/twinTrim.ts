import { clamp } from '#core/math/scalar.ts';
import type { Config } from './config.ts';
import type { ControllerOnWire } from './readings.ts';

/** So slow against the other, one is out; as fast as this again, it is not. Shares, and for so long, s. */
const OUT_SHARE = 0.35;
const BACK_SHARE = 0.6;
const FOR_S = 1;
/** With less thrust both may well stand. */
const LEAST_THROTTLE = 0.25;
/** How fast the yaw command is followed, s; so long after one went out it shows what that takes, s. */
const YAW_S = 4;
const SHOWS_S = 8;
/** The trim comes in so slowly, s, and no farther than this for each part of throttle. */
const TRIM_S = 2;
const MOST_TRIM = 0.6;

/**
 * Of a wing with a motor on each side whose controllers tell their speed: knows when one of them stands, and trims for it by the
 * throttle, so that the nose does not swing with every change of thrust.
 */
export class TwinTrim {
  /** Which one is out; null while both turn. */
  out: 'left-motor' | 'right-motor' | null = null;
  private perThrottle = 0;
  private goal = Number.NaN;
  private yaw = 0;
  private before = 0;
  private outFor = 0;
  private suspect = 0;
  private suspectFor = 0;
  /** Outputs of the left one and of the right one, from 1; 0 where it is no twin. */
  private readonly left: number;
  private readonly right: number;

  constructor(
    c: Config,
    private readonly say: (text: string) => void,
  ) {
    const motors = c.outputs.filter((o) => o.isMotor);
    const output = (role: string) => c.outputs.findIndex((o) => o.role === role && o.frames) + 1;
    const twin = !c.rotorcraft && motors.length === 2;
    this.left = twin ? output('left-motor') : 0;
    this.right = twin ? output('right-motor') : 0;
  }

  /** A new flight begins. */
  reset(): void {
    this.out = null;
    this.perThrottle = 0;
    this.goal = Number.NaN;
    this.suspect = 0;
    this.suspectFor = 0;
  }

  /** What is added to the yaw command at a throttle. */
  yawAt(throttle: number): number {
    return this.perThrottle * throttle;
  }

  /** Fifty times a second in flight. @param yaw command as it goes to the outputs, trim and all */
  step(wires: readonly ControllerOnWire[], yaw: number, throttle: number, dt: number): void {
    if (this.left === 0 || this.right === 0) return;
    this.yaw += (dt / YAW_S) * (yaw - this.yaw);
    const l = speedOf(wires, this.left);
    const r = speedOf(wires, this.right);
    if (throttle < LEAST_THROTTLE || Number.isNaN(l + r)) return;
    const share = this.out === null ? OUT_SHARE : BACK_SHARE;
    const now = l < share * r ? -1 : r < share * l ? 1 : 0;
    // What was before is what was until it was first suspected: the rudder answers at once.
    if (now !== this.suspect && this.out === null) this.before = this.yaw;
    this.suspectFor = now === this.suspect ? this.suspectFor + dt : 0;
    this.suspect = now;
    const known = this.out === 'left-motor' ? -1 : this.out === 'right-motor' ? 1 : 0;
    if (now !== known && this.suspectFor > FOR_S) this.turnTo(now);
    if (this.out === null) return;
    this.outFor += dt;
    if (Number.isNaN(this.goal) && this.outFor > SHOWS_S)
      // Fixed from here on: the more it trims the less it slips, and the more rudder that would take.
      this.goal = clamp((this.yaw - this.before) / throttle, -MOST_TRIM, MOST_TRIM);
    if (!Number.isNaN(this.goal)) this.perThrottle += (dt / TRIM_S) * (this.goal - this.perThrottle);
  }

  private turnTo(side: number): void {
    this.out = side < 0 ? 'left-motor' : side > 0 ? 'right-motor' : null;
    this.outFor = 0;
    this.goal = Number.NaN;
    if (this.out === null) {
      this.perThrottle = 0;
      this.say('Both motors turn again.');
      return;
    }
    this.say(`The ${side < 0 ? 'left' : 'right'} motor stands: flies on by the other, trimmed for that.`);
  }
}

/** Speed that a controller on an output tells, rpm; not a number where it tells none. */
function speedOf(wires: readonly ControllerOnWire[], output: number): number {
  for (let i = 0; i < wires.length; i++) {
    const wire = wires[i]!;
    if (wire.output === output && wire.tells) return wire.told.rpm;
  }
  return Number.NaN;
}
