import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { helmboldLiftSlope } from '../flight/liftSlope.ts';
import { PanelModel, planformArea } from '../flight/panels.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import type { Airframe, Planform } from './airframe.ts';

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
  const area = planformArea(airframe.wing);
  return Math.sqrt((2 * airframe.massKg * GRAVITY) / (rho * area * airframe.wing.liftMax));
}

/** Turn radius V^2/(g tan bank) in a coordinated turn, m. @param bank rad */
export function turnRadius(speed: number, bank: number): number {
  return (speed * speed) / (GRAVITY * Math.tan(bank));
}

export function performanceOf(airframe: Airframe): Performance {
  const { wing, tail, massKg } = airframe;
  const area = planformArea(wing);
  const aspect = wing.spanM ** 2 / area;
  const mac = meanChord(wing);
  const neutral = neutralPoint(airframe);
  const tailArea = planformArea(tail);
  // Zero-lift drag: section drag of every panel and the body, on the wing area.
  const drag0 = 0.012 * (1 + (tailArea + planformArea(airframe.fin)) / area) + airframe.bodyDragM2 / area;
  const induced = 1 / (Math.PI * 0.85 * aspect);
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
 * downwash (Etkin and Reid 1996, eq. 2.3,23 without the body).
 */
export function neutralPoint(airframe: Airframe): number {
  const slopeOf = (plan: Planform) => helmboldLiftSlope(plan.spanM ** 2 / planformArea(plan));
  const wingArea = planformArea(airframe.wing);
  const wingSlope = slopeOf(airframe.wing);
  const downwashSlope = (2 * wingSlope) / (Math.PI * (airframe.wing.spanM ** 2 / wingArea));
  const quarter = (plan: Planform) => {
    const { chordM, leadingAftM } = meanChord(plan);
    return leadingAftM + 0.25 * chordM;
  };
  const a = wingSlope * wingArea;
  const b = slopeOf(airframe.tail) * planformArea(airframe.tail) * Math.max(0, 1 - downwashSlope);
  return (a * quarter(airframe.wing) + b * quarter(airframe.tail)) / (a + b);
}

/** Steady straight flight found on the panel model. */
export interface Trim {
  readonly alpha: number;
  /** Elevator, rad, trailing edge down positive. */
  readonly elevator: number;
  /** Thrust along body x needed, N. */
  readonly thrust: number;
}

/**
 * Trims the panel model for level flight at a speed by Newton steps on lift and pitching moment.
 * Null where no trim exists (too slow, or the elevator runs out at its throw).
 */
export function trimLevel(airframe: Airframe, speed: number, rho = SEA_LEVEL_DENSITY): Trim | null {
  const panels = new PanelModel(airframe);
  const index = panels.surfaceIds.indexOf('elevator');
  if (index < 0) return null;
  const v = new Float64Array(3);
  const w = new Float64Array(3);
  const d = new Float64Array(panels.surfaceIds.length);
  const weight = airframe.massKg * GRAVITY;
  let alpha = 0;
  let elevator = 0;
  let thrust = 0;
  const residual = (a: number, e: number): [number, number] => {
    v[0] = speed * Math.cos(a);
    v[2] = speed * Math.sin(a);
    d[index] = e;
    panels.evaluate(v, w, d, rho);
    thrust = weight * Math.sin(a) - panels.force[0]!;
    return [panels.force[2]! + weight * Math.cos(a), panels.moment[1]!];
  };
  for (let k = 0; k < 30; k++) {
    const [z, m] = residual(alpha, elevator);
    if (Math.abs(z) < 1e-6 * weight && Math.abs(m) < 1e-7) break;
    const h = 1e-5;
    const [za, ma] = residual(alpha + h, elevator);
    const [ze, me] = residual(alpha, elevator + h);
    const a11 = (za - z) / h;
    const a21 = (ma - m) / h;
    const a12 = (ze - z) / h;
    const a22 = (me - m) / h;
    const det = a11 * a22 - a12 * a21;
    if (Math.abs(det) < 1e-12) return null;
    alpha -= Math.max(-0.05, Math.min(0.05, (z * a22 - m * a12) / det));
    elevator -= Math.max(-0.1, Math.min(0.1, (m * a11 - z * a21) / det));
  }
  const [z, m] = residual(alpha, elevator);
  const limit = airframe.surfaces.find((s) => s.id === 'elevator')!.throwDeg * DEG;
  if (Math.abs(z) > 1e-3 * weight || Math.abs(m) > 1e-3 || Math.abs(elevator) > limit) return null;
  return { alpha, elevator, thrust };
}
