import { integrate, pitchOf, type Quat, quat, rollOf, setEuler, toBody, yawOf } from '../math/quaternion.ts';
import { clamp, GRAVITY, wrapPi } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';
import type { Estimate } from './health.ts';

/** What else is known of the motion. Kept and changed in place by the caller. */
export interface AttitudeAids {
  /** Through the air along the nose, m/s; 0 when unknown. */
  airspeed: number;
  /** Acceleration over ground, earth axes, m/s^2; 0 when unknown. */
  accelNorth: number;
  accelEast: number;
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
/** m/s^2 */
const HARD_PUSH = 4;
/** Gyro above this is motion, not bias, rad/s. */
const BIAS_MOST = 0.12;

/**
 * Attitude by complementary filter with gyro bias (Mahony, Hamel, Pflimlin 2008, explicit form), the
 * accelerometer freed of the turn's centripetal share w x v and of known acceleration over ground. Yaw follows
 * the heading it is given.
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
    accelNorth: 0,
    accelEast: 0,
    heading: Number.NaN,
    headingGain: 0.4,
    still: false,
    levelGain: 0.35,
  };
  private readonly bias: Vec3 = new Float64Array(3);
  private readonly down: Vec3 = new Float64Array(3);
  private readonly push: Vec3 = new Float64Array(3);
  private started = false;
  private age = 0;
  private lastSpeed = 0;
  private speedRate = 0;
  private unaided = 0;
  private tick = 0;
  private readonly turn: Vec3 = new Float64Array(3);
  private readonly turned: Vec3 = new Float64Array(3);

  /** @param dt s between two steps */
  constructor(private readonly dt: number) {}

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
    if (this.tick++ % CORRECT_EVERY === 0) this.correct(gyro, accel, CORRECT_EVERY * dt);
    const t = this.turn;
    const turned = this.turned;
    for (let i = 0; i < 3; i++) turned[i] = w[i]! + t[i]!;
    integrate(this.attitude, turned, dt);
  }

  /** Works out how to turn towards what accelerometer and heading say, a quarter as often as the gyros are read. */
  private correct(gyro: Vec3, accel: Vec3, dt: number): void {
    const aids = this.aids;
    const w = this.rates;
    const b = this.bias;
    this.roll = rollOf(this.attitude);
    this.pitch = pitchOf(this.attitude);
    this.yaw = yawOf(this.attitude);
    const speed = aids.airspeed;
    this.speedRate += (dt / 0.6) * ((speed - this.lastSpeed) / dt - this.speedRate);
    this.lastSpeed = speed;
    const a = this.push;
    a[0] = aids.accelNorth;
    a[1] = aids.accelEast;
    a[2] = 0;
    toBody(a, this.attitude, a);
    // Specific force less the motion's own acceleration points up; down is its opposite.
    const fx = accel[0]! - clamp(this.speedRate, -6, 6) - a[0]!;
    const fy = accel[1]! - w[2]! * speed - a[1]!;
    const fz = accel[2]! + w[1]! * speed - a[2]!;
    const size = Math.sqrt(fx * fx + fy * fy + fz * fz);
    const d = this.down;
    d[0] = 0;
    d[1] = 0;
    d[2] = 1;
    toBody(d, this.attitude, d);
    let ex = 0;
    let ey = 0;
    let ez = 0;
    if (size > 0.5 * GRAVITY && size < 1.6 * GRAVITY) {
      // error = measured down x estimated down
      const mx = -fx / size;
      const my = -fy / size;
      const mz = -fz / size;
      ex = my * d[2]! - mz * d[1]!;
      ey = mz * d[0]! - mx * d[2]!;
      ez = mx * d[1]! - my * d[0]!;
      this.unaided = 0;
    } else this.unaided += dt;
    const settling = this.age < SETTLING_S;
    // A hard push along the nose is a launch or a burst of power more than it is gravity.
    const hard = accel[0]! / HARD_PUSH;
    const gain = settling ? 4 : aids.still ? 1 : aids.levelGain / (1 + hard * hard);
    if (aids.still) {
      const k = dt / 1.5;
      for (let i = 0; i < 3; i++) b[i] = clamp(b[i]! + k * (gyro[i]! - b[i]!), -BIAS_MOST, BIAS_MOST);
    } else if (!settling) {
      const k = 0.03 * gain * dt;
      b[0] = clamp(b[0]! - k * ex, -BIAS_MOST, BIAS_MOST);
      b[1] = clamp(b[1]! - k * ey, -BIAS_MOST, BIAS_MOST);
    }
    const known = !Number.isNaN(aids.heading);
    const off = known ? wrapPi(aids.heading - this.yaw) : 0;
    const turn = aids.headingGain * off;
    // A heading that keeps running away tells the bias about the vertical, which gravity cannot.
    if (known && !aids.still && Math.abs(off) < 0.5) {
      const k = 0.02 * turn * dt;
      for (let i = 0; i < 3; i++) b[i] = clamp(b[i]! - k * d[i]!, -BIAS_MOST, BIAS_MOST);
    }
    this.turn[0] = gain * ex + turn * d[0]!;
    this.turn[1] = gain * ey + turn * d[1]!;
    this.turn[2] = gain * ez + turn * d[2]!;
    const error = Math.sqrt(ex * ex + ey * ey + ez * ez);
    const e = this.estimate;
    e.accuracy += (dt / 3) * (0.01 + error + 0.002 * this.unaided - e.accuracy);
    e.health = this.unaided > 20 ? 'lost' : e.accuracy > 0.25 || this.unaided > 5 ? 'degraded' : 'good';
  }

  private start(accel: Vec3, aids: AttitudeAids): void {
    this.started = true;
    const ax = accel[0]!;
    const ay = accel[1]!;
    const az = accel[2]!;
    const yaw = Number.isNaN(aids.heading) ? 0 : aids.heading;
    setEuler(this.attitude, Math.atan2(-ay, -az), Math.atan2(ax, Math.sqrt(ay * ay + az * az)), yaw);
    this.lastSpeed = aids.airspeed;
  }

  /** Sets yaw at once, keeping roll and pitch: when a heading becomes known for the first time. */
  setYaw(yaw: number): void {
    setEuler(this.attitude, rollOf(this.attitude), pitchOf(this.attitude), yaw);
    this.yaw = yaw;
  }
}
