import { HOUSE_CURRENT_A } from '../flight/plant.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { GRAVITY } from '../math/scalar.ts';
import { type Airframe, isRotorcraft } from './airframe.ts';
import { supplyUnderLoad, trimLevel } from './performance.ts';

/** Steady flight of one kind: how fast through the air, how fast up, how much of its weight the lift is. */
export interface SteadyFlight {
  /** Through the air along the path, m/s. */
  readonly speedMps: number;
  /** m/s; negative for a descent. */
  readonly climbMps: number;
  /** Lift over weight: 1/cos(bank) in a turn. */
  readonly load: number;
}

/** What the drive gives at most, share of full duty, and the air's density, kg/m^3. */
export interface DriveLimits {
  readonly maxDuty: number;
  readonly rho: number;
}

/** Halvings of the duty: to a ten-thousandth. */
const HALVINGS = 13;

/** Thrust and current of all motors, settled at a duty with air coming along and across the shaft. */
class Drive {
  private readonly units: readonly MotorUnit[];
  /** Motors of one kind are worked out once. */
  private readonly alike: number;
  readonly supplyV: number;
  thrustN = 0;
  currentA = 0;

  constructor(
    airframe: Airframe,
    private readonly limits: DriveLimits,
  ) {
    const [first, ...others] = airframe.motors;
    const same = others.every(
      (m) =>
        m.propDiameterM === first!.propDiameterM &&
        m.propPitchM === first!.propPitchM &&
        m.kvRpmPerV === first!.kvRpmPerV &&
        m.resistanceOhm === first!.resistanceOhm &&
        m.idleCurrentA === first!.idleCurrentA &&
        m.maxCurrentA === first!.maxCurrentA,
    );
    this.alike = same ? airframe.motors.length : 1;
    this.units = (same ? [first!] : airframe.motors).map((m) => new MotorUnit(m));
    this.supplyV = supplyUnderLoad(airframe);
  }

  run(duty: number, axialMps: number, acrossMps: number): void {
    this.thrustN = 0;
    this.currentA = 0;
    for (const unit of this.units) {
      unit.settle(duty, this.supplyV, axialMps, this.limits.rho, acrossMps);
      this.thrustN += this.alike * unit.thrust;
      this.currentA += this.alike * unit.currentA;
    }
  }

  /** Shaft speed of the first motor as it last ran, rad/s. */
  get omega(): number {
    return this.units[0]!.omega;
  }

  /** Current that this thrust takes, A; not a number where it cannot be had. */
  currentFor(thrustN: number, axialMps: number, acrossMps: number): number {
    if (thrustN <= 0) return 0;
    this.run(this.limits.maxDuty, axialMps, acrossMps);
    if (this.thrustN < thrustN) return Number.NaN;
    let [low, high] = [0, this.limits.maxDuty];
    for (let k = 0; k < HALVINGS; k++) {
      const mid = (low + high) / 2;
      this.run(mid, axialMps, acrossMps);
      if (this.thrustN < thrustN) low = mid;
      else high = mid;
    }
    this.run(high, axialMps, acrossMps);
    return this.currentA;
  }
}

/**
 * Electric power that a craft takes in steady flight, everything on it counted, and how fast it can climb: the panel
 * model's drag, or the lean that a craft with rotors needs, put to the settled motor and propeller (HANDBOOK, section 3).
 */
export class FlightPower {
  private readonly drive: Drive;
  private readonly rotors: boolean;
  private readonly known = new Map<string, number>();
  private readonly drags = new Map<string, number>();

  constructor(
    readonly airframe: Airframe,
    readonly limits: DriveLimits,
  ) {
    this.drive = new Drive(airframe, limits);
    this.rotors = isRotorcraft(airframe);
  }

  /** Of everything but the motors, W. */
  get houseW(): number {
    return HOUSE_CURRENT_A * this.drive.supplyV;
  }

  /** W from the battery's terminals; not a number where the craft cannot fly so. */
  watts(f: SteadyFlight): number {
    const key = `${f.speedMps} ${f.climbMps} ${f.load}`;
    let watts = this.known.get(key);
    if (watts === undefined) {
      watts = this.drive.supplyV * (HOUSE_CURRENT_A + (this.rotors ? this.leaning(f) : this.flown(f)));
      this.known.set(key, watts);
    }
    return watts;
  }

  /** The greatest steady climb at this airspeed, m/s; negative where it cannot even hold its height. */
  mostClimb(speedMps: number): number {
    if (this.rotors) {
      this.drive.run(this.limits.maxDuty, 3, speedMps);
      return this.drive.thrustN > 1.1 * this.weight ? Number.POSITIVE_INFINITY : 0;
    }
    const drag = this.drag(speedMps, 1);
    this.drive.run(this.limits.maxDuty, speedMps, 0);
    return ((this.drive.thrustN - drag) * speedMps) / this.weight;
  }

  private get weight(): number {
    return this.airframe.massKg * GRAVITY;
  }

  /** Drag of a wing in level trim, N; not a number where it has none. */
  private drag(speedMps: number, load: number): number {
    const key = `${speedMps} ${load}`;
    let drag = this.drags.get(key);
    if (drag === undefined) {
      const heavier = { ...this.airframe, massKg: load * this.airframe.massKg };
      drag = trimLevel(heavier, speedMps, this.limits.rho)?.thrust ?? Number.NaN;
      this.drags.set(key, drag);
    }
    return drag;
  }

  private flown({ speedMps, climbMps, load }: SteadyFlight): number {
    const thrust = this.drag(speedMps, load) + (this.weight * climbMps) / speedMps;
    return Number.isNaN(thrust) ? Number.NaN : this.drive.currentFor(thrust, speedMps, 0);
  }

  /**
   * Rotors lean by phi against the drag D of the body and of their own discs, H in the discs' plane: T = W cos phi + D sin phi
   * and W sin phi - D cos phi = H, so phi = atan2(D, W) + asin(H / sqrt(W^2 + D^2)). H is thrust times flow across over tip
   * speed (the plant's law), which is known once the shaft's speed is: thrice round is enough.
   */
  private leaning({ speedMps, climbMps, load }: SteadyFlight): number {
    const weight = load * this.weight;
    const body = 0.5 * this.limits.rho * this.airframe.bodyDragM2 * speedMps ** 2;
    const radius = 0.5 * this.airframe.motors[0]!.propDiameterM;
    const whole = Math.hypot(weight, body);
    let inPlane = 0;
    let current = Number.NaN;
    for (let go = 0; go < 3; go++) {
      const lean = Math.atan2(body, weight) + Math.asin(Math.min(1, inPlane / whole));
      const thrust = weight * Math.cos(lean) + body * Math.sin(lean);
      const along = speedMps * Math.sin(lean) + climbMps * Math.cos(lean);
      const across = Math.abs(speedMps * Math.cos(lean) - climbMps * Math.sin(lean));
      current = this.drive.currentFor(thrust, along, across);
      inPlane = (thrust * across) / (Math.max(50, this.drive.omega) * radius);
    }
    return current;
  }
}
