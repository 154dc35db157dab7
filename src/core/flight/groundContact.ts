import { type Airframe, isRotorcraft, planformOf } from '../airframe/airframe.ts';
import { type Quat, toBody, toEarth } from '../math/quaternion.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';

/** How far the ground gives under the craft's weight, m, and how much of critical the damping is. */
const SINK_M = 0.02;
const DAMPING = 0.7;
const GRASS_FRICTION = 0.5;
const ROLLING_FRICTION = 0.06;
/** Below this sliding speed friction fades out, so that a craft at rest stays at rest, m/s. */
const STICTION_MPS = 0.02;

/**
 * Ground under the craft: springs and dampers at its lowest points, with friction. Wheels roll along the nose
 * and hardly sideways. Forces are summed in body axes.
 */
export class GroundContact {
  readonly force: Vec3 = new Float64Array(3);
  readonly moment: Vec3 = new Float64Array(3);
  touching = false;
  /** Hardest speed into the ground of any point since `clear`, m/s. */
  impactMps = 0;
  /** Farthest point from the centre of gravity, m: higher than this nothing can touch. */
  readonly reach: number;
  /** Of the lowest point under the centre of gravity, m. */
  readonly depth: number;
  private readonly points: Float64Array;
  private readonly count: number;
  private readonly wheels: boolean;
  private readonly stiffness: number;
  private readonly damping: number;
  private readonly work: Vec3 = new Float64Array(3);
  private readonly up: Vec3 = new Float64Array(3);

  constructor(airframe: Airframe) {
    const points = contactPoints(airframe);
    this.points = Float64Array.from(points.flat());
    this.count = points.length;
    this.wheels = airframe.launch === 'wheels';
    this.stiffness = (airframe.massKg * GRAVITY) / 3 / SINK_M;
    this.damping = 2 * DAMPING * Math.sqrt((this.stiffness * airframe.massKg) / 3);
    this.depth = Math.max(...points.map((p) => p[2]));
    this.reach = Math.max(...points.map((p) => Math.hypot(...p)));
  }

  clear(): void {
    this.impactMps = 0;
    this.touching = false;
  }

  /**
   * @param aboveGround of the centre of gravity, m
   * @param velocity over ground, earth axes, m/s. @param rates body, rad/s
   */
  evaluate(aboveGround: number, velocity: Vec3, attitude: Quat, rates: Vec3): void {
    const f = this.force.fill(0);
    const m = this.moment.fill(0);
    this.touching = false;
    const up = this.up;
    up[0] = 0;
    up[1] = 0;
    up[2] = -1;
    toBody(up, attitude, up);
    const v = this.work;
    for (let i = 0; i < this.count; i++) {
      const x = this.points[3 * i]!;
      const y = this.points[3 * i + 1]!;
      const z = this.points[3 * i + 2]!;
      const depth = -(aboveGround + x * up[0]! + y * up[1]! + z * up[2]!);
      if (depth <= 0) continue;
      // Speed of the point: that of the craft plus the turn's.
      v[0] = rates[1]! * z - rates[2]! * y;
      v[1] = rates[2]! * x - rates[0]! * z;
      v[2] = rates[0]! * y - rates[1]! * x;
      toEarth(v, attitude, v);
      v[0]! += velocity[0]!;
      v[1]! += velocity[1]!;
      v[2]! += velocity[2]!;
      if (v[2]! > this.impactMps) this.impactMps = v[2]!;
      this.touching = true;
      const press = Math.max(0, this.stiffness * depth + this.damping * v[2]!);
      toBody(v, attitude, v);
      const into = -(v[0]! * up[0]! + v[1]! * up[1]! + v[2]! * up[2]!);
      const sx = v[0]! + into * up[0]!;
      const sy = v[1]! + into * up[1]!;
      const sz = v[2]! + into * up[2]!;
      const slide = Math.sqrt(sx * sx + sy * sy + sz * sz);
      const grip = press / Math.max(slide, STICTION_MPS);
      const along = (this.wheels ? ROLLING_FRICTION : GRASS_FRICTION) * grip;
      const across = GRASS_FRICTION * grip;
      const px = press * up[0]! - along * sx;
      const py = press * up[1]! - across * sy;
      const pz = press * up[2]! - across * sz;
      f[0]! += px;
      f[1]! += py;
      f[2]! += pz;
      m[0]! += y * pz - z * py;
      m[1]! += z * px - x * pz;
      m[2]! += x * py - y * px;
    }
  }
}

/** Lowest points from the centre of gravity, body axes, m: feet under rotors, wheels, or belly and wing tips. */
function contactPoints(a: Airframe): [number, number, number][] {
  if (isRotorcraft(a)) {
    const low = a.bodyHeightM / 2 + 0.03;
    return a.motors.map((m) => [0.7 * (a.cgAftM - m.aftM), 0.7 * m.rightM, low]);
  }
  const low = a.bodyHeightM / 2;
  const wing = planformOf(a, 'wing');
  const points: [number, number, number][] = [];
  if (a.launch === 'wheels') {
    const gear = low + 0.08;
    const main = 0.06 * a.lengthM;
    points.push([main, 0.16, gear], [main, -0.16, gear], [a.cgAftM - 0.9 * a.lengthM, 0, low]);
  } else {
    points.push([a.cgAftM - 0.05 * a.lengthM, 0, low], [a.cgAftM - 0.95 * a.lengthM, 0, 0.5 * low]);
    points.push([0, 0.5 * a.bodyWidthM, low], [0, -0.5 * a.bodyWidthM, low]);
  }
  if (wing) {
    const tip = wing.rootRightM + (wing.spanM / 2) * Math.cos(wing.dihedralDeg * DEG);
    const up = wing.upM + (wing.spanM / 2) * Math.sin(wing.dihedralDeg * DEG);
    points.push([a.cgAftM - wing.tipAftM, tip, -up], [a.cgAftM - wing.tipAftM, -tip, -up]);
  }
  return points;
}
