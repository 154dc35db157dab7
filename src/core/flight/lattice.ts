import type { Planform } from '../airframe/airframe.ts';
import { DEG } from '../math/scalar.ts';

/** Horseshoes along a half and along the chord. Twice as many move no answer by two per cent. */
const ALONG_SPAN = 10;
const ALONG_CHORD = 3;
const SIDESLIP = 0.05;
const ATTACK = 0.05;

/**
 * What a vortex lattice says of a pair of halves, for unit dynamic pressure and per rad. It holds where neither half
 * stalls; strips, which know no neighbours, are scaled to it once per craft.
 */
export interface LatticeAnswer {
  /** Lift by angle of attack, m^2. */
  readonly lift: number;
  /** Where that lift acts, aft of the root's leading edge, m. */
  readonly liftAftM: number;
  /** Rolling moment by a wash that grows with the distance from the middle, m^2 m (rad/m) = m^4. */
  readonly rollByRoll: number;
  /** Force across the halves, one up and one down, by an equal and opposite angle of each: sum, and moment about the middle, m^2 and m^3. */
  readonly sideByTwist: number;
  readonly rollByTwist: number;
  /** Rolling moment per rad of sideslip and per lift, of a lifting flat pair: what sweep does, m. Right wing down positive. */
  readonly rollBySlip: number;
  /** The same as `rollByTwist` and `sideByTwist` for an angle between two shares of the half span. */
  twisted(from: number, to: number): { readonly side: number; readonly roll: number };
}

interface Horseshoe {
  /** Ends of the bound vortex, left then right seen from above, and its middle. */
  readonly a: V;
  readonly b: V;
  /** Straight behind them at the trailing edge, where the wake begins. */
  readonly behindA: V;
  readonly behindB: V;
  /** Where the flow must not go through, and the normal there. */
  readonly at: V;
  readonly normal: V;
  readonly width: number;
  readonly side: -1 | 1;
  readonly from: number;
  readonly to: number;
}

type V = readonly [number, number, number];
const minus = (p: V, q: V): V => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
const cross = (p: V, q: V): V => [
  p[1] * q[2] - p[2] * q[1],
  p[2] * q[0] - p[0] * q[2],
  p[0] * q[1] - p[1] * q[0],
];
const dot = (p: V, q: V) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
const size = (p: V) => Math.sqrt(dot(p, p));

const known = new WeakMap<Planform, LatticeAnswer>();

/**
 * Solves a pair planform as a vortex lattice of horseshoes (Katz and Plotkin 2001, section 12.1): bound vortices on
 * the quarter lines, flow tangency at three quarters, wakes along the flow. Flat halves: camber, twist and thickness
 * add to the strips, not to what is asked here. Worked out once per planform.
 * @throws RangeError on an upright single surface
 */
export function latticeOf(plan: Planform): LatticeAnswer {
  const before = known.get(plan);
  if (before) return before;
  if (!plan.pair) throw new RangeError('a lattice needs a pair of halves');
  const answer = solved(plan);
  known.set(plan, answer);
  return answer;
}

/** Geometry in x aft, y right, z up from the root's leading edge. */
function horseshoes(plan: Planform): Horseshoe[] {
  const half = plan.spanM / 2;
  const gamma = plan.dihedralDeg * DEG;
  const point = (side: number, share: number, chordShare: number): V => {
    const chord = plan.rootChordM + (plan.tipChordM - plan.rootChordM) * share;
    const lead = (plan.tipAftM - plan.rootAftM) * share;
    const along = half * share;
    return [
      lead + chordShare * chord,
      side * (plan.rootRightM + along * Math.cos(gamma)),
      along * Math.sin(gamma),
    ];
  };
  const out: Horseshoe[] = [];
  for (const side of [-1, 1] as const) {
    for (let k = 0; k < ALONG_SPAN; k++) {
      // Close together at the tips, where the load falls steeply.
      const from = Math.sin((0.5 * Math.PI * k) / ALONG_SPAN);
      const to = Math.sin((0.5 * Math.PI * (k + 1)) / ALONG_SPAN);
      for (let j = 0; j < ALONG_CHORD; j++) {
        const bound = (j + 0.25) / ALONG_CHORD;
        const inner = point(side, from, bound);
        const outer = point(side, to, bound);
        out.push({
          a: side < 0 ? outer : inner,
          b: side < 0 ? inner : outer,
          behindA: point(side, side < 0 ? to : from, 1),
          behindB: point(side, side < 0 ? from : to, 1),
          at: point(side, (from + to) / 2, (j + 0.75) / ALONG_CHORD),
          normal: [0, -side * Math.sin(gamma), Math.cos(gamma)],
          width: half * (to - from),
          side,
          from,
          to,
        });
      }
    }
  }
  return out;
}

/** Adds the velocity at p of a straight vortex of unit strength from a to b (Katz and Plotkin 2001, eq. 2.72). */
function addSegment(out: [number, number, number], a: V, b: V, p: V): void {
  const ra = minus(p, a);
  const rb = minus(p, b);
  const la = size(ra);
  const lb = size(rb);
  const around = cross(ra, rb);
  const k = (la + lb) / (la * lb * (la * lb + dot(ra, rb)) + 1e-12) / (4 * Math.PI);
  for (let i = 0; i < 3; i++) out[i]! += k * around[i]!;
}

/** The same of a half-endless one that leaves a along `flow`. */
function addWake(out: [number, number, number], a: V, flow: V, p: V, sense: 1 | -1): void {
  const r = minus(p, a);
  const l = size(r);
  const around = cross(flow, r);
  const k = sense / (l * (l - dot(flow, r)) + 1e-12) / (4 * Math.PI);
  for (let i = 0; i < 3; i++) out[i]! += k * around[i]!;
}

