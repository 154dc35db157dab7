import { integrate, pitchOf, type Quat, quat, rollOf, setEuler, toBody, yawOf } from '../math/quaternion.ts';
import { clamp, GRAVITY, wrapPi } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';
import type { Estimate } from './health.ts';

/** What else is known of the motion. Kept and changed in place by the caller. */
export interface AttitudeAids {
  /** Through the air along the nose, m/s; 0 when unknown. */
  airspeed: number;
  /**
   * Rotation about north and east that would bring the felt force into line with the change of the velocity over
   * ground, rad: the attitude's own error with its sign turned, free of any guess about turns or slip.
   */
  tiltNorth: number;
  tiltEast: number;
  /** The same about down, rad, and how much it says, 0..1: only a push across tells which way the nose points. */
  tiltDown: number;
  tiltDownShare: number;
  /** How old that is, s; infinite without. */
  tiltAge: number;
  /** How much less it is trusted than a receiver at its best, 1 and more. */
  tiltDoubt: number;
  /** Heading from compass or course, rad; NaN while there is none. */
  heading: number;
  /** How fast yaw follows it, 1/s. */
  headingGain: number;
  /** Standing still on the ground: what the gyros show now is their bias. */
  still: boolean;
  /** How fast the accelerometer corrects the horizon in flight, 1/s. */
  levelGain: number;
}

const SETTLING_S = 3;
const CORRECT_EVERY = 4;
/** Time over which the felt force is smoothed before anything is made of it: shake must not be rectified, s. */
const SMOOTH_S = 0.12;
/** An answer of the velocity serves this long, s; with it the accelerometer alone is hardly asked. */
const TILT_SERVES_S = 1.2;
const TILT_GAIN = 0.3;
const ACCEL_SHARE_WITH_TILT = 0.02;
const SLOWER_IN_TURNS = 0.75;
const YAW_GAIN = 0.5;
/** The course keeps this share at least: without it nothing would hold the heading in an endless turn. */
const COURSE_LEAST = 0.1;
/** The bound of a filter at its best, and what an accelerometer alone leaves unknown in flight, rad. */
const LEAST_BOUND = 0.05;
/** What a turn adds to it: the heading enters then. */
const TURN_BOUND = 0.035;
const BLIND_OFF = 0.12;
/** m/s^2 */
const HARD_PUSH = 4;
/** Gyro above this is motion, not bias, rad/s. */
const BIAS_MOST = 0.12;

/**
 * Attitude by complementary filter with gyro bias (Mahony, Hamel, Pflimlin 2008, explicit form), the
 * accelerometer freed of the turn's centripetal share w x v. Where the velocity over ground is known, the felt force is
 * held against its change instead, which no slip, tilt or speeding up can fool. Yaw follows the heading it is given.
 */
export class AttitudeEstimator {
  readonly attitude: Quat = quat();
  roll = 0;
  pitch = 0;
  yaw = 0;
  /** Body rates without bias, rad/s. */
  readonly rates: Vec3 = new Float64Array(3);
  /** rad */
  readonly estimate: Estimate = { health: 'good', accuracy: 0.1 };
  readonly aids: AttitudeAids = {
    airspeed: 0,
    tiltNorth: 0,
    tiltEast: 0,
    tiltDown: 0,
    tiltDownShare: 0,
    tiltAge: Number.POSITIVE_INFINITY,
    tiltDoubt: 1,
    heading: Number.NaN,
    headingGain: 0.4,
    still: false,
    levelGain: 0.35,
  };
  private readonly bias: Vec3 = new Float64Array(3);
  private readonly down: Vec3 = new Float64Array(3);
  private readonly push: Vec3 = new Float64Array(3);
  /** The felt force, smoothed. */
  private readonly felt: Vec3 = new Float64Array(3);
  private offSquare = 0;
  private tumble = 0;
  private started = false;
  private age = 0;
  private lastSpeed = 0;
  private speedRate = 0;
  private unaided = 0;
  private tick = 0;
  private readonly turn: Vec3 = new Float64Array(3);
  private readonly turned: Vec3 = new Float64Array(3);
  private readonly smooth: number;

