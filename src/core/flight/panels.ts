import type { SurfaceId } from '../airframe/actuators.ts';
import {
  type Airframe,
  type Planform,
  type PlanformId,
  planformOf,
  type Surface,
} from '../airframe/airframe.ts';
import { DEG, smoothStep } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';
import { SEA_LEVEL_DENSITY } from './atmosphere.ts';
import { latticeOf } from './lattice.ts';
import { flapEffectiveness, flapMoment, helmboldLiftSlope } from './liftSlope.ts';

/** A half is cut where its control surfaces begin and end, and no strip is longer than this share of it. */
const LONGEST_STRIP = 0.34;
const SHORTEST_STRIP = 0.07;
export const SECTION_DRAG = 0.012;
export const SPAN_EFFICIENCY = 0.85;
/** Share of the deflection that real hinges, gaps and boundary layers leave of thin-aerofoil theory. */
const FLAP_QUALITY = 0.8;
/** A fin stands on a body or wing that mirrors part of it, which raises its effective aspect ratio. */
const FIN_MIRROR = 1.5;
/** Radius of a propeller's wake over that of the propeller: it contracts behind the disc. */
const WAKE_RADIUS = 0.85;

/** What the numbers of a panel are, in this order. */
const X = 0;
const Y = 1;
const Z = 2;
const CX = 3;
const CZ = 4;
const NX = 5;
const NY = 6;
const NZ = 7;
const AREA = 8;
const SLOPE = 9;
const INDUCED = 10;
const STALL = 11;
const LIFT_MAX = 12;
const TAU = 13;
const ZERO_LIFT = 14;
const MOMENT0 = 15;
const MOMENT_TAU = 16;
const SX = 17;
const SY = 18;
const SZ = 19;
const CHORD = 20;
/** Shares of the lift slope that a half keeps where the other half asks for the opposite: by roll, by slip, by flaps. */
const BY_ROLL = 21;
const BY_SLIP = 22;
/** Lift added per share of flow from the side, right half positive: what sweep does. */
const SWEEP = 23;
/** A number for each half, so that no strip has to ask on which it lies. */
const HALF = 24;

/**
 * Panel aerodynamics of one craft (HANDBOOK section 3): each strip of wing, tail and fin meets its own flow
 * v + w x r, lifts by Helmbold's slope, stalls softly into a flat plate, and drags by section and induced
 * drag. The tail sees the wing's downwash 2 C_L/(pi A); panels behind a propeller see its wake. Body axes,
 * origin at the centre of gravity, SI. A craft without planforms has a body only.
 */
export class PanelModel {
  readonly wingArea: number;
  readonly wingAspect: number;
  /** Surfaces in the order of the `deflections` argument. */
  readonly surfaceIds: readonly SurfaceId[];
  /** Force and moment of the last `evaluate`, body axes, N and N m. */
  readonly force: Vec3 = new Float64Array(3);
  readonly moment: Vec3 = new Float64Array(3);
  /** Lift coefficient of the wing in the last `evaluate`. */
  wingLift = 0;
  /** Speed that each propeller adds to the air behind it, m/s, in the order of the motors. Set before `evaluate`. */
  readonly wake: Float64Array;
  /** Density of the air, kg/m^3. Set before `evaluate`. */
  rho = SEA_LEVEL_DENSITY;

  /** The numbers of each panel. Public for the yardstick in C. */
  readonly rows: readonly Float64Array[];
  readonly surfaceOf: Int8Array;
  readonly wakeShare: Float64Array;
  /** Panels that lie in some propeller's wake. */
  private readonly blown: Uint8Array;
  readonly wingPanels: number;
  readonly tailPanels: number;
  readonly count: number;
  /** The surface on the other half that may move against a surface, and the share of its slope that is left then. */
  readonly partnerOf: Int8Array;
  readonly flapShare: Float64Array;
  /** Of the wing above the ground, m; far away unless set before `evaluate`. */
  aboveGround = Number.POSITIVE_INFINITY;
  readonly wingSpan: number;
  private readonly turned: Float64Array;
  private readonly bodyDrag: number;
  readonly bodySide: number;
  readonly bodyAft: number;
  readonly downwash: number;

