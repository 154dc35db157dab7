import { integrate, pitchOf, type Quat, quat, rollOf, setEuler, toBody, yawOf } from '../math/quaternion.ts';
import { clamp, GRAVITY, wrapPi } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';

/**
 * Attitude by complementary filter with gyro bias (Mahony, Hamel, Pflimlin 2008, explicit form), the
 * accelerometer freed of the turn's centripetal share w x v. Yaw follows the course over ground once it moves.
 */
export class AttitudeEstimator {
  readonly attitude: Quat = quat();
  roll = 0;
  pitch = 0;
  yaw = 0;
  /** Body rates without bias, rad/s. */
  readonly rates: Vec3 = new Float64Array(3);
  private readonly bias: Vec3 = new Float64Array(3);
  private readonly down: Vec3 = new Float64Array(3);
  private started = false;
  private age = 0;
  private lastSpeed = 0;
  private speedRate = 0;

  /**
   * @param gyro rad/s, body. @param accel specific force, m/s^2, body
   * @param airspeed m/s, 0 when unknown. @param course rad, or NaN while there is none
   */
  step(gyro: Vec3, accel: Vec3, airspeed: number, course: number, dt: number): void {
    if (!this.started) {
      this.started = true;
      const ax = accel[0]!;
      const ay = accel[1]!;
      const az = accel[2]!;
      setEuler(this.attitude, Math.atan2(-ay, -az), Math.atan2(ax, Math.sqrt(ay * ay + az * az)), 0);
      this.lastSpeed = airspeed;
    }
    this.age += dt;
    const w = this.rates;
    const b = this.bias;
    w[0] = gyro[0]! - b[0]!;
    w[1] = gyro[1]! - b[1]!;
    w[2] = gyro[2]! - b[2]!;
    this.speedRate += (dt / 0.6) * ((airspeed - this.lastSpeed) / dt - this.speedRate);
    this.lastSpeed = airspeed;
    // Specific force less the motion's own acceleration points up; down is its opposite.
    const fx = accel[0]! - clamp(this.speedRate, -6, 6);
    const fy = accel[1]! - w[2]! * airspeed;
    const fz = accel[2]! + w[1]! * airspeed;
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
    }
    const gain = this.age < 3 ? 4 : 0.35;
    if (this.age > 3) {
      b[0] = clamp(b[0]! - 0.01 * ex * dt, -0.1, 0.1);
      b[1] = clamp(b[1]! - 0.01 * ey * dt, -0.1, 0.1);
    }
    let turn = 0;
    if (!Number.isNaN(course)) turn = 0.4 * wrapPi(course - this.yaw);
    integrate(
      this.attitude,
      w[0]! + gain * ex + turn * d[0]!,
      w[1]! + gain * ey + turn * d[1]!,
      w[2]! + gain * ez + turn * d[2]!,
      dt,
    );
    this.roll = rollOf(this.attitude);
    this.pitch = pitchOf(this.attitude);
    this.yaw = yawOf(this.attitude);
  }
}
