import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { openCircuitV } from '../flight/battery.ts';
import { PanelModel, pairLiftSlope, planformArea, SECTION_DRAG, SPAN_EFFICIENCY } from '../flight/panels.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { roleMix } from '../mixer/roles.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import { type Airframe, isRotorcraft, type Planform, wingOf } from './airframe.ts';
import { inertiaOf } from './massModel.ts';

/** Numbers that follow from a craft's dimensions, SI, at sea level in standard air. */
export interface Performance {
  readonly wingAreaM2: number;
  readonly aspectRatio: number;
  readonly meanChordM: number;
  /** Leading edge of the mean aerodynamic chord, aft of the nose. */
  readonly meanChordAftM: number;
  /** kg/m^2 */
  readonly wingLoading: number;
  readonly stallMps: number;
  readonly bestGlideMps: number;
  readonly bestGlideRatio: number;
  readonly neutralPointAftM: number;
  /** (neutral point - CG) over the mean chord. */
  readonly staticMargin: number;
  readonly cgForwardM: number;
  readonly cgAftLimitM: number;
}

/** Static margins between which a model flies well: enough to be steady, not so much that it cannot flare. */
export const STATIC_MARGIN_LEAST = 0.05;
export const STATIC_MARGIN_MOST = 0.2;

/** Mean aerodynamic chord of a straight-tapered planform and its leading edge aft of the nose, m. */
export function meanChord(plan: Planform): { chordM: number; leadingAftM: number } {
  const taper = plan.tipChordM / plan.rootChordM;
  const chordM = ((2 / 3) * plan.rootChordM * (1 + taper + taper * taper)) / (1 + taper);
  const station = (1 + 2 * taper) / (3 * (1 + taper));
  return { chordM, leadingAftM: plan.rootAftM + (plan.tipAftM - plan.rootAftM) * station };
}

/** Attack angles tried for the greatest trimmed lift, rad. */
const TRIM_FROM = -0.02;
const TRIM_STEP = 0.004;
const TRIM_STEPS = 90;

const trimmedLifts = new WeakMap<Airframe, number>();

/**
 * Greatest lift coefficient, on the wing's area, at which the surfaces can hold the nose: what is left of C_Lmax once
 * a tail pushes down, or elevons stand up. By the panel model, over the angle of attack.
 */
function trimmedLift(airframe: Airframe): number {
  const known = trimmedLifts.get(airframe);
  if (known !== undefined) return known;
  const panels = new PanelModel(airframe);
  const v = new Float64Array(3);
  const w = new Float64Array(3);
  const d = new Float64Array(panels.surfaceIds.length);
  const area = panels.wingArea;
  const pressure = 0.5 * SEA_LEVEL_DENSITY * 400;
  const moment = (alpha: number, pitch: number) => {
    v[0] = 20 * Math.cos(alpha);
    v[2] = 20 * Math.sin(alpha);
    deflectionsFor(airframe, 'pitch', pitch, d);
    panels.evaluate(v, w, d);
    return panels.moment[1]!;
  };
  let most = 0;
  for (let k = 0; k < TRIM_STEPS; k++) {
    const alpha = TRIM_FROM + k * TRIM_STEP;
    // Nose-up moment grows with the pitch command; outside the throw there is no trim.
    if (moment(alpha, 1) < 0 || moment(alpha, -1) > 0) continue;
    let low = -1;
    let high = 1;
    for (let go = 0; go < 24; go++) {
      const mid = (low + high) / 2;
      if (moment(alpha, mid) < 0) low = mid;
      else high = mid;
    }
    const lift = panels.force[0]! * Math.sin(alpha) - panels.force[2]! * Math.cos(alpha);
    most = Math.max(most, lift / (pressure * area));
  }
  const wing = wingOf(airframe);
  // A craft that cannot be trimmed anywhere still has a wing.
  const lift = most > 0.2 ? Math.min(most, wing.liftMax) : wing.liftMax;
  trimmedLifts.set(airframe, lift);
  return lift;
}

