import type { Airframe } from '../airframe/airframe.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import { integrate, type Quat, quat, toBody, toEarth } from '../math/quaternion.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';
import { densityAt } from './atmosphere.ts';
import { Battery } from './battery.ts';
import { PanelModel } from './panels.ts';
import { MotorUnit } from './propulsion.ts';

/**
 * The craft as a rigid body: panels, propellers and battery push it, gravity pulls it. Earth axes are
 * north-east-down from home at sea level; body axes x forward, y right, z down. Nothing is allocated per step.
 */
export class Plant {
  /** North, east of home and down from sea level, m. */
  readonly position: Vec3 = new Float64Array(3);
  /** Over ground, earth axes, m/s. */
  readonly velocity: Vec3 = new Float64Array(3);
  readonly attitude: Quat = quat();
  /** Body rates, rad/s. */
  readonly rates: Vec3 = new Float64Array(3);
  /** Specific force an accelerometer at the centre of gravity feels, body axes, m/s^2. */
  readonly specificForce: Vec3 = new Float64Array(3);
  /** Velocity through the air, body axes, m/s. */
  readonly airVelocity: Vec3 = new Float64Array(3);
  readonly panels: PanelModel;
  readonly motors: readonly MotorUnit[];
  readonly battery: Battery;
  /** Surface deflections, rad, in the order of `panels.surfaceIds`. */
  readonly deflections: Float64Array;
  /** Motor duties 0..1 in the order of the airframe's motors. */
  readonly duties: Float64Array;
  private readonly mass: number;
  private readonly ix: number;
  private readonly iy: number;
  private readonly iz: number;
  private readonly motorY: Float64Array;
  private readonly motorZ: Float64Array;
  private readonly work: Vec3 = new Float64Array(3);
  /** Current of everything but the motors, A. */
  private readonly houseCurrentA = 0.9;

  constructor(readonly airframe: Airframe) {
    this.panels = new PanelModel(airframe);
    this.motors = airframe.motors.map((m) => new MotorUnit(m));
    const b = airframe.battery;
    this.battery = new Battery(b.cells, b.capacityMah * 3.6, b.cells * b.cellResistanceOhm);
    this.deflections = new Float64Array(airframe.surfaces.length);
    this.duties = new Float64Array(airframe.motors.length);
    this.mass = airframe.massKg;
    const inertia = inertiaOf(airframe);
    this.ix = inertia.xx;
    this.iy = inertia.yy;
    this.iz = inertia.zz;
    this.motorY = Float64Array.from(airframe.motors, (m) => m.rightM);
    this.motorZ = Float64Array.from(airframe.motors, (m) => -m.upM);
  }

  get airspeed(): number {
    const a = this.airVelocity;
    return Math.sqrt(a[0]! * a[0]! + a[1]! * a[1]! + a[2]! * a[2]!);
  }

  /** Height above sea level, m. */
  get height(): number {
    return -this.position[2]!;
  }

  /**
   * Semi-implicit Euler over dt seconds: forces at the present state, then velocity, then position.
   * @param wind velocity of the air, earth axes, m/s
   */
  step(wind: Vec3, dt: number): void {
    const v = this.velocity;
    const air = this.airVelocity;
    air[0] = v[0]! - wind[0]!;
    air[1] = v[1]! - wind[1]!;
    air[2] = v[2]! - wind[2]!;
    toBody(air, this.attitude, air);
    const rho = densityAt(this.height);
    this.panels.evaluate(air, this.rates, this.deflections, rho);
    const f = this.panels.force;
    const m = this.panels.moment;
    let fx = f[0]!;
    let my = m[1]!;
    let mz = m[2]!;
    let current = this.houseCurrentA;
    for (let i = 0; i < this.motors.length; i++) {
      const unit = this.motors[i]!;
      unit.step(this.duties[i]!, this.battery.voltage, air[0]!, rho, dt);
      fx += unit.thrust;
      my += this.motorZ[i]! * unit.thrust;
      mz -= this.motorY[i]! * unit.thrust;
      current += unit.currentA;
    }
    this.battery.draw(current, dt);
    const s = this.specificForce;
    s[0] = fx / this.mass;
    s[1] = f[1]! / this.mass;
    s[2] = f[2]! / this.mass;
    const w = this.rates;
    const p = w[0]!;
    const q = w[1]!;
    const r = w[2]!;
    w[0] = p + ((m[0]! - (this.iz - this.iy) * q * r) / this.ix) * dt;
    w[1] = q + ((my - (this.ix - this.iz) * p * r) / this.iy) * dt;
    w[2] = r + ((mz - (this.iy - this.ix) * p * q) / this.iz) * dt;
    const a = toEarth(this.work, this.attitude, s);
    v[0]! += a[0]! * dt;
    v[1]! += a[1]! * dt;
    v[2]! += (a[2]! + GRAVITY) * dt;
    integrate(this.attitude, w[0]!, w[1]!, w[2]!, dt);
    this.position[0]! += v[0]! * dt;
    this.position[1]! += v[1]! * dt;
    this.position[2]! += v[2]! * dt;
  }

  /** Greatest deflection of each surface, rad. */
  throws(): Float64Array {
    return Float64Array.from(this.airframe.surfaces, (s) => s.throwDeg * DEG);
  }
}
