import { isMotor } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft, planformOf } from '../airframe/airframe.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import { integrate, type Quat, quat, toBody, toEarth } from '../math/quaternion.ts';
import { GRAVITY } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';
import { type Day, densityOn, STANDARD_DAY } from './atmosphere.ts';
import { Battery } from './battery.ts';
import { GroundContact } from './groundContact.ts';
import { PanelModel } from './panels.ts';
import { MotorUnit } from './propulsion.ts';

/** Density is worked out anew this often: in 32 ms no craft changes its height by a thousandth of the scale. */
const DENSITY_STEPS = 32;
/**
 * Panels are worked out anew after this time, so every other step at 1 kHz: flow and deflections move little in
 * 2 ms, while shafts and attitude move in every step. The time-step test bounds what this costs.
 */
const PANEL_STEP_S = 0.002;
/**
 * In-plane force of a rotor in cross flow, as a share of its thrust per share of tip speed: blades flap back
 * and the disc drags (small rotors, after Faessler, Franchi, Scaramuzza 2018).
 */
const ROTOR_DRAG = 1;
/** Thrust of a propeller that turns backwards over that of one that turns as it should: its camber and twist work against it. Ours. */
const BACKWARDS = 0.6;
/** Current of everything but the motors, A. */
export const HOUSE_CURRENT_A = 0.9;
/**
 * Moment that slows a spinning craft without wings, from plates of its arms and rotors that are moved across the air:
 * (1/2) rho C_D A R^3 w |w| with the area and reach below.
 */
const SPIN_DRAG = 1.2;
/** What a wing bears at its root, N m per m^3 of root chord: a foam or balsa wing with a spar. Ours. */
const ROOT_STRENGTH = 3000;
/** Where the lift of a half acts, share of the half span (elliptic: 4/(3 pi)). */
const LIFT_AT = 0.42;
/** A peak shorter than this only bends the wing, s. */
const BREAKS_AFTER_S = 0.03;
/** No craft carries its battery and motors through more than this, g. */
const LOAD_MOST = 25;