/** Stall speed sqrt(2 m g/(rho S C_L)) at the greatest lift that can be trimmed, m/s, wings level. */
export function stallSpeed(airframe: Airframe, rho = SEA_LEVEL_DENSITY): number {
  const area = planformArea(wingOf(airframe));
  return Math.sqrt((2 * airframe.massKg * GRAVITY) / (rho * area * trimmedLift(airframe)));
}

/** Turn radius V^2/(g tan bank) in a coordinated turn, m. @param bank rad */
export function turnRadius(speed: number, bank: number): number {
  return (speed * speed) / (GRAVITY * Math.tan(bank));
}

/** @throws RangeError on a craft without a wing */
export function performanceOf(airframe: Airframe): Performance {
  const wing = wingOf(airframe);
  const { massKg } = airframe;
  const area = planformArea(wing);
  const aspect = wing.spanM ** 2 / area;
  const mac = meanChord(wing);
  const neutral = neutralPoint(airframe);
  const wetted = airframe.planforms.reduce((s, p) => s + planformArea(p), 0);
  // Zero-lift drag: section drag of every panel and the body, on the wing area.
  const drag0 = (SECTION_DRAG * wetted) / area + airframe.bodyDragM2 / area;
  const induced = 1 / (Math.PI * SPAN_EFFICIENCY * aspect);
  const liftBest = Math.sqrt(drag0 / induced);
  const bestGlide = Math.sqrt((2 * massKg * GRAVITY) / (SEA_LEVEL_DENSITY * area * liftBest));
  return {
    wingAreaM2: area,
    aspectRatio: aspect,
    meanChordM: mac.chordM,
    meanChordAftM: mac.leadingAftM,
    wingLoading: massKg / area,
    stallMps: stallSpeed(airframe),
    bestGlideMps: bestGlide,
    bestGlideRatio: liftBest / (2 * drag0),
    neutralPointAftM: neutral,
    staticMargin: (neutral - airframe.cgAftM) / mac.chordM,
    cgForwardM: neutral - STATIC_MARGIN_MOST * mac.chordM,
    cgAftLimitM: neutral - STATIC_MARGIN_LEAST * mac.chordM,
  };
}

/**
 * Neutral point aft of the nose, m: where lift slopes of wing and tail balance, the tail's lessened by
 * downwash and by its dihedral (Etkin and Reid 1996, eq. 2.3,23 without the body).
 */
export function neutralPoint(airframe: Airframe): number {
  const wing = wingOf(airframe);
  const wingAspect = wing.spanM ** 2 / planformArea(wing);
  let sum = 0;
  let moment = 0;
  for (const plan of airframe.planforms) {
    if (plan.id === 'fin') continue;
    const level = Math.cos(plan.dihedralDeg * DEG) ** 2;
    const downwash = plan.id === 'tail' ? (2 * pairLiftSlope(wing)) / (Math.PI * wingAspect) : 0;
    const share = pairLiftSlope(plan) * planformArea(plan) * level * Math.max(0, 1 - downwash);
    const { chordM, leadingAftM } = meanChord(plan);
    sum += share;
    moment += share * (leadingAftM + 0.25 * chordM);
  }
  return moment / sum;
}

/** Steady straight flight found on the panel model. */
export interface Trim {
  readonly alpha: number;
  /** Pitch command that holds it, share of full throw, nose up positive. */
  readonly pitch: number;
  /** Thrust along body x needed, N. */
  readonly thrust: number;
}

/** Deflections of all surfaces for a share of full command on one axis, rad, by the mixer's roles. */
export function deflectionsFor(
  airframe: Airframe,
  axis: 'roll' | 'pitch' | 'yaw',
  command: number,
  out: Float64Array,
): void {
  for (let k = 0; k < airframe.surfaces.length; k++) {
    const s = airframe.surfaces[k]!;
    out[k] = roleMix(s.id, airframe.kind)[axis] * command * s.throwDeg * DEG;
  }
}

/**
 * Trims the panel model for level flight at a speed by Newton steps on lift and pitching moment.
 * Null where no trim exists (too slow, or the surfaces run out at their throw).
 */
