import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { SEA_LEVEL_DENSITY } from '#core/flight/atmosphere.ts';
import type { FaultDevice, FaultKind } from '#core/formats/scenario.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { DEG, GRAVITY } from '#core/math/scalar.ts';
import type { NoReturn } from '#firmware/flightController.ts';
import type { FlyingCraft } from '../flyingCraft.ts';

/** Time between two looks, s. */
export const JUDGE_STEP_S = 0.02;
const NEVER = Number.POSITIVE_INFINITY;

/** Beyond these a craft is upset, rad and rad/s. */
const WING_ROLL = 82 * DEG;
const WING_PITCH = 58 * DEG;
const ROTOR_TILT = 70 * DEG;
const SPIN = 6.5;
/** So long upset, it is out of control; so long it must have been well again to be so anew, s. */
const UPSET_S = 0.6;
/** Behind the stall for this long it is stalled, s. */
const STALLED_S = 0.6;
/** Beliefs farther off than these are wrong: rad, m, m, share. */
const ATTITUDE_OFF = 15 * DEG;
const POSITION_OFF_M = 60;
const HEIGHT_OFF_M = 18;
const AIRSPEED_OFF = 0.3;
/** Terminals at less than this of the rested voltage cannot feed what is asked of them. */
const SAG = 0.75;
/** Nearer to the ground than this it is not counted against a flight until it has climbed away, m. */
const CLIMBED_M = 25;
/** The wind is averaged over this, s. */
const WIND_S = 30;
/** What is left of a swing's count each second, and from what rate and how many a second it is an oscillation. */
const SWING_KEEPS = 0.5;
const SWING_RATE = 40 * DEG;

const LANDING_PHASES: ReadonlySet<string> = new Set(['gate', 'final', 'flare', 'descending', 'down']);

/** Something that began at a moment, with its figure. */
class Since {
  atS = NEVER;
  value = 0;
  private heldFor = 0;

  constructor(private readonly afterS: number) {}

  /** True in the step in which it has lasted long enough for the first time. */
  look(on: boolean, value: number, seconds: number): boolean {
    if (this.atS < NEVER) return false;
    this.heldFor = on ? this.heldFor + JUDGE_STEP_S : 0;
    if (!on || this.heldFor < this.afterS) return false;
    this.atS = Math.max(0, seconds - this.heldFor);
    this.value = value;
    return true;
  }

  get happened(): boolean {
    return this.atS < NEVER;
  }
}

/**
 * Watches a flight from outside and keeps what a reason may rest on: upsets, stalls, wrong beliefs, power that was not
 * there, a wing that broke, each with its moment and figure. It says nothing of what follows.
 */
export class Evidence {
  /** Upset now, for so long, s; and since when first. */
  upsetFor = 0;
  readonly upset = new Since(UPSET_S);
  lastUpsetS = -NEVER;
  readonly stalled = new Since(STALLED_S);
  lastStallS = -NEVER;
  readonly attitudeOff = new Since(0.8);
  readonly positionOff = new Since(3);
  readonly heightOff = new Since(2);
  readonly airspeedOff = new Since(3);
  /** Least voltage over that at rest. */
  readonly sagged = new Since(1);
  /** Full throttle and yet sinking. */
  readonly weak = new Since(4);
  readonly limited = new Since(3);
  readonly burnt = new Since(0);
  readonly broken = new Since(0);
  readonly swinging = new Since(1.5);
  /** Greatest load, g. */
  loadG = 0;
  greatestAirspeed = 0;
  /** Of the attitude it believed, rad. */
  greatestAttitudeOff = 0;
  clearanceM = NEVER;
  climbed = false;
  greatestHeight = 0;
  /** Mean of the wind's strength over the last half minute, m/s. */
  wind = 0;
  /** On the way home: greatest of that over the speed the craft makes through the air. */
  windShare = 0;
  /** What kept the board from returning when it was to. */
  noReturn: NoReturn | null = null;
  noReturnAtS = NEVER;
  positionLostS = NEVER;
  imuLostS = NEVER;
  readonly faults: { readonly atS: number; readonly device: FaultDevice; readonly kind: FaultKind }[] = [];
  readonly rotors: boolean;
  readonly stall: number;
  private lastSign = 0;
  private swings = 0;