  constructor(private readonly airframe: Airframe) {
    const rows: number[][] = [];
    const owners: number[] = [];
    const shares: number[] = [];
    this.surfaceIds = airframe.surfaces.map((s) => s.id);
    this.wake = new Float64Array(airframe.motors.length);
    const cut = (id: PlanformId) => {
      const plan = airframe.planforms.find((p) => p.id === id);
      if (!plan) return;
      for (const side of plan.pair ? [-1, 1] : [0]) {
        const marks = id === 'wing' ? cutsOf(airframe.surfaces, side) : [0, 1];
        for (let k = 0; k + 1 < marks.length; k++)
          rows.push(this.row(plan, side, marks[k]!, marks[k + 1]!, owners, shares));
      }
    };
    cut('wing');
    this.wingPanels = rows.length;
    cut('tail');
    this.tailPanels = rows.length;
    cut('fin');
    this.count = rows.length;
    this.rows = rows.map((row) => Float64Array.from(row));
    this.surfaceOf = Int8Array.from(owners);
    this.partnerOf = Int8Array.from(airframe.surfaces, (s) => partnerIn(airframe.surfaces, s));
    this.flapShare = new Float64Array(airframe.surfaces.length).fill(1);
    this.turned = new Float64Array(airframe.surfaces.length);
    this.fitToLattice('wing', 0, this.wingPanels);
    this.fitToLattice('tail', this.wingPanels, this.tailPanels);
    this.wakeShare = Float64Array.from(shares);
    const n = airframe.motors.length;
    this.blown = Uint8Array.from(rows, (_, i) => (shares.slice(i * n, i * n + n).some((s) => s > 0) ? 1 : 0));
    const wing = airframe.planforms.find((p) => p.id === 'wing');
    this.wingArea = wing ? planformArea(wing) : 1;
    this.wingAspect = wing ? wing.spanM ** 2 / this.wingArea : 1;
    this.wingSpan = wing ? wing.spanM : 0;
    this.bodyDrag = airframe.bodyDragM2;
    // A body with wings is a long one that slips sideways badly; without, its drag is alike on all sides.
    this.bodySide = wing ? 0.5 * airframe.lengthM * airframe.bodyHeightM : airframe.bodyDragM2;
    this.bodyAft = wing ? airframe.cgAftM - 0.5 * airframe.lengthM : 0;
    this.downwash = wing ? 2 / (Math.PI * this.wingAspect) : 0;
  }

  private row(
    plan: Planform,
    side: number,
    from: number,
    to: number,
    owners: number[],
    shares: number[],
  ): number[] {
    const airframe = this.airframe;
    const mid = (from + to) / 2;
    const chord = plan.rootChordM + (plan.tipChordM - plan.rootChordM) * mid;
    const leading = plan.rootAftM + (plan.tipAftM - plan.rootAftM) * mid;
    const half = plan.pair ? plan.spanM / 2 : plan.spanM;
    const gamma = plan.pair ? plan.dihedralDeg * DEG : Math.PI / 2;
    const incidence = (plan.incidenceDeg - plan.washoutDeg * mid) * DEG;
    const along = half * mid;
    const area = chord * half * (to - from);
    const upright = plan.id === 'fin';
    const whole = planformArea(plan);
    const aspect = upright
      ? (FIN_MIRROR * half ** 2) / (plan.pair ? whole / 2 : whole)
      : plan.spanM ** 2 / whole;
    const sweep = Math.atan2(
      plan.tipAftM + 0.25 * plan.tipChordM - plan.rootAftM - 0.25 * plan.rootChordM,
      half,
    );
    const slope = plan.pair && !upright ? pairLiftSlope(plan) : helmboldLiftSlope(aspect) * Math.cos(sweep);
    const x = airframe.cgAftM - leading - 0.25 * chord;
    const y = side * (plan.rootRightM + along * Math.cos(gamma));
    const up = plan.upM + along * Math.sin(gamma);
    const surface = airframe.surfaces.findIndex(
      (s) => s.on === plan.id && covers(s, side) && Math.min(to, s.to) > Math.max(from, s.from) + 0.02,
    );
    let tau = 0;
    let flap = 0;
    if (surface >= 0) {
      const s = airframe.surfaces[surface]!;
      const share = (Math.min(to, s.to) - Math.max(from, s.from)) / (to - from);
      tau = FLAP_QUALITY * flapEffectiveness(s.chordShare) * share;
      flap = FLAP_QUALITY * flapMoment(s.chordShare) * share;
    }
    owners.push(surface);
    shares.push(...airframe.motors.map((m) => wakeShareOf(m, airframe, x, y, up, half * (to - from), gamma)));
    const ci = Math.cos(incidence);
    const c = [ci, 0, -Math.sin(incidence)] as const;
    // Normal: up on a wing half. On fins it points right, so that positive deflection is trailing edge left.
    let n: readonly [number, number, number];
    if (side === 0) n = [0, 1, 0];
    else {
      n = [-Math.sin(incidence), -side * Math.sin(gamma), -ci * Math.cos(gamma)];
      if (upright && side > 0) n = [-n[0], -n[1], -n[2]];
    }
    // Span direction: chord x normal, about which a nose-up moment is positive for a wing.
    const s = [c[1] * n[2] - c[2] * n[1], c[2] * n[0] - c[0] * n[2], c[0] * n[1] - c[1] * n[0]] as const;
    const stall = plan.liftMax / slope;
    return [
      x,
      y,
      -up,
      c[0],
      c[2],
      n[0],
      n[1],
      n[2],
      area,
      slope,
      1 / (Math.PI * SPAN_EFFICIENCY * aspect),
      stall,
      plan.liftMax,
      tau,
      plan.zeroLiftDeg * DEG,
      plan.sectionMoment,
      flap,
      s[0],
      s[1],
      s[2],
      chord,
      1,
      1,
      0,
      upright ? 0 : side,
    ]; // prettier-ignore
  }

