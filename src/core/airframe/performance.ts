import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { openCircuitV } from '../flight/battery.ts';
import { helmboldLiftSlope } from '../flight/liftSlope.ts';
import { PanelModel, planformArea, SECTION_DRAG, SPAN_EFFICIENCY } from '../flight/panels.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { roleMix } from '../mixer/roles.ts';
import { type Airframe, isRotorcraft, type Planform, wingOf } from './airframe.ts';

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

/** Stall speed sqrt(2 m g/(rho S C_Lmax)), m/s, wings level. */
export function stallSpeed(airframe: Airframe, rho = SEA_LEVEL_DENSITY): number {
  const wing = wingOf(airframe);
  return Math.sqrt((2 * airframe.massKg * GRAVITY) / (rho * planformArea(wing) * wing.liftMax));
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
    const downwash = plan.id === 'tail' ? (2 * planformSlope(wing)) / (Math.PI * wingAspect) : 0;
    const share = planformSlope(plan) * planformArea(plan) * level * Math.max(0, 1 - downwash);
    const { chordM, leadingAftM } = meanChord(plan);
    sum += share;
    moment += share * (leadingAftM + 0.25 * chordM);
  }
  return moment / sum;
}

/** Lift slope of a whole planform, per rad: Helmbold's with the cosine of the quarter-chord sweep. */
function planformSlope(plan: Planform): number {
  const along = plan.tipAftM + 0.25 * plan.tipChordM - plan.rootAftM - 0.25 * plan.rootChordM;
  const sweep = Math.atan2(along, plan.spanM / 2);
  return helmboldLiftSlope(plan.spanM ** 2 / planformArea(plan)) * Math.cos(sweep);
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
    minutes: (airframe.battery.capacityMah * 0.8 * 0.06) / currentA,
    topSpeedMps: (tilt) => {
      const push = weight * Math.tan(tilt);
      const a = 0.5 * rho * airframe.bodyDragM2;
      return (-rotorDrag + Math.sqrt(rotorDrag ** 2 + 4 * a * push)) / (2 * a);
    },
  };
}
