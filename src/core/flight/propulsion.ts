import type { Motor } from '../airframe/airframe.ts';
import { clamp } from '../math/scalar.ts';
import { SEA_LEVEL_DENSITY } from './atmosphere.ts';

/** kg of motor and its controller per ampere they carry, and the share of that which is the motor: ours, of small outrunners. */
export const DRIVE_KG_PER_A = 0.0021;
const MOTOR_SHARE = 0.65;

/**
 * Mass of a two-blade propeller, kg: a power law through what is sold from 3 to 16 inches (2 g at 3, 5 g at 5, 17 g
 * at 10, 40 g at 16 inches). Ours.
 */
export function propellerMassKg(diameterM: number): number {
  return 0.21 * diameterM ** 1.85;
}

/** Inertia of a propeller about its shaft, kg m^2: a rod whose blades are heavier near the hub. */
export function propellerInertia(diameterM: number): number {
  return (0.75 * propellerMassKg(diameterM) * diameterM ** 2) / 12;
}

/** Inertia of the bell and shaft of an outrunner, kg m^2: half its mass at a radius that grows with the cube root of it. */
export function bellInertia(motorKg: number): number {
  return 7.9e-4 * motorKg ** (5 / 3);
}

export function motorMassKg(maxCurrentA: number): number {
  return MOTOR_SHARE * DRIVE_KG_PER_A * maxCurrentA;
}

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

/** What a real propeller needs at least, over the momentum theory's power: no disc does better (Glauert 1935). */
const IDEAL_POWER = 1.08;
/** Thrust through a descending disc: it rises with the angle of attack of the blades, to this much more. */
const DESCENT_SLOPE = 0.5;
const DESCENT_MOST = 1.25;
/**
 * Vortex ring: between these shares of the hover's induced speed a straight descent loses thrust, most at the middle
 * (Leishman 2006, 2.13; the size of the loss after tests of small rotors). Flow across blows the ring away.
 */
const RING_FROM = 0.55;
const RING_MIDDLE = 1.1;
const RING_TO = 1.8;
const RING_LOSS = 0.35;

/** Heat of a motor: J/(kg K) of copper and iron, K above the air that it stands, and the share of its greatest current it carries for good. */
const MOTOR_HEAT = 450;
const HEAT_MOST_K = 130;
const LASTING_SHARE = 0.8;

/** Asked for so many times its greatest current for this long, a controller burns before its limit helps. */
const OVERLOAD = 2;
const OVERLOAD_S = 1;

/**
 * One motor with its propeller and controller. The shaft speed is integrated from motor torque (I - I_0)/K_v less
 * propeller torque C_P rho n^2 D^5/(2 pi), rather than solved each step: the same steady speed, with its real lag.
 *
 * The controller is a converter without loss of its own: what it takes from the battery is what it gives the motor.
 * Above its greatest current it lowers its duty until that is met; asked for twice as much for a second, longer than a
 * propeller takes to spin up, it burns. Losses in the winding heat the motor; past its limit that burns too. Neither
 * gives any torque any more.
 */
