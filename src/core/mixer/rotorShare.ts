import { clamp } from '../math/scalar.ts';
import type { RoleMix } from './roles.ts';

/** Commands after the loops: -1..1, throttle 0..1. */
export interface TurnCommand {
  readonly roll: number;
  readonly pitch: number;
  readonly yaw: number;
  readonly throttle: number;
}

/** So much of a yaw command is kept however little room there is: a craft that spins cannot be flown. */
const YAW_LEAST = 0.2;

/**
 * How rotors share throttle and turning commands. Where the room between idle and full is too small, yaw gives way
 * first, then all commands shrink together; the throttle moves so that roll and pitch keep what they ask for.
 * Nothing is allocated after it was made.
 */
export class RotorShare {
  /** Of each rotor, 0..1. */
  readonly duties: Float64Array;
  /** Part of a command was given up for want of room. */
  saturated = false;
  /** The least that turning asked of a rotor. */
  private lowest = 0;

  constructor(
    private readonly mixes: readonly RoleMix[],
    private readonly idle: number,
  ) {
    this.duties = new Float64Array(mixes.length);
  }

  share(k: TurnCommand): void {
    const d = this.duties;
    this.saturated = false;
    const room = 1 - this.idle;
    let spread = this.turnDemands(k, k.yaw);
    if (spread > room) {
      this.saturated = true;
      spread = this.turnDemands(k, k.yaw * this.yawThatFits(k, room));
    }
    const shrink = spread > room ? room / spread : 1;
    const base = clamp(k.throttle, this.idle - this.lowest * shrink, 1 - (this.lowest + spread) * shrink);
    for (let i = 0; i < d.length; i++) d[i] = clamp(base + d[i]! * shrink, this.idle, 1);
  }

  /** What turning asks of each rotor, into `duties`. Returns the spread between the most and the least. */
  private turnDemands(k: TurnCommand, yaw: number): number {
    const { mixes, duties } = this;
    let low = 0;
    let high = 0;
    for (let i = 0; i < mixes.length; i++) {
      const o = mixes[i]!;
      const m = o.roll * k.roll + o.pitch * k.pitch + o.yaw * yaw;
      duties[i] = m;
      if (m < low) low = m;
      if (m > high) high = m;
    }
    this.lowest = low;
    return high - low;
  }

  /** The greatest share of yaw for which no two rotors are asked to differ by more than the room, but some always. */
  private yawThatFits(k: TurnCommand, room: number): number {
    const { mixes } = this;
    let share = 1;
    for (let i = 0; i < mixes.length; i++) {
      const a = mixes[i]!;
      for (let j = 0; j < mixes.length; j++) {
        const b = mixes[j]!;
        const byYaw = (a.yaw - b.yaw) * k.yaw;
        if (byYaw <= 0) continue;
        const rest = room - (a.roll - b.roll) * k.roll - (a.pitch - b.pitch) * k.pitch;
        if (rest < share * byYaw) share = rest / byYaw;
      }
    }
    return Math.max(share, YAW_LEAST);
  }
}