  /**
   * Scales what the strips of a pair make of unlike halves to the vortex lattice: roll damping, the effect of slip on
   * dihedral or on a V, ailerons and ruddervators, and the rolling moment of a swept wing that slips.
   */
  private fitToLattice(id: PlanformId, from: number, to: number): void {
    const plan = planformOf(this.airframe, id);
    if (!plan?.pair || from === to) return;
    const lattice = latticeOf(plan);
    const rows = this.rows.slice(from, to);
    const rolls = plan.dihedralDeg < 25;
    // Across its own plane each strip stands at its distance from the root's middle.
    const level = Math.cos(plan.dihedralDeg * DEG);
    const out = (t: Float64Array) =>
      plan.rootRightM + (Math.abs(t[Y]!) - plan.rootRightM) / Math.max(level, 0.1);
    const sum = (weight: (t: Float64Array, i: number) => number) =>
      rows.reduce((all, t, i) => all + t[SLOPE]! * t[AREA]! * weight(t, i), 0);
    const byRoll = lattice.rollByRoll / sum((t) => out(t) ** 2);
    const bySlip = rolls ? lattice.rollByTwist / sum(out) : lattice.sideByTwist / sum(() => 1);
    // Flat strips of one lift coefficient: each half's lift acts where its area does.
    const arm = sum(out) / sum(() => 1);
    const sweep = -lattice.rollBySlip / arm;
    for (const t of rows) {
      t[BY_ROLL] = byRoll;
      t[BY_SLIP] = bySlip;
      t[SWEEP] = t[HALF]! * sweep;
    }
    for (const [k, s] of this.airframe.surfaces.entries()) {
      if (s.on !== id || this.partnerOf[k]! < 0) continue;
      const own = (i: number) =>
        this.surfaceOf[from + i] === k || this.surfaceOf[from + i] === this.partnerOf[k];
      // Of the strips as they are cut: a surface that ends within one moves it by its share.
      const part = (t: Float64Array, i: number) => (own(i) ? t[TAU]! : 0);
      const answer = lattice.twisted(s.from, s.to);
      const theirs = (rolls ? answer.roll : answer.side) * tauOf(s);
      const ours = sum((t, i) => part(t, i) * (rolls ? out(t) : 1));
      // A surface too narrow to move any strip has nothing to be scaled.
      this.flapShare[k] = ours > 0 ? theirs / ours : 1;
    }
  }

  /** The right half of the wing is gone. */
  break(): void {
    for (let i = 0; i < this.wingPanels; i++) if (this.rows[i]![Y]! > 0) this.rows[i]![AREA]! *= 0.1;
  }