export class MotorUnit {
  readonly curve: PropellerCurve;
  /** V per rad/s, and N m per A. */
  readonly torqueConstant: number;
  /** Of bell and propeller about the shaft, kg m^2. */
  readonly inertia: number;
  readonly bellInertia: number;
  readonly d4: number;
  readonly d5: number;
  readonly discArea: number;
  /** Copied from the motor: read in every step. */
  readonly resistanceOhm: number;
  private readonly idleCurrentA: number;
  /** The greatest current that its controller gives, A. Raised only to ask what a propeller would draw without it. */
  maxCurrentA: number;
  readonly diameterM: number;
  /** J/K, and W/K to the air. */
  readonly heatCapacity: number;
  readonly cooling: number;
  /** Shaft speed, rad/s. */
  omega = 0;
  thrust = 0;
  /** What the air takes from the propeller, and what the motor gives it less friction, N m. */
  torque = 0;
  drive = 0;
  /** Drawn from the battery, A. */
  currentA = 0;
  /** Through the winding, A. */
  windingA = 0;
  /** Above the air around it, K. */
  warmthK = 0;
  /** It has failed for a reason of its own. */
  failed = false;
  /** Winding or controller has burnt. */
  burnt = false;
  /** Its controller holds the current down. */
  limited = false;
  /** What the disc adds to the air far behind it, m/s: sqrt(V^2 + 2 T/(rho A)) - V (momentum theory). */
  wake = 0;
  /** Share of thrust lost in a vortex ring. */
  ring = 0;
  propellerFitted = true;
  /** Its controller shorts the winding when nothing is asked of it. */
  brakes = false;
  /** Its controller runs no firmware, and turns it no more. */
  dead = false;
  private overFor = 0;
  private duty = 0;
  private supplyV = 0;
  private airspeed = 0;
  private across = 0;
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
    const kg = motorMassKg(motor.maxCurrentA);
    this.bellInertia = bellInertia(kg);
    this.inertia = propellerInertia(d) + this.bellInertia;
    this.heatCapacity = MOTOR_HEAT * kg;
    this.cooling = ((LASTING_SHARE * motor.maxCurrentA) ** 2 * motor.resistanceOhm) / HEAT_MOST_K;
  }

  /**
   * What acts on it from now on. Apart from `step`, since a call that is too large to be put in line would put its
   * numbers on the heap each time.
   * @param duty 0..1. @param airspeed axial, m/s. @param rho kg/m^3. @param across flow in the plane of the disc, m/s
   */
  meet(duty: number, supplyV: number, airspeed: number, rho: number, across = 0): void {
    this.duty = this.burnt || this.dead || this.failed ? 0 : duty;
    this.supplyV = supplyV;
    this.airspeed = airspeed;
    this.across = across;
    this.rho = rho;
  }

  /** One step of dt seconds under what `meet` was told. */
  step(dt: number): void {
    const { duty } = this;
    const back = this.omega * this.torqueConstant;
    const drive = (duty * this.supplyV - back) / this.resistanceOhm;
    // Below back-EMF the bridge is open and no current flows, but for one that brakes on stop.
    const limit = this.maxCurrentA;
    let current = 0;
    this.limited = false;
    this.currentA = 0;
    if (duty > 0.01 && drive > 0) {
      if (drive > limit) {
        this.limited = true;
        current = limit;
        this.currentA = (limit * (back + limit * this.resistanceOhm)) / this.supplyV;
      } else {
        current = drive;
        this.currentA = current * duty;
      }
    }
    if (this.brakes && duty <= 0.01) current = -Math.min(back / this.resistanceOhm, limit);
    this.windingA = current;
    this.overFor = drive > OVERLOAD * limit && duty > 0.01 ? this.overFor + dt : 0;
    if (this.overFor > OVERLOAD_S) this.burnt = true;
    const turning = this.omega > Math.PI;
    if (this.propellerFitted && turning) this.blow();
    else {
      this.thrust = 0;
      this.torque = 0;
      this.wake = 0;
      this.ring = 0;
    }
    const friction = turning ? this.idleCurrentA * this.torqueConstant : 0;
    const inertia = this.propellerFitted ? this.inertia : this.bellInertia;
    const push = current * this.torqueConstant - friction - this.torque;
    // Back-EMF and drag slow the shaft the more the faster it turns; taken as they will be, no small motor swings.
    let slows = turning ? (2 * this.torque) / this.omega : 0;
    if (current !== 0 && !this.limited) slows += this.torqueConstant ** 2 / this.resistanceOhm;
    const next = Math.max(this.omega + (push * dt) / (inertia + slows * dt), 0);
    // The body feels what turned the shaft, so that no momentum is lost.
    this.drive = (inertia * (next - this.omega)) / dt + this.torque;
    this.omega = next;
    this.warmthK +=
      ((current * current * this.resistanceOhm - this.cooling * this.warmthK) / this.heatCapacity) * dt;
    if (this.warmthK > HEAT_MOST_K) this.burnt = true;
  }

  /** Thrust, torque and wake of the disc at its speed now. */
  private blow(): void {
    const { rho, curve, airspeed } = this;
    const n = this.omega / (2 * Math.PI);
    const forward = Math.max(airspeed, 0);
    const advance = airspeed / (n * this.diameterM);
    const head = rho * n * n;
    this.ring = 0;
    if (advance >= 0) this.thrust = thrustCoefficient(curve, advance) * head * this.d4;
    else {
      const more = 1 - (DESCENT_SLOPE * advance) / curve.advanceZero;
      let still = curve.thrust0 * head * this.d4;
      const hover = Math.sqrt(still / (2 * rho * this.discArea));
      const down = -airspeed / hover;
      if (down > RING_FROM && down < RING_TO) {
        const deep =
          down < RING_MIDDLE
            ? (down - RING_FROM) / (RING_MIDDLE - RING_FROM)
            : (RING_TO - down) / (RING_TO - RING_MIDDLE);
        const blown = this.across / hover;
        this.ring = blown < 1 ? RING_LOSS * deep * (1 - blown) : 0;
      }
      still *= Math.min(more, DESCENT_MOST);
      this.thrust = still * (1 - this.ring);
    }
    this.torque = (powerCoefficient(curve, advance) * head * this.d5) / (2 * Math.PI);
    if (this.thrust > 0) {
      this.wake = Math.sqrt(forward * forward + (2 * this.thrust) / (rho * this.discArea)) - forward;
      const least = (IDEAL_POWER * this.thrust * (forward + 0.5 * this.wake)) / this.omega;
      if (this.torque < least) this.torque = least;
    } else this.wake = 0;
  }

  /** Runs to the steady speed at a duty: for starting values, not for flight. */
  settle(duty: number, supplyV: number, airspeed: number, rho: number, across = 0): void {
    this.meet(duty, supplyV, airspeed, rho, across);
    for (let k = 0; k < 1500; k++) this.step(0.001);
    this.warmthK = 0;
    this.overFor = 0;
    this.burnt = false;
  }
}
