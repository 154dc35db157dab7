import type { Airframe, Planform, Surface, SurfaceId } from '../airframe/airframe.ts';
import { DEG, smoothStep } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';
import { flapEffectiveness, helmboldLiftSlope } from './liftSlope.ts';

/** Wing halves are cut into this many strips, so that roll damping and the ailerons' arm come out right. */
const WING_STRIPS = 4;
const TAIL_STRIPS = 1;
const SECTION_DRAG = 0.012;
const SPAN_EFFICIENCY = 0.85;
/** Share of the deflection that real hinges, gaps and boundary layers leave of thin-aerofoil theory. */
const FLAP_QUALITY = 0.8;

/** Numbers a panel takes in the flat table, in this order. */
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
const CHORD_Y = 10;
const INDUCED = 11;
const STALL = 12;
const LIFT_MAX = 13;
const TAU = 14;
const STRIDE = 15;

/**
 * Panel aerodynamics of one craft (HANDBOOK section 3): each strip of wing, tail and fin meets its own flow
 * v + w x r, lifts by Helmbold's slope, stalls softly into a flat plate, and drags by section and induced
 * drag. The tail sees the wing's downwash 2 C_L/(pi A). Body axes, origin at the centre of gravity, SI.
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

  private readonly table: Float64Array;
  private readonly surfaceOf: Int8Array;
  private readonly wingPanels: number;
  private readonly tailPanels: number;
  private readonly count: number;
  private readonly bodyDrag: number;
  private readonly bodySide: number;
  private readonly bodyAft: number;
  private readonly downwash: number;

  constructor(airframe: Airframe) {
    const rows: number[][] = [];
    const owners: number[] = [];
    this.surfaceIds = airframe.surfaces.map((s) => s.id);
    const cut = (plan: Planform, on: Surface['on'], strips: number) => {
      const sides = on === 'fin' ? [0] : [-1, 1];
      const n = on === 'fin' ? 1 : strips;
      for (const side of sides) {
        for (let k = 0; k < n; k++) rows.push(this.row(airframe, plan, on, side, k / n, (k + 1) / n, owners));
      }
    };
    cut(airframe.wing, 'wing', WING_STRIPS);
    this.wingPanels = rows.length;
    cut(airframe.tail, 'tail', TAIL_STRIPS);
    this.tailPanels = rows.length;
    cut(airframe.fin, 'fin', 1);
    this.count = rows.length;
    this.table = Float64Array.from(rows.flat());
    this.surfaceOf = Int8Array.from(owners);
    this.wingArea = planformArea(airframe.wing);
    this.wingAspect = airframe.wing.spanM ** 2 / this.wingArea;
    this.bodyDrag = airframe.bodyDragM2;
    this.bodySide = 0.5 * airframe.lengthM * airframe.bodyHeightM;
    this.bodyAft = airframe.cgAftM - 0.5 * airframe.lengthM;
    this.downwash = 2 / (Math.PI * this.wingAspect);
  }

  private row(
    airframe: Airframe,
    plan: Planform,
    on: Surface['on'],
    side: number,
    from: number,
    to: number,
    owners: number[],
  ): number[] {
    const mid = (from + to) / 2;
    const chord = plan.rootChordM + (plan.tipChordM - plan.rootChordM) * mid;
    const leading = plan.rootAftM + (plan.tipAftM - plan.rootAftM) * mid;
    const half = on === 'fin' ? plan.spanM : plan.spanM / 2;
    const dihedral = plan.dihedralDeg * DEG;
    const incidence = plan.incidenceDeg * DEG;
    const along = half * mid;
    const area = chord * half * (to - from);
    const total = on === 'fin' ? area : planformArea(plan);
    // A fin stands on a body that mirrors part of it, which raises its effective aspect ratio by about half.
    const aspect = on === 'fin' ? (1.5 * plan.spanM ** 2) / total : plan.spanM ** 2 / total;
    const sweep = Math.atan2(
      plan.tipAftM + 0.25 * plan.tipChordM - plan.rootAftM - 0.25 * plan.rootChordM,
      half,
    );
    const slope = helmboldLiftSlope(aspect) * Math.cos(sweep);
    const x = airframe.cgAftM - leading - 0.25 * chord;
    const surface = airframe.surfaces.findIndex(
      (s) => s.on === on && covers(s, side) && Math.min(to, s.to) > Math.max(from, s.from),
    );
    let tau = 0;
    if (surface >= 0) {
      const s = airframe.surfaces[surface]!;
      const share = (Math.min(to, s.to) - Math.max(from, s.from)) / (to - from);
      tau = FLAP_QUALITY * flapEffectiveness(s.chordShare) * share;
    }
    owners.push(surface);
    const induced = 1 / (Math.PI * SPAN_EFFICIENCY * aspect);
    const stall = plan.liftMax / slope;
    if (on === 'fin') {
      // Chord forward, normal to the right: deflection positive is trailing edge left.
      return [x, 0, -(plan.upM + along), 1, 0, 0, 1, 0, area, slope, 0, induced, stall, plan.liftMax, tau];
    }
    const y = side * along * Math.cos(dihedral);
    const z = -(plan.upM + along * Math.sin(dihedral));
    const nx = -Math.sin(incidence);
    const ny = -side * Math.sin(dihedral);
    const nz = -Math.cos(incidence) * Math.cos(dihedral);
    const row = [x, y, z, Math.cos(incidence), -Math.sin(incidence), nx, ny, nz, area, slope, 0, induced];
    return [...row, stall, plan.liftMax, tau];
  }

  /**
   * Force and moment of the air.
   * @param v velocity of the craft through the air, body axes, m/s
   * @param w body rates, rad/s
   * @param deflections rad, in the order of `surfaceIds`; positive is trailing edge down (left, on a fin)
   * @param rho kg/m^3
   */
  evaluate(v: Vec3, w: Vec3, deflections: Float64Array, rho: number): void {
    const t = this.table;
    const vx0 = v[0]!;
    const vy0 = v[1]!;
    const vz0 = v[2]!;
    const p = w[0]!;
    const q = w[1]!;
    const r = w[2]!;
    let fx = 0;
    let fy = 0;
    let fz = 0;
    let mx = 0;
    let my = 0;
    let mz = 0;
    let liftArea = 0;
    let epsilon = 0;
    for (let i = 0; i < this.count; i++) {
      const o = i * STRIDE;
      if (i === this.wingPanels) {
        this.wingLift = liftArea / this.wingArea;
        epsilon = this.downwash * this.wingLift;
      } else if (i === this.tailPanels) epsilon = 0;
      const x = t[o + X]!;
      const y = t[o + Y]!;
      const z = t[o + Z]!;
      const vx = vx0 + q * z - r * y;
      const vy = vy0 + r * x - p * z;
      const vz = vz0 + p * y - q * x;
      const cx = t[o + CX]!;
      const cz = t[o + CZ]!;
      const nx = t[o + NX]!;
      const ny = t[o + NY]!;
      const nz = t[o + NZ]!;
      const along = vx * cx + vy * t[o + CHORD_Y]! + vz * cz;
      const down = -(vx * nx + vy * ny + vz * nz) - epsilon * along;
      const speed2 = along * along + down * down;
      if (speed2 < 1e-6) continue;
      const speed = Math.sqrt(speed2);
      const sin = down / speed;
      const cos = along / speed;
      const alpha = Math.atan2(down, along);
      const owner = this.surfaceOf[i]!;
      const slope = t[o + SLOPE]!;
      const stall = t[o + STALL]!;
      const shift = owner >= 0 ? t[o + TAU]! * deflections[owner]! : 0;
      const size = alpha < 0 ? -alpha : alpha;
      const stalled = size < 0.9 * stall ? 0 : smoothStep(size, 0.9 * stall, 0.9 * stall + 0.2);
      let lift = slope * (alpha + shift);
      const top = t[o + LIFT_MAX]!;
      if (lift > top) lift = top;
      else if (lift < -top) lift = -top;
      let drag = SECTION_DRAG + lift * lift * t[o + INDUCED]! + 0.08 * shift * shift;
      if (stalled > 0) {
        lift = (1 - stalled) * lift + stalled * (2 * sin * cos + 0.5 * slope * shift * cos * cos);
        drag = (1 - stalled) * drag + stalled * (SECTION_DRAG + 1.9 * sin * sin);
      }
      if (i < this.wingPanels) liftArea += lift * t[o + AREA]!;
      const pressure = 0.5 * rho * speed2 * t[o + AREA]!;
      // Lift is at right angles to the flow, drag along it, both in the panel's own plane.
      const alongN = pressure * (lift * cos + drag * sin);
      const alongC = pressure * (lift * sin - drag * cos);
      const px = alongN * nx + alongC * cx;
      const py = alongN * ny;
      const pz = alongN * nz + alongC * cz;
      fx += px;
      fy += py;
      fz += pz;
      mx += y * pz - z * py;
      my += z * px - x * pz;
      mz += x * py - y * px;
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

/** Area of a straight-tapered planform over its whole span (a fin: its height), m^2. */
export function planformArea(plan: Planform): number {
  return (plan.spanM * (plan.rootChordM + plan.tipChordM)) / 2;
}

function covers(surface: Surface, side: number): boolean {
  if (surface.id.startsWith('left-')) return side < 0;
  if (surface.id.startsWith('right-')) return side > 0;
  return true;
}