  /**
   * Force and moment of the air.
   * @param v velocity of the craft through the air, body axes, m/s
   * @param w body rates, rad/s
   * @param deflections rad, in the order of `surfaceIds`; positive is trailing edge down (left, on a fin)
   */
  evaluate(v: Vec3, w: Vec3, deflections: Float64Array): void {
    const { rho } = this;
    const vx0 = v[0]!;
    const vy0 = v[1]!;
    const vz0 = v[2]!;
    const p = w[0]!;
    const q = w[1]!;
    const r = w[2]!;
    const { rows, wake, wakeShare, surfaceOf, blown, count, wingPanels, tailPanels } = this;
    const motors = wake.length;
    let fx = 0;
    let fy = 0;
    let fz = 0;
    let mx = 0;
    let my = 0;
    let mz = 0;
    let liftArea = 0;
    let epsilon = 0;
    const { turned, partnerOf, flapShare } = this;
    for (let k = 0; k < turned.length; k++) {
      const partner = partnerOf[k]!;
      const own = deflections[k]!;
      turned[k] = partner < 0 ? own : own - 0.5 * (1 - flapShare[k]!) * (own - deflections[partner]!);
    }
    // Near the ground the trailing vortices are held up by their images (McCormick 1995, eq. 5.89).
    let near = 1;
    let steeper = 1;
    if (this.aboveGround < this.wingSpan) {
      const h = (16 * Math.max(this.aboveGround, 0)) / this.wingSpan;
      near = Math.max(0.05, (h * h) / (1 + h * h));
      steeper = helmboldLiftSlope(this.wingAspect / near) / helmboldLiftSlope(this.wingAspect);
    }
    for (let i = 0; i < count; i++) {
      const t = rows[i]!;
      if (i === wingPanels) {
        this.wingLift = liftArea / this.wingArea;
        epsilon = near * this.downwash * this.wingLift;
        steeper = 1;
      } else if (i === tailPanels) epsilon = 0;
      const x = t[X]!;
      const y = t[Y]!;
      const z = t[Z]!;
      let vx = vx0 + q * z - r * y;
      const vy = vy0 + r * x - p * z;
      const vz = vz0 + p * y - q * x;
      if (blown[i] !== 0) for (let k = 0; k < motors; k++) vx += wakeShare[i * motors + k]! * wake[k]!;
      const cx = t[CX]!;
      const cz = t[CZ]!;
      const nx = t[NX]!;
      const ny = t[NY]!;
      const nz = t[NZ]!;
      const along = vx * cx + vz * cz;
      const down = -(vx * nx + vy * ny + vz * nz) + epsilon * along * nz;
      // What one half meets the opposite of: the lattice gives it a lesser slope.
      const less = (1 - t[BY_SLIP]!) * vy * ny + (1 - t[BY_ROLL]!) * p * y * nz;
      const speed2 = along * along + down * down;
      if (speed2 < 1e-6) continue;
      // A division takes as long as several products, and there are a dozen panels.
      const perSpeed = 1 / Math.sqrt(speed2);
      const sin = down * perSpeed;
      const cos = along * perSpeed;
      const alpha = flowAngle(down, along);
      const owner = surfaceOf[i]!;
      const slope = steeper * t[SLOPE]!;
      const stall = t[STALL]!;
      const deflection = owner >= 0 ? turned[owner]! : 0;
      const shift = t[TAU]! * deflection;
      const flow = alpha - t[ZERO_LIFT]!;
      const size = flow < 0 ? -flow : flow;
      let lift = slope * (flow + less * perSpeed + shift);
      const top = t[LIFT_MAX]!;
      if (lift > top) lift = top;
      else if (lift < -top) lift = -top;
      let drag = SECTION_DRAG + near * lift * lift * t[INDUCED]! + 0.08 * shift * shift;
      let turn = t[MOMENT0]! + t[MOMENT_TAU]! * deflection;
      if (size > 0.9 * stall) {
        const stalled = smoothStep(size, 0.9 * stall, 0.9 * stall + 0.2);
        lift = (1 - stalled) * lift + stalled * (2 * sin * cos + 0.5 * slope * shift * cos * cos);
        drag = (1 - stalled) * drag + stalled * (SECTION_DRAG + 1.9 * sin * sin);
        // A flat plate's centre of pressure lies behind the quarter chord: the nose falls.
        turn = (1 - stalled) * turn - stalled * 0.25 * sin;
      }
      lift *= 1 + t[SWEEP]! * vy * perSpeed;
      const area = t[AREA]!;
      if (i < wingPanels) liftArea += lift * area;
      const pressure = 0.5 * rho * speed2 * area;
      // Lift is at right angles to the flow, drag along it, both in the panel's own plane.
      const alongN = pressure * (lift * cos + drag * sin);
      const alongC = pressure * (lift * sin - drag * cos);
      const couple = pressure * turn * t[CHORD]!;
      const px = alongN * nx + alongC * cx;
      const py = alongN * ny;
      const pz = alongN * nz + alongC * cz;
      fx += px;
      fy += py;
      fz += pz;
      mx += y * pz - z * py + couple * t[SX]!;
      my += z * px - x * pz + couple * t[SY]!;
      mz += x * py - y * px + couple * t[SZ]!;
    }
    const total = Math.sqrt(vx0 * vx0 + vy0 * vy0 + vz0 * vz0);
    const bodyX = -0.5 * rho * this.bodyDrag * total * vx0;
    const bodyY = -0.5 * rho * this.bodySide * Math.abs(vy0) * vy0;
    const bodyZ = -0.5 * rho * this.bodySide * Math.abs(vz0) * vz0;
    this.force[0] = fx + bodyX;
    this.force[1] = fy + bodyY;
    this.force[2] = fz + bodyZ;
    this.moment[0] = mx;
    this.moment[1] = my - this.bodyAft * bodyZ;
    this.moment[2] = mz + this.bodyAft * bodyY;
  }
}