  /** @param dt s between two steps */
  constructor(private readonly dt: number) {
    this.smooth = 1 - Math.exp(-dt / SMOOTH_S);
  }

  /** @param gyro rad/s, body. @param accel specific force, m/s^2, body */
  step(gyro: Vec3, accel: Vec3): void {
    const { dt } = this;
    const aids = this.aids;
    if (!this.started) this.start(accel, aids);
    this.age += dt;
    const w = this.rates;
    const b = this.bias;
    w[0] = gyro[0]! - b[0]!;
    w[1] = gyro[1]! - b[1]!;
    w[2] = gyro[2]! - b[2]!;
    const f = this.felt;
    const k = this.smooth;
    f[0]! += k * (accel[0]! - f[0]!);
    f[1]! += k * (accel[1]! - f[1]!);
    f[2]! += k * (accel[2]! - f[2]!);
    if (this.tick++ % CORRECT_EVERY === 0) this.correct(gyro, CORRECT_EVERY * dt);
    const t = this.turn;
    const turned = this.turned;
    for (let i = 0; i < 3; i++) turned[i] = w[i]! + t[i]!;
    integrate(this.attitude, turned, dt);
  }

  /** Works out how to turn towards what accelerometer and heading say, a quarter as often as the gyros are read. */
  private correct(gyro: Vec3, dt: number): void {
    const aids = this.aids;
    const w = this.rates;
    const b = this.bias;
    const felt = this.felt;
    this.roll = rollOf(this.attitude);
    this.pitch = pitchOf(this.attitude);
    this.yaw = yawOf(this.attitude);
    const speed = aids.airspeed;
    this.speedRate += (dt / 0.6) * ((speed - this.lastSpeed) / dt - this.speedRate);
    this.lastSpeed = speed;
    // Specific force less the motion's own acceleration points up; down is its opposite.
    const fx = felt[0]! - clamp(this.speedRate, -6, 6);
    const fy = felt[1]! - w[2]! * speed;
    const fz = felt[2]! + w[1]! * speed;
    const size = Math.sqrt(fx * fx + fy * fy + fz * fz);
    const d = this.down;
    d[0] = 0;
    d[1] = 0;
    d[2] = 1;
    toBody(d, this.attitude, d);
    let ex = 0;
    let ey = 0;
    let ez = 0;
    const plausible = size > 0.5 * GRAVITY && size < 1.6 * GRAVITY;
    if (plausible) {
      // error = measured down x estimated down
      const mx = -fx / size;
      const my = -fy / size;
      const mz = -fz / size;
      ex = my * d[2]! - mz * d[1]!;
      ey = mz * d[0]! - mx * d[2]!;
      ez = mx * d[1]! - my * d[0]!;
    }
    const settling = this.age < SETTLING_S;
    aids.tiltAge += dt;
    const moving = !settling && !aids.still && aids.tiltAge < TILT_SERVES_S;
    // A hard push along the nose is a launch or a burst of power more than it is gravity.
    const hard = felt[0]! / HARD_PUSH;
    let gain = settling ? 4 : aids.still ? 1 : aids.levelGain / (1 + hard * hard);
    const v = this.push;
    v.fill(0);
    let doubt = 1;
    if (moving) {
      doubt = aids.tiltDoubt;
      // As much as the velocity is doubted, the accelerometer is asked again.
      gain *= 1 - (1 - ACCEL_SHARE_WITH_TILT) / doubt;
      // In a turn a wrong heading looks like a tilt that goes round with it: a slow hand does not follow it.
      const hand = (TILT_GAIN * (1 - SLOWER_IN_TURNS * aids.tiltDownShare)) / doubt;
      v[0] = hand * aids.tiltNorth;
      v[1] = hand * aids.tiltEast;
      toBody(v, this.attitude, v);
    }
    if (plausible || moving) this.unaided = 0;
    else this.unaided += dt;
    ex = gain * ex + v[0]!;
    ey = gain * ey + v[1]!;
    ez = gain * ez + v[2]!;
    if (aids.still) {
      const k = dt / 1.5;
      for (let i = 0; i < 3; i++) b[i] = clamp(b[i]! + k * (gyro[i]! - b[i]!), -BIAS_MOST, BIAS_MOST);
    } else if (!settling) {
      const k = 0.03 * dt;
      b[0] = clamp(b[0]! - k * ex, -BIAS_MOST, BIAS_MOST);
      b[1] = clamp(b[1]! - k * ey, -BIAS_MOST, BIAS_MOST);
    }
    const known = !Number.isNaN(aids.heading);
    const off = known ? wrapPi(aids.heading - this.yaw) : 0;
    // In a turn the nose need not point where the craft goes; the push across tells which way it does.
    const share = moving ? ((1 - COURSE_LEAST) * aids.tiltDownShare) / doubt : 0;
    const turn = (1 - share) * aids.headingGain * off + share * YAW_GAIN * aids.tiltDown;
    // A heading that keeps running away tells the bias about the vertical, which gravity cannot.
    if ((known || share > 0) && !aids.still && Math.abs(off) < 0.5) {
      const k = 0.02 * turn * dt;
      for (let i = 0; i < 3; i++) b[i] = clamp(b[i]! - k * d[i]!, -BIAS_MOST, BIAS_MOST);
    }
    this.turn[0] = ex + turn * d[0]!;
    this.turn[1] = ey + turn * d[1]!;
    this.turn[2] = ez + turn * d[2]!;
    this.judge(moving, aids, Math.sqrt(w[0]! * w[0]! + w[1]! * w[1]! + w[2]! * w[2]!), dt);
  }

