import type { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { multiply, type Quat, quat, setEuler, setTurn, toBody } from '#core/math/quaternion.ts';
import { DEG, wrapPi } from '#core/math/scalar.ts';
import { leverAcceleration } from '#core/sensors/leverArm.ts';
import type { ImuReading } from '#firmware/readings.ts';
import type { Around } from '../around.ts';
import { Device } from './device.ts';

/** Noise of one sample at 1 kHz: rad/s and m/s^2 (0.007 deg/s and 0.4 mg per root Hz). */
const GYRO_NOISE = 0.004;
const ACCEL_NOISE = 0.12;
const GYRO_BIAS = 0.004;
const ACCEL_BIAS = 0.04;
/** Bias that a cold chip starts with and loses as it warms, rad/s and s. */
const COLD_BIAS = 0.006;
const WARM_UP_S = 90;
const MISALIGNED = 0.4 * DEG;
/** Shake that an unbalanced propeller makes at the board, rad/s and m/s^2 at full speed of its motor. */
const SHAKE_GYRO = 0.25;
const SHAKE_ACCEL = 4;
/** Shaft speed at which the shake above holds, rad/s. */
const SHAKE_SPEED = 1500;
const DRIFT_STEPS = 256;

/**
 * Gyro and accelerometer: bias with warm-up drift, misalignment, noise, and the shake of motors and blades at
 * once and twice their speed. Board axes.
 */
export class Imu extends Device {
  private readonly bias = new Float64Array(3);
  private readonly drift = new Float64Array(3);
  private readonly now = new Float64Array(3);
  private readonly accelBias = new Float64Array(3);
  private readonly accelScale = new Float64Array(3);
  private readonly chip: Quat = quat();
  private readonly mount: Quat = quat();
  private readonly phases: Float64Array;
  private readonly unbalance: Float64Array;
  /** How cold it still is, 1 as it was taken out of the cold, 0 as warm as it gets. */
  private coldness = 1;
  private tick = 0;
  private readonly before = new Float64Array(3);
  private readonly turning = new Float64Array(3);
  private readonly more = new Float64Array(3);

  constructor(
    seed: number,
    private readonly plant: Plant,
    private readonly out: ImuReading,
    /** How much worse than the first make its noise and bias are. */
    private readonly grade: number,
    /** Where it lies from the centre of gravity: forward, right, down, m; null for there. */
    private readonly at: readonly [number, number, number] | null,
    mount: { readonly rollDeg: number; readonly pitchDeg: number; readonly yawDeg: number },
    /** How the chip is turned on the board, and its own error. */
    chip: { readonly yawDeg: number; readonly error: BenchTruth['accels'][number] | undefined },
    private readonly around: Around,
  ) {
    super(seed);
    const n = this.noise;
    for (let i = 0; i < 3; i++) {
      this.bias[i] = grade * GYRO_BIAS * n.next();
      this.drift[i] = COLD_BIAS * n.next();
      this.accelBias[i] = ACCEL_BIAS * n.next();
    }
    setEuler(
      this.mount,
      mount.rollDeg * DEG + MISALIGNED * n.next(),
      mount.pitchDeg * DEG + MISALIGNED * n.next(),
      mount.yawDeg * DEG + MISALIGNED * n.next(),
    );
    setTurn(this.chip, 0, 0, chip.yawDeg * DEG);
    multiply(this.mount, Float64Array.from(this.mount), this.chip);
    for (let i = 0; i < 3; i++) {
      this.accelBias[i]! += chip.error?.offset[i] ?? 0;
      this.accelScale[i] = 1 / (chip.error?.scale[i] ?? 1);
    }
    this.phases = Float64Array.from(plant.motors, (_, i) => i);
    this.unbalance = Float64Array.from(plant.motors, () => 0.6 + 0.3 * Math.abs(n.next()));
  }

  step(dt: number): void {
    const turn = this.turn();
    if (turn === 'nothing') return;
    this.out.samples++;
    if (turn === 'repeat') return;
    if (this.tick++ % DRIFT_STEPS === 0) {
      const to = this.around.cold ? 1 : 0;
      for (let i = 0; i < 3; i++) this.now[i] = this.bias[i]! + this.coldness * this.drift[i]!;
      this.coldness += ((to - this.coldness) * DRIFT_STEPS * dt) / WARM_UP_S;
    }
    let shake = 0;
    let push = 0;
    const motors = this.plant.motors;
    for (let i = 0; i < motors.length; i++) {
      const speed = motors[i]!.omega;
      if (speed < 30) continue;
      // Kept near zero: sine and cosine of thousands of turns take five times as long.
      const phase = wrapPi(this.phases[i]! + speed * dt);
      this.phases[i] = phase;
      const share = speed / SHAKE_SPEED;
      const s = Math.sin(phase);
      const c = Math.cos(phase);
      const size = this.unbalance[i]! * share * share;
      // Once a turn from the unbalance, twice from the two blades.
      shake += size * (s + 0.8 * s * c);
      push += size * (c + 0.8 * (c * c - s * s));
    }
    const { gyro, accel } = this.out;
    const p = this.plant;
    const loud = this.loudness;
    const n = this.noise;
    gyro[0] = p.rates[0]!;
    gyro[1] = p.rates[1]!;
    gyro[2] = p.rates[2]!;
    toBody(gyro, this.mount, gyro);
    accel[0] = p.specificForce[0]!;
    accel[1] = p.specificForce[1]!;
    accel[2] = p.specificForce[2]!;
    if (this.at) this.lever(this.at, dt);
    toBody(accel, this.mount, accel);
    const gn = GYRO_NOISE * loud * this.grade;
    const an = ACCEL_NOISE * loud * this.grade;
    const k = n.six();
    const { normals } = n;
    gyro[0]! += this.now[0]! + SHAKE_GYRO * shake + gn * normals[k]!;
    gyro[1]! += this.now[1]! + 0.8 * SHAKE_GYRO * shake + gn * normals[k + 1]!;
    gyro[2]! += this.now[2]! + 0.3 * SHAKE_GYRO * push + gn * normals[k + 2]!;
    const scale = this.accelScale;
    accel[0]! *= scale[0]!;
    accel[1]! *= scale[1]!;
    accel[2]! *= scale[2]!;
    accel[0]! += this.accelBias[0]! + 0.4 * SHAKE_ACCEL * push + an * normals[k + 3]!;
    accel[1]! += this.accelBias[1]! + SHAKE_ACCEL * push + an * normals[k + 4]!;
    accel[2]! += this.accelBias[2]! + SHAKE_ACCEL * shake + an * normals[k + 5]!;
  }

  /** Away from the centre of gravity every turn is felt as a push. */
  private lever(at: readonly [number, number, number], dt: number): void {
    const { rates } = this.plant;
    for (let i = 0; i < 3; i++) {
      this.turning[i] = (rates[i]! - this.before[i]!) / dt;
      this.before[i] = rates[i]!;
    }
    leverAcceleration(this.more, rates, this.turning, at);
    for (let i = 0; i < 3; i++) this.out.accel[i]! += this.more[i]!;
  }
}