  constructor(
    private readonly craft: FlyingCraft,
    readonly airframe: Airframe,
    private readonly homeHeight: number,
  ) {
    this.rotors = isRotorcraft(airframe);
    this.stall = this.rotors ? 0 : stallSpeed(airframe);
  }

  fault(atS: number, device: FaultDevice, kind: FaultKind): void {
    this.faults.push({ atS, device, kind });
  }

  /** The last fault of a device that had not been mended by then. */
  faultOf(device: FaultDevice, beforeS: number): { atS: number; kind: FaultKind } | null {
    const last = this.faults.filter((f) => f.device === device && f.atS <= beforeS).at(-1);
    return last && last.kind !== 'none' ? last : null;
  }

  /** Upset or stalled within the last so many seconds. */
  nearUpset(nowS: number, within: number): boolean {
    return Math.max(this.lastUpsetS, this.lastStallS) > nowS - within;
  }

  /** Indicated airspeed that is true, m/s. */
  get indicated(): number {
    const { plant } = this.craft;
    return plant.airspeed * Math.sqrt(plant.density / SEA_LEVEL_DENSITY);
  }

  /** Looks once more, every 20 ms, in the air. */
  look(seconds: number): void {
    this.attitude(seconds);
    this.beliefs(seconds);
    this.power(seconds);
    const { plant } = this.craft;
    const c = this.craft.pfad.controller;
    const above = this.craft.aboveGround;
    if (above > CLIMBED_M) this.climbed = true;
    this.greatestHeight = Math.max(this.greatestHeight, plant.height - this.homeHeight);
    const landing = c.pilot === 'return' && LANDING_PHASES.has(c.home.phase);
    if (this.climbed && !landing && c.pilot !== 'glide' && c.pilot !== 'cut')
      this.clearanceM = Math.min(this.clearanceM, above);
    const w = this.craft.wind.velocity;
    this.wind += (JUDGE_STEP_S / WIND_S) * (Math.hypot(w[0]!, w[1]!) - this.wind);
    this.greatestAirspeed = Math.max(this.greatestAirspeed, plant.airspeed);
    if (
      c.lost.state === 'acting' &&
      c.pilot === 'glide' &&
      c.config.lostAction === 'return' &&
      !this.noReturn
    ) {
      this.noReturn = c.noReturn();
      this.noReturnAtS = seconds;
    }
    if (c.armed && c.homeSet && !c.position.usable && this.positionLostS === NEVER)
      this.positionLostS = seconds;
    if (!c.sensing.imuAlive && this.imuLostS === NEVER) this.imuLostS = seconds;
  }

  /** Begins the average where the craft is let go. */
  begin(): void {
    const w = this.craft.wind.velocity;
    this.wind = Math.hypot(w[0]!, w[1]!);
  }

