import type { Motor } from '../airframe/airframe.ts';
import { clamp } from '../math/scalar.ts';

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
  private readonly torqueConstant: number;
  private readonly inertia: number;
  private readonly d4: number;
  private readonly d5: number;
  omega = 0;
  thrust = 0;
  torque = 0;
  currentA = 0;
  propellerFitted = true;

  constructor(readonly motor: Motor) {
    this.curve = propellerCurve(motor.propDiameterM, motor.propPitchM);
    this.torqueConstant = 60 / (2 * Math.PI * motor.kvRpmPerV);
    const d = motor.propDiameterM;
    this.d4 = d ** 4;
    this.d5 = d ** 5;
    // Blade mass grows with the cube of the diameter; a thin rod about its middle, plus the bell.
    this.inertia = (1.6 * d ** 3 * d * d) / 12 + 4e-6;
  }

  /** @param duty 0..1. @param airspeed axial, m/s. @param rho kg/m^3 */
  step(duty: number, supplyV: number, airspeed: number, rho: number, dt: number): void {
    const back = this.omega * this.torqueConstant;
    const drive = (duty * supplyV - back) / this.motor.resistanceOhm;
    // A controller does not brake: below back-EMF the bridge is open and no current flows.
    const current = duty > 0.01 && drive > 0 ? Math.min(drive, this.motor.maxCurrentA) : 0;
    this.currentA = current * duty;
    const n = this.omega / (2 * Math.PI);
    const d = this.motor.propDiameterM;
    const advance = n > 0.5 ? Math.max(0, airspeed) / (n * d) : 0;
    let load = 0;
    if (this.propellerFitted && n > 0.5) {
      this.thrust = thrustCoefficient(this.curve, advance) * rho * n * n * this.d4;
      load = (powerCoefficient(this.curve, advance) * rho * n * n * this.d5) / (2 * Math.PI);
    } else {
      this.thrust = 0;
    }
    this.torque = load;
    const friction = n > 0.5 ? this.motor.idleCurrentA * this.torqueConstant : 0;
    const inertia = this.propellerFitted ? this.inertia : 4e-6;
    const accel = (current * this.torqueConstant - friction - load) / inertia;
    this.omega = Math.max(0, this.omega + clamp(accel, -20000, 20000) * dt);
  }
}
