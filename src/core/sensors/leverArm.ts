import { LowPass } from '../control/lowPass.ts';

/** Turn acceleration is a difference of noisy rates; above this it is left out, Hz. */
const TURNING_HZ = 15;

/**
 * What an accelerometer feels more for lying away from the centre of gravity: w' x r + w x (w x r), m/s^2.
 * Body axes, rad/s, rad/s^2, m; the acceleration of a point of a rigid body.
 */
export function leverAcceleration(
  out: Float64Array,
  w: ArrayLike<number>,
  turning: ArrayLike<number>,
  r: readonly [number, number, number],
): void {
  const p = w[0]!;
  const q = w[1]!;
  const s = w[2]!;
  const x = r[0];
  const y = r[1];
  const z = r[2];
  const along = p * x + q * y + s * z;
  const square = p * p + q * q + s * s;
  out[0] = turning[1]! * z - turning[2]! * y + p * along - x * square;
  out[1] = turning[2]! * x - turning[0]! * z + q * along - y * square;
  out[2] = turning[0]! * y - turning[1]! * x + s * along - z * square;
}

/** Takes that out of what was measured, with the turn acceleration from the rates themselves. */
export class LeverArm {
  private readonly turning = new Float64Array(3);
  private readonly more = new Float64Array(3);
  private readonly before = new Float64Array(3);
  private readonly filters: readonly [LowPass, LowPass, LowPass];

  /** @param r accelerometer from the centre of gravity: forward, right, down, m */
  constructor(
    private readonly r: readonly [number, number, number],
    private readonly dt: number,
  ) {
    const low = () => new LowPass(TURNING_HZ, dt);
    this.filters = [low(), low(), low()];
  }

  get isNone(): boolean {
    return this.r[0] === 0 && this.r[1] === 0 && this.r[2] === 0;
  }

  /** Corrects `accel` in place. */
  correct(accel: Float64Array, gyro: Float64Array): void {
    for (let i = 0; i < 3; i++) {
      const now = this.filters[i]!.step(gyro[i]!);
      this.turning[i] = (now - this.before[i]!) / this.dt;
      this.before[i] = now;
    }
    leverAcceleration(this.more, gyro, this.turning, this.r);
    for (let i = 0; i < 3; i++) accel[i]! -= this.more[i]!;
  }
}