  /**
   * How far off it may be: two sigmas of what is left between felt and known motion, as far as the filter lets it
   * through, and what the gyros drift while nothing corrects them.
   */
  private judge(moving: boolean, aids: AttitudeAids, spin: number, dt: number): void {
    const off2 = moving
      ? aids.tiltNorth * aids.tiltNorth + aids.tiltEast * aids.tiltEast
      : BLIND_OFF * BLIND_OFF;
    this.offSquare += (dt / 6) * (Math.min(off2, 0.3) - this.offSquare);
    this.tumble = Math.max(this.tumble - dt / 8, Math.min(0.5, 0.02 * Math.max(0, spin - 3)));
    const e = this.estimate;
    const turning = moving ? TURN_BOUND * aids.tiltDownShare : 0;
    const bound =
      LEAST_BOUND + turning + 0.5 * Math.sqrt(this.offSquare) + this.tumble + 0.006 * this.unaided;
    e.accuracy += (dt / 1) * (Math.min(bound, Math.PI) - e.accuracy);
    e.health = this.unaided > 20 ? 'lost' : e.accuracy > 0.3 || this.unaided > 5 ? 'degraded' : 'good';
  }

  private start(accel: Vec3, aids: AttitudeAids): void {
    this.started = true;
    const ax = accel[0]!;
    const ay = accel[1]!;
    const az = accel[2]!;
    const yaw = Number.isNaN(aids.heading) ? 0 : aids.heading;
    setEuler(this.attitude, Math.atan2(-ay, -az), Math.atan2(ax, Math.sqrt(ay * ay + az * az)), yaw);
    this.lastSpeed = aids.airspeed;
    this.felt.set(accel);
  }

  /** Sets yaw at once, keeping roll and pitch: when a heading becomes known for the first time. */
  setYaw(yaw: number): void {
    setEuler(this.attitude, rollOf(this.attitude), pitchOf(this.attitude), yaw);
    this.yaw = yaw;
  }
}