/**
 * atan2(down, along). Where the flow comes nearly along the chord the series to the ninth power serves: at 0.35 it
 * is off by less than 1e-6 rad, and it costs a fifth.
 */
function flowAngle(down: number, along: number): number {
  if (along > 0) {
    const t = down / along;
    const t2 = t * t;
    if (t2 < 0.1225) return t * (1 - t2 * (1 / 3 - t2 * (0.2 - t2 * (1 / 7 - t2 / 9))));
  }
  return Math.atan2(down, along);
}

/** Area of a straight-tapered planform over its whole span (an upright one: its height), m^2. */
export function planformArea(plan: Planform): number {
  return (plan.spanM * (plan.rootChordM + plan.tipChordM)) / 2;
}

/** Where a wing half is cut: at the ends of its surfaces, and between them so that no strip is too long. */
function cutsOf(surfaces: readonly Surface[], side: number): number[] {
  const marks = [0, 1];
  for (const s of surfaces) {
    if (s.on !== 'wing' || !covers(s, side)) continue;
    for (const edge of [s.from, s.to]) {
      if (marks.every((m) => Math.abs(m - edge) > SHORTEST_STRIP)) marks.push(edge);
    }
  }
  marks.sort((a, b) => a - b);
  const cuts = [0];
  for (let k = 1; k < marks.length; k++) {
    const from = marks[k - 1]!;
    const n = Math.ceil((marks[k]! - from) / LONGEST_STRIP - 1e-9);
    for (let j = 1; j <= n; j++) cuts.push(from + ((marks[k]! - from) * j) / n);
  }
  return cuts;
}

/** Share of a strip that lies in the wake of a motor that pushes air aft past it. */
function wakeShareOf(
  m: Airframe['motors'][number],
  airframe: Airframe,
  x: number,
  y: number,
  up: number,
  lengthM: number,
  gamma: number,
): number {
  if (m.thrust !== 'forward' || airframe.cgAftM - m.aftM < x) return 0;
  const radius = (WAKE_RADIUS * m.propDiameterM) / 2;
  const reachY = (lengthM * Math.abs(Math.cos(gamma))) / 2;
  const reachZ = (lengthM * Math.abs(Math.sin(gamma))) / 2;
  const overlap = (at: number, reach: number, centre: number) =>
    Math.max(0, Math.min(at + reach, centre + radius) - Math.max(at - reach, centre - radius)) /
    Math.max(2 * reach, 1e-6);
  const inY = reachY > 0.01 ? overlap(y, reachY, m.rightM) : Math.abs(y - m.rightM) < radius ? 1 : 0;
  const inZ = reachZ > 0.01 ? overlap(up, reachZ, m.upM) : Math.abs(up - m.upM) < radius ? 1 : 0;
  return Math.min(1, inY) * Math.min(1, inZ);
}

/** The surface of the same name on the other half; -1 for none. */
function partnerIn(surfaces: readonly Surface[], s: Surface): number {
  const other = s.id.startsWith('left-')
    ? s.id.replace('left-', 'right-')
    : s.id.startsWith('right-')
      ? s.id.replace('right-', 'left-')
      : '';
  return surfaces.findIndex((o) => o.id === other && o.on === s.on && o.on !== 'fin');
}

function tauOf(s: Surface): number {
  return FLAP_QUALITY * flapEffectiveness(s.chordShare);
}

/** Lift slope of a pair of halves across their own plane, per rad, from the vortex lattice. */
export function pairLiftSlope(plan: Planform): number {
  return latticeOf(plan).lift / (planformArea(plan) * Math.cos(plan.dihedralDeg * DEG) ** 2);
}

function covers(surface: Surface, side: number): boolean {
  if (surface.id.startsWith('left-')) return side < 0;
  if (surface.id.startsWith('right-')) return side > 0;
  return true;
}
