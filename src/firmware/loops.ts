import { type GainLaw, type GainsNow, gainTimes } from '#core/control/gainLaw.ts';
import { RateLoop } from '#core/control/rateLoop.ts';
import { clamp, GRAVITY } from '#core/math/scalar.ts';
import type { Config, ControlSet } from './config.ts';
import type { Command } from './outputs.ts';
import type { Sensing } from './sensing.ts';

/** A turn's own rates are worked out this seldom: they change as slowly as the bank. */
const TURN_EVERY = 4;

/** A supply is measured with noise, and sags and recovers within this, s. */
const SUPPLY_LAG_S = 0.1;

/** What is asked of the attitude: angles, or rates, or a blend of both. */
export interface AttitudeDemand {
  /** rad */
  roll: number;
  pitch: number;
  /** -1..1 of the greatest rates */
  stickRoll: number;
  stickPitch: number;
  stickYaw: number;
  /** rad/s, added to what the yaw stick asks. */
  yawRate: number;
  /** rad/s, added to the rates: the craft is turned to and fro while gains are found. */
  addRoll: number;
  addPitch: number;
  /** 0 angles only, 1 rates only, between for Horizon. */
  freeRoll: number;
  freePitch: number;
}

export const newDemand = (): AttitudeDemand => ({
  roll: 0,
  pitch: 0,
  stickRoll: 0,
  stickPitch: 0,
  stickYaw: 0,
  yawRate: 0,
  addRoll: 0,
  addPitch: 0,
  freeRoll: 0,
  freePitch: 0,
});

/** Level loop over rate loops on three axes, for wings with speed scaling and coordinated turns. */
export class Loops {
  /** Roll, pitch, yaw. */
  private readonly axes: readonly [RateLoop, RateLoop, RateLoop];
  /** Rates asked for, rad/s: for the log. */
  readonly wanted = new Float64Array(3);
  private turnPitch = 0;
  private turnYaw = 0;
  private tick = 0;
  private readonly law: GainLaw;
  private readonly times: GainsNow = { gain: 1, forward: 1, at: 0.5, supplyV: 0.5 };
  /** The throttle as the speed follows it. */
  private throttle = Number.NaN;
  private readonly follows: number;
  private supplyV = Number.NaN;

  constructor(
    private readonly c: Config,
    readonly set: ControlSet,
    private readonly dt: number,
  ) {
    this.law = c.gainLaw;
    this.follows = Math.min(1, this.dt / Math.max(this.dt, this.law.lagS));
    const loop = (gains: ControlSet['roll']) => new RateLoop(gains, c.loopShape, dt);
    this.axes = [loop(set.roll), loop(set.pitch), loop(set.yaw)];
  }

  /** What the gain law makes of P, I and D now. */
  get gainBy(): number {
    return this.times.gain;
  }

  /** And of the feed-forward. */
  get forwardBy(): number {
    return this.times.forward;
  }

  /** What the I part of an axis gives, share of full command: for the log. @param axis roll, pitch, yaw */
  sumOf(axis: number): number {
    return this.times.gain * this.axes[axis]!.sum;
  }

  reset(): void {
    for (const axis of this.axes) axis.reset();
  }

  /** @param hold keeps the sums at rest, on the ground. @param flying coordinates turns, and gains go by their law */
  step(d: AttitudeDemand, s: Sensing, hold: boolean, flying: boolean, out: Command): void {
    const { c, set } = this;
    const a = s.attitude;
    let p = d.freeRoll * d.stickRoll * set.rollMax;
    let q = d.freePitch * d.stickPitch * set.pitchMax;
    let r = d.stickYaw * set.yawMax + d.yawRate;
    if (d.freeRoll < 1)
      p += (1 - d.freeRoll) * clamp((d.roll - a.roll) / set.levelTime, -set.rollMax, set.rollMax);
    if (d.freePitch < 1)
      q += (1 - d.freePitch) * clamp((d.pitch - a.pitch) / set.levelTime, -set.pitchMax, set.pitchMax);
    this.schedule(s, flying);
    if (!c.rotorcraft) {
      if (flying && d.freeRoll < 1 && s.airspeed > 4) {
        // A coordinated turn yaws by g/V sin(bank), which is partly pitch rate in body axes.
        if (this.tick++ % TURN_EVERY === 0) {
          const speed = clamp(s.airspeed, 0.6 * c.reference, 2 * c.reference);
          const turn =
            (GRAVITY / Math.max(speed, 6)) * Math.tan(clamp(a.roll, -1.2, 1.2)) * Math.cos(a.pitch);
          this.turnPitch = turn * Math.sin(a.roll);
          this.turnYaw = turn * Math.cos(a.roll);
        }
        q += (1 - d.freePitch) * this.turnPitch;
        r += this.turnYaw;
      }
    }
    this.wanted[0] = p + d.addRoll;
    this.wanted[1] = q + d.addPitch;
    this.wanted[2] = r;
    const { gain, forward } = this.times;
    for (let i = 0; i < 3; i++) {
      const axis = this.axes[i]!;
      axis.demand = this.wanted[i]!;
      axis.rate = a.rates[i]!;
      axis.gainBy = gain;
      axis.forwardBy = forward;
      axis.step(hold);
    }
    out.roll = this.axes[0].output;
    out.pitch = this.axes[1].output;
    out.yaw = this.axes[2].output;
  }

  /** What gains are multiplied by now; as written while it stands. */
  private schedule(s: Sensing, flying: boolean): void {
    const { law, times } = this;
    if (!flying) {
      times.gain = 1;
      times.forward = 1;
      this.throttle = Number.NaN;
      this.supplyV = Number.NaN;
      return;
    }
    if (law.by === 'throttle') {
      if (Number.isNaN(this.throttle)) this.throttle = s.throttle;
      this.throttle += this.follows * (s.throttle - this.throttle);
    }
    if (law.voltPower > 0) {
      if (Number.isNaN(this.supplyV)) this.supplyV = s.supplyV;
      this.supplyV += Math.min(1, this.dt / SUPPLY_LAG_S) * (s.supplyV - this.supplyV);
    }
    times.at = law.by === 'throttle' ? this.throttle : s.airspeed;
    times.supplyV = this.supplyV;
    gainTimes(law, this.c.rotorcraft, times);
  }
}