export function trimLevel(airframe: Airframe, speed: number, rho = SEA_LEVEL_DENSITY): Trim | null {
  const panels = new PanelModel(airframe);
  panels.rho = rho;
  const v = new Float64Array(3);
  const w = new Float64Array(3);
  const d = new Float64Array(panels.surfaceIds.length);
  const weight = airframe.massKg * GRAVITY;
  let alpha = 0;
  let pitch = 0;
  let thrust = 0;
  const residual = (a: number, e: number): [number, number] => {
    v[0] = speed * Math.cos(a);
    v[2] = speed * Math.sin(a);
    deflectionsFor(airframe, 'pitch', e, d);
    panels.evaluate(v, w, d);
    thrust = weight * Math.sin(a) - panels.force[0]!;
    return [panels.force[2]! + weight * Math.cos(a), panels.moment[1]!];
  };
  for (let k = 0; k < 40; k++) {
    const [z, m] = residual(alpha, pitch);
    if (Math.abs(z) < 1e-6 * weight && Math.abs(m) < 1e-7) break;
    const h = 1e-5;
    const [za, ma] = residual(alpha + h, pitch);
    const [ze, me] = residual(alpha, pitch + h);
    const a11 = (za - z) / h;
    const a21 = (ma - m) / h;
    const a12 = (ze - z) / h;
    const a22 = (me - m) / h;
    const det = a11 * a22 - a12 * a21;
    if (Math.abs(det) < 1e-12) return null;
    alpha -= Math.max(-0.05, Math.min(0.05, (z * a22 - m * a12) / det));
    pitch -= Math.max(-0.25, Math.min(0.25, (m * a11 - z * a21) / det));
  }
  const [z, m] = residual(alpha, pitch);
  if (Math.abs(z) > 1e-3 * weight || Math.abs(m) > 1e-3 || Math.abs(pitch) > 1) return null;
  return { alpha, pitch, thrust };
}

/** How a craft hovers, from its propellers: SI. */
export interface Hover {
  /** Duty that carries the weight. */
  readonly throttle: number;
  readonly thrustToWeight: number;
  readonly currentA: number;
  readonly minutes: number;
  /** What its discs hold back, N per m/s across them. */
  readonly rotorDrag: number;
  /** Greatest speed through still air at a tilt: m g tan(tilt) = (1/2) rho V^2 C_D A + rotor drag V, m/s. */
  topSpeedMps(tiltRad: number): number;
}

/** Supply under load at half charge, V. */
export function supplyUnderLoad(airframe: Airframe): number {
  return 0.97 * airframe.battery.cells * openCircuitV(airframe.battery.chemistry, 0.55);
}

/** Thrust and current of all motors at a duty and axial speed, settled. */
export function thrustAt(
  airframe: Airframe,
  duty: number,
  speed: number,
  rho = SEA_LEVEL_DENSITY,
): { thrust: number; currentA: number } {
  const supply = supplyUnderLoad(airframe);
  let thrust = 0;
  let currentA = 0;
  for (const m of airframe.motors) {
    const unit = new MotorUnit(m);
    unit.settle(duty, supply, speed, rho);
    thrust += unit.thrust;
    currentA += unit.currentA;
  }
  return { thrust, currentA };
}

/** What the motors draw in a hover, or at the cruise that the board is set to, A; null where that is not set. */
export function cruiseCurrent(airframe: Airframe, values: Values): number | null {
  if (isRotorcraft(airframe)) return hoverOf(airframe).currentA;
  const [throttle, speed] = [settingOf(values, 'motor.cruise'), settingOf(values, 'nav.speed')];
  return throttle === undefined || speed === undefined ? null : thrustAt(airframe, throttle, speed).currentA;
}

/** Duty that gives a thrust at an axial speed, all motors alike, by bisection on the settled motor model. */
export function dutyFor(airframe: Airframe, thrust: number, speed: number, rho = SEA_LEVEL_DENSITY): number {
  let low = 0;
  let high = 1;
  for (let k = 0; k < 14; k++) {
    const mid = (low + high) / 2;
    if (thrustAt(airframe, mid, speed, rho).thrust < thrust) low = mid;
    else high = mid;
  }
  return high;
}

const hovers = new WeakMap<Airframe, Hover>();

/** @throws RangeError on a craft that does not hover */
export function hoverOf(airframe: Airframe): Hover {
  const known = hovers.get(airframe);
  if (known) return known;
  const hover = findHover(airframe, SEA_LEVEL_DENSITY);
  hovers.set(airframe, hover);
  return hover;
}