/** Velocity at p of a horseshoe of unit strength: up its left leg, along its bound vortex, down its right leg. */
function induced(h: Horseshoe, p: V, flow: V): V {
  const v: [number, number, number] = [0, 0, 0];
  addWake(v, h.behindA, flow, p, -1);
  addSegment(v, h.behindA, h.a, p);
  addSegment(v, h.a, h.b, p);
  addSegment(v, h.b, h.behindB, p);
  addWake(v, h.behindB, flow, p, 1);
  return v;
}

/** Influence of each vortex on the flow through each panel, as a solver by elimination with row exchange. */
class Lattice {
  readonly shoes: readonly Horseshoe[];
  private readonly lu: Float64Array[];
  private readonly order: number[];

  constructor(plan: Planform, flow: V) {
    this.shoes = horseshoes(plan);
    const n = this.shoes.length;
    this.lu = this.shoes.map((to) =>
      Float64Array.from(this.shoes, (from) => dot(induced(from, to.at, flow), to.normal)),
    );
    this.order = Array.from({ length: n }, (_, i) => i);
    for (let k = 0; k < n; k++) {
      let best = k;
      for (let i = k + 1; i < n; i++) if (Math.abs(this.lu[i]![k]!) > Math.abs(this.lu[best]![k]!)) best = i;
      [this.lu[k], this.lu[best]] = [this.lu[best]!, this.lu[k]!];
      [this.order[k], this.order[best]] = [this.order[best]!, this.order[k]!];
      const pivot = this.lu[k]!;
      for (let i = k + 1; i < n; i++) {
        const row = this.lu[i]!;
        const factor = row[k]! / pivot[k]!;
        row[k] = factor;
        for (let j = k + 1; j < n; j++) row[j]! -= factor * pivot[j]!;
      }
    }
  }

  /** Circulations that cancel a wash through the panels. @param wash m/s along each normal */
  solve(wash: (h: Horseshoe) => number): Float64Array {
    const n = this.shoes.length;
    const y = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      let sum = -wash(this.shoes[this.order[i]!]!);
      for (let j = 0; j < i; j++) sum -= this.lu[i]![j]! * y[j]!;
      y[i] = sum;
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = y[i]!;
      for (let j = i + 1; j < n; j++) sum -= this.lu[i]![j]! * y[j]!;
      y[i] = sum / this.lu[i]![i]!;
    }
    return y;
  }
}

/** Force on the panels across their own plane for unit speed and dynamic pressure: 2 gamma width (Kutta, Joukowski). */
function solved(plan: Planform): LatticeAnswer {
  const straight = new Lattice(plan, [1, 0, 0]);
  const { shoes } = straight;
  const outAt = (h: Horseshoe) => plan.rootRightM + (plan.spanM / 2) * 0.5 * (h.from + h.to);
  const sum = (g: Float64Array, weight: (h: Horseshoe) => number) =>
    shoes.reduce((all, h, i) => all + 2 * g[i]! * h.width * weight(h), 0);

  const level = Math.cos(plan.dihedralDeg * DEG);
  const attack = straight.solve((h) => h.normal[2]);
  const lift = sum(attack, (h) => h.normal[2]);
  const aft = sum(attack, (h) => h.normal[2] * 0.5 * (h.a[0] + h.b[0]));
  const roll = straight.solve((h) => h.side * outAt(h));
  const rollByRoll = sum(roll, (h) => h.side * outAt(h));
  const twist = straight.solve((h) => h.side);
  const twisted = (from: number, to: number) => {
    const g = straight.solve((h) => h.side * overlap(h, from, to));
    return { side: sum(g, (h) => h.side), roll: sum(g, (h) => h.side * outAt(h)) };
  };
  return {
    lift,
    liftAftM: aft / lift,
    rollByRoll,
    sideByTwist: sum(twist, (h) => h.side),
    rollByTwist: sum(twist, (h) => h.side * outAt(h)),
    rollBySlip: level > 0.7 ? slipRoll(plan) : 0,
    twisted,
  };
}

/**
 * Rolling moment per rad of sideslip and unit lift: the lattice in a flow that comes from the right, its wake skewed,
 * forces by rho gamma V x l with the whole flow at each bound vortex. Halves laid flat: dihedral is asked for apart.
 */
function slipRoll(plan: Planform): number {
  const flat: Planform = { ...plan, dihedralDeg: 0 };
  const cb = Math.cos(SIDESLIP);
  const flow: V = [cb, -Math.sin(SIDESLIP), 0];
  const lattice = new Lattice(flat, flow);
  const g = lattice.solve((h) => ATTACK * h.normal[2] * cb);
  let lift = 0;
  let moment = 0;
  for (const [i, h] of lattice.shoes.entries()) {
    // V x l upwards on every part that lies on the wing; what the others induce is small and alike on both halves.
    for (const [from, to] of [
      [h.behindA, h.a],
      [h.a, h.b],
      [h.b, h.behindB],
    ] as const) {
      const l = minus(to, from);
      const up = 2 * g[i]! * (flow[0] * l[1] - flow[1] * l[0]);
      lift += up;
      moment -= up * 0.5 * (from[1] + to[1]);
    }
  }
  return moment / lift / SIDESLIP;
}

function overlap(h: Horseshoe, from: number, to: number): number {
  return Math.max(0, Math.min(h.to, to) - Math.max(h.from, from)) / (h.to - h.from);
}