  private attitude(seconds: number): void {
    const { plant } = this.craft;
    const roll = Math.abs(rollOf(plant.attitude));
    const pitch = Math.abs(pitchOf(plant.attitude));
    const w = plant.rates;
    const spin = Math.abs(w[2]!) > SPIN || Math.abs(w[0]!) > 1.6 * SPIN;
    const tilted = this.rotors
      ? Math.acos(Math.max(-1, Math.min(1, Math.cos(roll) * Math.cos(pitch)))) > ROTOR_TILT
      : roll > WING_ROLL || pitch > WING_PITCH;
    const on = tilted || spin;
    this.upsetFor = on ? this.upsetFor + JUDGE_STEP_S : 0;
    this.upset.look(on, Math.max(roll, pitch), seconds);
    if (this.upsetFor >= UPSET_S) this.lastUpsetS = seconds;
    if (!this.rotors) {
      const a = plant.airVelocity;
      const slow = this.indicated < 0.87 * this.stall;
      const steep = Math.atan2(a[2]!, Math.max(0.1, a[0]!)) > STALL_ANGLE;
      const behind = slow || steep;
      this.stalled.look(behind, this.indicated, seconds);
      this.stallFor = behind ? this.stallFor + JUDGE_STEP_S : 0;
      if (this.stallFor > STALLED_S) this.lastStallS = seconds;
    }
    const force = plant.specificForce;
    this.loadG = Math.max(this.loadG, Math.hypot(force[0]!, force[1]!, force[2]!) / GRAVITY);
    this.broken.look(plant.broken, plant.airspeed, seconds);
    // Swings: changes of sign of a fast roll or pitch rate.
    const rate = Math.abs(w[0]!) > Math.abs(w[1]!) ? w[0]! : w[1]!;
    const sign = rate > SWING_RATE ? 1 : rate < -SWING_RATE ? -1 : 0;
    this.swings *= 1 - (1 - SWING_KEEPS) * JUDGE_STEP_S;
    if (sign !== 0 && sign !== this.lastSign) {
      this.swings++;
      this.lastSign = sign;
    }
    this.swinging.look(this.swings > 4, this.swings, seconds);
  }

  private stallFor = 0;

  private beliefs(seconds: number): void {
    const { plant } = this.craft;
    const c = this.craft.pfad.controller;
    const off = tiltBetween(plant.attitude, c.attitude.attitude);
    this.greatestAttitudeOff = Math.max(this.greatestAttitudeOff, off);
    this.attitudeOff.look(off > ATTITUDE_OFF, off, seconds);
    const p = c.position;
    const apart = Math.hypot(
      p.north - c.home.homeNorth - plant.position[0]!,
      p.east - c.home.homeEast - plant.position[1]!,
    );
    if (c.homeSet) {
      this.positionOff.look(p.usable && apart > POSITION_OFF_M, apart, seconds);
      const height = p.height - c.home.homeHeight - (plant.height - this.homeHeight);
      this.heightOff.look(Math.abs(height) > HEIGHT_OFF_M, height, seconds);
    }
    if (!this.rotors && this.indicated > 4) {
      const share = c.airspeed / this.indicated - 1;
      this.airspeedOff.look(Math.abs(share) > AIRSPEED_OFF && this.upsetFor === 0, share, seconds);
    }
  }

  private power(seconds: number): void {
    const { plant } = this.craft;
    const c = this.craft.pfad.controller;
    const b = plant.battery;
    const share = b.voltage / Math.max(1, b.openV);
    this.sagged.look(share < SAG, share, seconds);
    const full = c.command.throttle > 0.97 * c.config.energy.maxThrottle;
    const sinking = plant.velocity[2]! > 0.3;
    this.weak.look(full && sinking && this.upsetFor === 0, -plant.velocity[2]!, seconds);
    let limited = false;
    let burnt = -1;
    for (let i = 0; i < plant.motors.length; i++) {
      if (plant.motors[i]!.limited) limited = true;
      if (plant.motors[i]!.burnt) burnt = i;
    }
    this.limited.look(limited, 0, seconds);
    this.burnt.look(burnt >= 0, burnt, seconds);
  }
}

/** Attack beyond which any wing of ours is stalled, rad. */
const STALL_ANGLE = 24 * DEG;

/** Angle between the two downs of two attitudes, rad. */
export function tiltBetween(a: ArrayLike<number>, b: ArrayLike<number>): number {
  // Rows of the matrix of a quaternion, the third one of each (Diebel 2006, 5.3); written out, since it is asked for all the time.
  const north = 4 * (a[1]! * a[3]! - a[0]! * a[2]!) * (b[1]! * b[3]! - b[0]! * b[2]!);
  const east = 4 * (a[2]! * a[3]! + a[0]! * a[1]!) * (b[2]! * b[3]! + b[0]! * b[1]!);
  const down = (1 - 2 * (a[1]! * a[1]! + a[2]! * a[2]!)) * (1 - 2 * (b[1]! * b[1]! + b[2]! * b[2]!));
  return Math.acos(Math.max(-1, Math.min(1, north + east + down)));
}