/**
 * The craft as a rigid body: panels, propellers, ground and battery push it, gravity pulls it. Earth axes are
 * north-east-down from home at sea level; body axes x forward, y right, z down. Rotors carry angular momentum
 * and react on the body. Nothing is allocated per step.
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
  readonly contact: GroundContact;
  /** Surface deflections, rad, in the order of `panels.surfaceIds`. */
  readonly deflections: Float64Array;
  /** Motor duties 0..1 in the order of the airframe's motors. */
  readonly duties: Float64Array;
  /** Ground under the craft above sea level, m; minus infinity where there is none. */
  ground = Number.NEGATIVE_INFINITY;
  day: Day = STANDARD_DAY;
  /** The wing has broken: it lifts no more. */
  broken = false;
  /** Force across the wing that breaks it, N; infinite on a craft without. */
  readonly strengthN: number;
  readonly mass: number;
  readonly ix: number;
  readonly iy: number;
  readonly iz: number;
  /** Per motor: place from the centre of gravity, thrust axis, sense of turning, servo that tilts it. */
  readonly arms: Float64Array;
  readonly axes: Float64Array;
  readonly senses: Float64Array;
  private readonly asDescribed: Float64Array;
  /** 1 for each motor that turns as its propeller wants; one that turns backwards pushes backwards. */
  private readonly pushes: Float64Array;
  private readonly tilts: Int8Array;
  private readonly lifting: boolean;
  private readonly work: Vec3 = new Float64Array(3);
  private readonly between: Vec3 = new Float64Array(3);
  /** Half rho-less factor of the spin's drag, m^5. */
  private readonly spinDrag: number;
  private readonly wingUp: number;
  private overloadFor = 0;
  private rho = densityOn(STANDARD_DAY, 0);
  private tick = 0;
  private panelsDue = 0;

  constructor(readonly airframe: Airframe) {
    this.panels = new PanelModel(airframe);
    this.motors = airframe.motors.map((m) => new MotorUnit(m));
    const b = airframe.battery;
    this.battery = new Battery(b.chemistry, b.cells, b.capacityMah * 3.6, b.cells * b.cellResistanceOhm);
    this.contact = new GroundContact(airframe);
    this.deflections = new Float64Array(airframe.surfaces.length);
    this.duties = new Float64Array(airframe.motors.length);
    this.mass = airframe.massKg;
    const inertia = inertiaOf(airframe);
    this.ix = inertia.xx;
    this.iy = inertia.yy;
    this.iz = inertia.zz;
    const up = (m: Airframe['motors'][number]) => m.thrust === 'up';
    this.lifting = airframe.motors.some(up);
    this.arms = Float64Array.from(
      airframe.motors.flatMap((m) => [airframe.cgAftM - m.aftM, m.rightM, -m.upM]),
    );
    this.axes = Float64Array.from(airframe.motors.flatMap((m) => (up(m) ? [0, 0, -1] : [1, 0, 0])));
    // Clockwise seen from behind is right-handed about a forward axis; seen from above, left-handed about an upward one.
    this.senses = Float64Array.from(airframe.motors, (m) => ((m.spin === 'clockwise') === up(m) ? -1 : 1));
    this.asDescribed = Float64Array.from(this.senses);
    this.pushes = new Float64Array(airframe.motors.length).fill(1);
    const reach = Math.max(0, ...airframe.motors.map((m) => Math.hypot(m.rightM, m.aftM - airframe.cgAftM)));
    const plate = airframe.motors.reduce((sum, m) => sum + 0.02 * reach + 0.08 * m.propDiameterM ** 2, 0);
    this.spinDrag = this.lifting ? 0.5 * SPIN_DRAG * plate * (0.7 * reach) ** 3 : 0;
    this.strengthN = strengthOf(airframe);
    this.wingUp = planformOf(airframe, 'wing')?.upM ?? 0;
    this.tilts = Int8Array.from(airframe.motors, (m) =>
      m.tiltedBy ? airframe.surfaces.findIndex((s) => s.id === m.tiltedBy) : -1,
    );
  }

  get airspeed(): number {
    const a = this.airVelocity;
    return Math.sqrt(a[0]! * a[0]! + a[1]! * a[1]! + a[2]! * a[2]!);
  }

  /** Has a motor turn as it is described, or the other way round. */
  turn(motor: number, reversed: boolean): void {
    this.senses[motor] = (reversed ? -1 : 1) * this.asDescribed[motor]!;
    this.pushes[motor] = reversed ? -BACKWARDS : 1;
  }

  /** Of the air around it, kg/m^3. */
  get density(): number {
    return this.rho;
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
    if (this.tick++ % DENSITY_STEPS === 0) this.rho = densityOn(this.day, this.height);
    const rho = this.rho;
    const w = this.rates;
    const p = w[0]!;
    const q = w[1]!;
    const r = w[2]!;
    this.panelsDue -= dt;
    if (this.panelsDue < 0.5 * dt) {
      this.panelsDue += Math.max(dt, PANEL_STEP_S);
      for (let i = 0; i < this.motors.length; i++) this.panels.wake[i] = this.motors[i]!.wake;
      this.panels.rho = rho;
      this.panels.aboveGround = this.height - this.ground + this.wingUp;
      this.panels.evaluate(air, w, this.deflections);
      this.bear();
    }
    const f = this.panels.force;
    const m = this.panels.moment;
    let fx = f[0]!;
    let fy = f[1]!;
    let fz = f[2]!;
    let mx = m[0]!;
    let my = m[1]!;
    let mz = m[2]!;
    if (this.spinDrag > 0) {
      const drag = -this.spinDrag * rho;
      mx += drag * p * Math.abs(p);
      my += drag * q * Math.abs(q);
      mz += drag * r * Math.abs(r);
    }
    let current = 0;
    this.battery.share(this.duties, this.motors, HOUSE_CURRENT_A);
    // Angular momentum of the rotors, body axes.
    let hx = 0;
    let hy = 0;
    let hz = 0;
    for (let i = 0; i < this.motors.length; i++) {
      const unit = this.motors[i]!;
      const o = 3 * i;
      const x = this.arms[o]!;
      const y = this.arms[o + 1]!;
      const z = this.arms[o + 2]!;
      const tilt = this.tilts[i]!;
      if (tilt >= 0) {
        // Positive tilts the thrust to the left.
        const angle = this.deflections[tilt]!;
        this.axes[o + 1] = -Math.sin(angle);
        this.axes[o + 2] = -Math.cos(angle);
      }
      const ax = this.axes[o]!;
      const ay = this.axes[o + 1]!;
      const az = this.axes[o + 2]!;
      const vx = air[0]! + q * z - r * y;
      const vy = air[1]! + r * x - p * z;
      const vz = air[2]! + p * y - q * x;
      const axial = vx * ax + vy * ay + vz * az;
      const flow2 = this.lifting ? vx * vx + vy * vy + vz * vz - axial * axial : 0;
      unit.meet(this.duties[i]!, this.battery.voltage, axial, rho, flow2 > 0 ? Math.sqrt(flow2) : 0);
      unit.step(dt);
      const thrust = this.pushes[i]! * unit.thrust;
      let px = thrust * ax;
      let py = thrust * ay;
      let pz = thrust * az;
      if (this.lifting && unit.omega > 50) {
        const drag = (ROTOR_DRAG * unit.thrust) / (unit.omega * 0.5 * unit.diameterM);
        px -= drag * (vx - axial * ax);
        py -= drag * (vy - axial * ay);
        pz -= drag * (vz - axial * az);
      }
      fx += px;
      fy += py;
      fz += pz;
      const react = -this.senses[i]! * unit.drive;
      mx += y * pz - z * py + react * ax;
      my += z * px - x * pz + react * ay;
      mz += x * py - y * px + react * az;
      const h = this.senses[i]! * unit.inertia * unit.omega;
      hx += h * ax;
      hy += h * ay;
      hz += h * az;
      current += unit.currentA;
    }
    this.battery.currentA = HOUSE_CURRENT_A + current;
    this.battery.step(dt);
    const above = this.height - this.ground;
    if (above < this.contact.reach) {
      this.contact.evaluate(above, v, this.attitude, w);
      const g = this.contact.force;
      const n = this.contact.moment;
      fx += g[0]!;
      fy += g[1]!;
      fz += g[2]!;
      mx += n[0]!;
      my += n[1]!;
      mz += n[2]!;
    } else this.contact.touching = false;
    const s = this.specificForce;
    const perMass = 1 / this.mass;
    s[0] = fx * perMass;
    s[1] = fy * perMass;
    s[2] = fz * perMass;
    // Euler's equations with the rotors' momentum, w' = I^-1 (M - w x (I w + h)), by the midpoint: half a step to find
    // the rates between, and a whole one with them. Energy and momentum of a free tumble are kept.
    const b = this.between;
    const { ix, iy, iz } = this;
    const sx = dt / ix;
    const sy = dt / iy;
    const sz = dt / iz;
    const p2 = p + 0.5 * sx * (mx - (q * (iz * r + hz) - r * (iy * q + hy)));
    const q2 = q + 0.5 * sy * (my - (r * (ix * p + hx) - p * (iz * r + hz)));
    const r2 = r + 0.5 * sz * (mz - (p * (iy * q + hy) - q * (ix * p + hx)));
    b[0] = p2;
    b[1] = q2;
    b[2] = r2;
    w[0] = p + sx * (mx - (q2 * (iz * r2 + hz) - r2 * (iy * q2 + hy)));
    w[1] = q + sy * (my - (r2 * (ix * p2 + hx) - p2 * (iz * r2 + hz)));
    w[2] = r + sz * (mz - (p2 * (iy * q2 + hy) - q2 * (ix * p2 + hx)));
    const a = toEarth(this.work, this.attitude, s);
    v[0]! += a[0]! * dt;
    v[1]! += a[1]! * dt;
    v[2]! += (a[2]! + GRAVITY) * dt;
    integrate(this.attitude, b, dt);
    this.position[0]! += v[0]! * dt;
    this.position[1]! += v[1]! * dt;
    this.position[2]! += v[2]! * dt;
  }

  /** A wing that is loaded beyond its strength for a moment breaks, and lifts no more. */
  private bear(): void {
    if (this.strengthN === Number.POSITIVE_INFINITY || this.broken) return;
    const load = this.panels.force[2]!;
    this.overloadFor = load > this.strengthN || load < -this.strengthN ? this.overloadFor + PANEL_STEP_S : 0;
    if (this.overloadFor < BREAKS_AFTER_S) return;
    this.broken = true;
    this.panels.break();
  }

  /** Index of an actuator among the motors or the surfaces. */
  indexOf(id: string): number {
    return isMotor(id)
      ? this.airframe.motors.findIndex((m) => m.id === id)
      : this.airframe.surfaces.findIndex((s) => s.id === id);
  }
}

/**
 * Force across the wing at which its root fails, N: both halves' lift at their arm over the root's strength, bounded
 * by what the fittings inside bear. Infinite on a craft without a wing.
 */
function strengthOf(airframe: Airframe): number {
  const wing = planformOf(airframe, 'wing');
  if (!wing || isRotorcraft(airframe)) return Number.POSITIVE_INFINITY;
  const root = (2 * ROOT_STRENGTH * wing.rootChordM ** 3) / ((wing.spanM / 2) * LIFT_AT);
  return Math.min(root, LOAD_MOST * airframe.massKg * GRAVITY);
}
