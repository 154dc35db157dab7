import type { Motor } from '../airframe/airframe.ts';
import { clamp } from '../math/scalar.ts';
import { SEA_LEVEL_DENSITY } from './atmosphere.ts';

/**
 * Coefficients of a fixed-pitch propeller from pitch over diameter: straight line for thrust, parabola for
 * power, fitted by us to the general run of small two-blade propellers (compare Brandt and Selig 2011).
 */
export interface PropellerCurve {
  readonly thrust0: number;
  readonly power0: number;
  /** Advance ratio of zero thrust. */
  readonly advanceZero: number;
}

export function propellerCurve(diameterM: number, pitchM: number): PropellerCurve {
  const ratio = clamp(pitchM / diameterM, 0.2, 1.4);
  return { thrust0: 0.03 + 0.105 * ratio, power0: 0.011 + 0.052 * ratio, advanceZero: 0.12 + 1.0 * ratio };
}

/** C_T at advance ratio J = V/(n D). Windmilling thrust is bounded at a fifth of the static one. */
export function thrustCoefficient(curve: PropellerCurve, advance: number): number {
  return Math.max(-0.2 * curve.thrust0, curve.thrust0 * (1 - advance / curve.advanceZero));
}

/** C_P at advance ratio J. */
export function powerCoefficient(curve: PropellerCurve, advance: number): number {
  const x = clamp(advance / curve.advanceZero, 0, 1.3);
  return curve.power0 * Math.max(0.05, 1 + 0.15 * x - 0.85 * x * x);
}

/**
 * One motor with its propeller. The shaft speed is integrated from motor torque (I - I_0)/K_v less propeller
 * torque C_P rho n^2 D^5/(2 pi), rather than solved each step: the same steady speed, with its real lag.
 */
export class MotorUnit {
  readonly curve: PropellerCurve;
  /** V per rad/s, and N m per A. */
  readonly torqueConstant: number;
  /** Of bell and propeller about the shaft, kg m^2. */
  readonly inertia: number;
  readonly d4: number;
  readonly d5: number;
  private readonly discArea: number;
  /** Copied from the motor: read in every step. */
  private readonly resistanceOhm: number;
  private readonly idleCurrentA: number;
  private readonly maxCurrentA: number;
  readonly diameterM: number;
  /** Shaft speed, rad/s. */
  omega = 0;
  thrust = 0;
  /** What the air takes from the propeller, and what the motor gives it less friction, N m. */
  torque = 0;
  drive = 0;
  currentA = 0;
  /** What the disc adds to the air far behind it, m/s: sqrt(V^2 + 2 T/(rho A)) - V (momentum theory). */
  wake = 0;
  propellerFitted = true;
  private duty = 0;
  private supplyV = 0;
  private airspeed = 0;
  private rho = SEA_LEVEL_DENSITY;

  constructor(readonly motor: Motor) {
    this.curve = propellerCurve(motor.propDiameterM, motor.propPitchM);
    this.torqueConstant = 60 / (2 * Math.PI * motor.kvRpmPerV);
    this.resistanceOhm = motor.resistanceOhm;
    this.idleCurrentA = motor.idleCurrentA;
    this.maxCurrentA = motor.maxCurrentA;
    const d = motor.propDiameterM;
    this.diameterM = d;
    this.d4 = d ** 4;
    this.d5 = d ** 5;
    this.discArea = (Math.PI * d * d) / 4;
    // Blade mass grows with the cube of the diameter; a thin rod about its middle, plus the bell.
    this.inertia = (1.3 * d ** 3 * d * d) / 12 + BELL_INERTIA;
  }

  /**
   * What acts on it from now on. Apart from `step`, since a call that is too large to be put in line would put its
   * numbers on the heap each time.
   * @param duty 0..1. @param airspeed axial, m/s. @param rho kg/m^3
   */
  meet(duty: number, supplyV: number, airspeed: number, rho: number): void {
    this.duty = duty;
    this.supplyV = supplyV;
    this.airspeed = airspeed;
    this.rho = rho;
  }

  /** One step of dt seconds under what `meet` was told. */
  step(dt: number): void {
    const { duty, rho } = this;
    const back = this.omega * this.torqueConstant;
    const drive = (duty * this.supplyV - back) / this.resistanceOhm;
    // A controller does not brake: below back-EMF the bridge is open and no current flows.
    const limit = this.maxCurrentA;
    const current = duty > 0.01 && drive > 0 ? Math.min(drive, limit) : 0;
    this.currentA = current * duty;
    const n = this.omega / (2 * Math.PI);
    const turning = n > 0.5;
    if (this.propellerFitted && turning) {
      const forward = Math.max(this.airspeed, 0);
      const advance = forward / (n * this.diameterM);
      const head = rho * n * n;
      this.thrust = thrustCoefficient(this.curve, advance) * head * this.d4;
      this.torque = (powerCoefficient(this.curve, advance) * head * this.d5) / (2 * Math.PI);
      const under = forward * forward + (2 * this.thrust) / (rho * this.discArea);
      this.wake = this.thrust > 0 ? Math.sqrt(under) - forward : 0;
    } else {
      this.thrust = 0;
      this.torque = 0;
      this.wake = 0;
    }
    const friction = turning ? this.idleCurrentA * this.torqueConstant : 0;
    this.drive = current * this.torqueConstant - friction;
    const accel = (this.drive - this.torque) / (this.propellerFitted ? this.inertia : BELL_INERTIA);
    const next = this.omega + (accel > 20000 ? 20000 : Math.max(accel, -20000)) * dt;
    this.omega = Math.max(next, 0);
  }

  /** Runs to the steady speed at a duty: for starting values, not for flight. */
  settle(duty: number, supplyV: number, airspeed: number, rho: number): void {
    this.meet(duty, supplyV, airspeed, rho);
    for (let k = 0; k < 1500; k++) this.step(0.001);
  }
}

/** Bell and shaft of a small outrunner, kg m^2. */
const BELL_INERTIA = 4e-6;