function findHover(airframe: Airframe, rho: number): Hover {
  if (!isRotorcraft(airframe)) throw new RangeError(`${airframe.name} does not hover`);
  const weight = airframe.massKg * GRAVITY;
  const throttle = dutyFor(airframe, weight, 0, rho);
  const { currentA } = thrustAt(airframe, throttle, 0, rho);
  const unit = new MotorUnit(airframe.motors[0]!);
  unit.settle(throttle, supplyUnderLoad(airframe), 0, rho);
  const rotorDrag = weight / (unit.omega * 0.5 * unit.motor.propDiameterM);
  return {
    throttle,
    thrustToWeight: thrustAt(airframe, 1, 0, rho).thrust / weight,
    currentA,
    rotorDrag,
    minutes: (airframe.battery.capacityMah * 0.8 * 0.06) / currentA,
    topSpeedMps: (tilt) => {
      const push = weight * Math.tan(tilt);
      const a = 0.5 * rho * airframe.bodyDragM2;
      return (-rotorDrag + Math.sqrt(rotorDrag ** 2 + 4 * a * push)) / (2 * a);
    },
  };
}

/** Where the balance of a craft with rotors lies, from the middle of its rotors. */
export interface RotorBalance {
  /** m */
  readonly behindM: number;
  readonly rightM: number;
  /** What the hardest working rotor pushes in a hover, over the mean of all. */
  readonly hardest: number;
}

/**
 * How unlike rotors of one size have to push in a hover: of all thrusts whose sum carries the craft about its centre of
 * gravity, those nearest to each other (least squares), t_i = 1 + n (x x_i / S_x + y y_i / S_y) from the rotors' middle.
 */
export function rotorBalance(airframe: Airframe): RotorBalance {
  const { motors } = airframe;
  const n = motors.length;
  const aft = motors.reduce((sum, m) => sum + m.aftM, 0) / n;
  const right = motors.reduce((sum, m) => sum + m.rightM, 0) / n;
  const sumX = motors.reduce((sum, m) => sum + (m.aftM - aft) ** 2, 0);
  const sumY = motors.reduce((sum, m) => sum + (m.rightM - right) ** 2, 0);
  const behindM = airframe.cgAftM - aft;
  const rightM = -right;
  const pushes = motors.map(
    (m) => 1 + n * ((behindM * (m.aftM - aft)) / sumX + (rightM * (m.rightM - right)) / sumY),
  );
  return { behindM, rightM, hardest: Math.max(...pushes) };
}

/** Time for a motor to make 63 % of a small change of speed, s. */
export function motorLag(airframe: Airframe, duty: number): number {
  const unit = new MotorUnit(airframe.motors[0]!);
  const supply = supplyUnderLoad(airframe);
  unit.settle(duty, supply, 0, SEA_LEVEL_DENSITY);
  const from = unit.omega;
  const end = new MotorUnit(airframe.motors[0]!);
  end.settle(duty + 0.05, supply, 0, SEA_LEVEL_DENSITY);
  let t = 0;
  while (unit.omega < from + 0.63 * (end.omega - from) && t < 0.5) {
    unit.meet(duty + 0.05, supply, 0, SEA_LEVEL_DENSITY);
    unit.step(0.0005);
    t += 0.0005;
  }
  return t;
}

/**
 * How fast the rotors' momentum that does not cancel would turn roll into pitch at the hover, rad/s: the sum of their
 * J w with its signs over the mean of the two inertias. Zero for pairs that turn against each other.
 */
export function precessionRate(airframe: Airframe): number {
  const { throttle } = hoverOf(airframe);
  const { xx, yy } = inertiaOf(airframe);
  let sum = 0;
  for (const m of airframe.motors) {
    const unit = new MotorUnit(m);
    unit.settle(throttle, supplyUnderLoad(airframe), 0, SEA_LEVEL_DENSITY);
    sum += (m.spin === 'clockwise' ? 1 : -1) * unit.inertia * unit.omega;
  }
  return Math.abs(sum) / (0.5 * (xx + yy));
}
