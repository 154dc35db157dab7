import type { Planform } from '#core/airframe/airframe.ts';
import { DEG } from '#core/math/scalar.ts';

/**
 * A second opinion on wings, written apart from the lattice of the core: one row of evenly spaced horseshoes on the
 * quarter line, flow tangency at three quarters (Weissinger 1942), answers as coefficients. For tests and audits.
 */
export interface SecondOpinion {
  /** C_L per rad. */
  readonly liftSlope: number;
  /** C_l per p b/(2 V). */
  readonly rollDamping: number;
  /** C_l per rad of sideslip, per C_L, without dihedral. */
  readonly rollBySlipPerLift: number;
  /** C_l per rad of sideslip that the dihedral makes, by half its angle up on one side and down on the other. */
  readonly rollByDihedral: number;
  /** C_l per rad of an equal and opposite twist between two shares of the half span. */
  rollByTwist(from: number, to: number): number;
  /** Force across a V per rad of equal and opposite twist of its halves, over its area. */
  readonly sideByTwist: number;
}

const HALF_STATIONS = 24;

export function weissinger(plan: Planform): SecondOpinion {
  const b = plan.spanM;
  const gamma = plan.dihedralDeg * DEG;
  const area = (b * (plan.rootChordM + plan.tipChordM)) / 2;
  const n = 2 * HALF_STATIONS;
  const edge = (k: number) => -1 + (2 * k) / n;
  const chord = (t: number) => plan.rootChordM + (plan.tipChordM - plan.rootChordM) * Math.abs(t);
  const lead = (t: number) => (plan.tipAftM - plan.rootAftM) * Math.abs(t);
  const spot = (t: number, share: number) => [
    lead(t) + share * chord(t),
    Math.sign(t) * plan.rootRightM + (b / 2) * t * Math.cos(gamma),
    (b / 2) * Math.abs(t) * Math.sin(gamma),
  ];
  const middles = Array.from({ length: n }, (_, k) => (edge(k) + edge(k + 1)) / 2);
  const width = b / n;

  const influence = (flow: readonly number[]) =>
    middles.map((t) => {
      const p = spot(t, 0.75);
      const normal = [0, -Math.sign(t) * Math.sin(gamma), Math.cos(gamma)];
      return middles.map((_, k) => {
        const left = spot(edge(k) || -1e-9, 0.25);
        const right = spot(edge(k + 1) || 1e-9, 0.25);
        const leftTail = spot(edge(k) || -1e-9, 1);
        const rightTail = spot(edge(k + 1) || 1e-9, 1);
        // Legs straight back to the trailing edge, then far along the flow.
        const far = (from: number[]) => from.map((x, i) => x + 4000 * b * flow[i]!);
        const lines = [
          [far(leftTail), leftTail],
          [leftTail, left],
          [left, right],
          [right, rightTail],
          [rightTail, far(rightTail)],
        ];
        return lines.reduce((sum, [from, to]) => {
          const v = biotSavart(from!, to!, p);
          return sum + v[0]! * normal[0]! + v[1]! * normal[1]! + v[2]! * normal[2]!;
        }, 0);
      });
    });

  const straight = influence([1, 0, 0]);
  const solve = (wash: (t: number) => number) =>
    gauss(
      straight,
      middles.map((t) => -wash(t)),
    );
  const out = (t: number) => plan.rootRightM + (b / 2) * Math.abs(t);
  const roll = (g: number[]) =>
    g.reduce((s, x, k) => s + 2 * x * width * Math.sign(middles[k]!) * out(middles[k]!), 0);
  const lift = solve(() => Math.cos(gamma)).reduce((s, x) => s + 2 * x * width * Math.cos(gamma), 0) / area;
  const side = solve((t) => Math.sign(t)).reduce((s, x, k) => s + 2 * x * width * Math.sign(middles[k]!), 0);
  const within = (t: number, from: number, to: number) => {
    const a = Math.max(Math.abs(t) - 1 / n, from);
    const z = Math.min(Math.abs(t) + 1 / n, to);
    return (Math.max(0, z - a) * n) / 2;
  };
  return {
    liftSlope: lift,
    rollDamping: -roll(solve((t) => Math.sign(t) * out(t))) / (area * b) / (b / 2),
    rollByDihedral: -roll(solve((t) => Math.sign(t) * Math.sin(gamma))) / (area * b),
    rollBySlipPerLift: slip(),
    rollByTwist: (from, to) => roll(solve((t) => Math.sign(t) * within(t, from, to))) / (area * b),
    sideByTwist: side / area,
  };

  /** A flat pair at a little lift in a flow from the right. */
  function slip(): number {
    if (plan.dihedralDeg !== 0) return weissinger({ ...plan, dihedralDeg: 0 }).rollBySlipPerLift;
    const beta = 0.04;
    const flow = [Math.cos(beta), -Math.sin(beta), 0];
    const g = gauss(
      influence(flow),
      middles.map(() => -0.05),
    );
    let up = 0;
    let moment = 0;
    g.forEach((x, k) => {
      const left = spot(edge(k) || -1e-9, 0.25);
      const right = spot(edge(k + 1) || 1e-9, 0.25);
      const leftTail = spot(edge(k) || -1e-9, 1);
      const rightTail = spot(edge(k + 1) || 1e-9, 1);
      for (const [from, to] of [
        [leftTail, left],
        [left, right],
        [right, rightTail],
      ]) {
        const f = 2 * x * (flow[0]! * (to![1]! - from![1]!) - flow[1]! * (to![0]! - from![0]!));
        up += f;
        moment -= (f * (from![1]! + to![1]!)) / 2;
      }
    });
    return moment / up / beta / b;
  }
}

/** Velocity of a straight vortex of unit strength, by the two angles it is seen under. */
function biotSavart(from: number[], to: number[], p: number[]): number[] {
  const u = to.map((x, i) => x - from[i]!);
  const length = Math.hypot(u[0]!, u[1]!, u[2]!);
  const e = u.map((x) => x / length);
  const r = p.map((x, i) => x - from[i]!);
  const along = r[0]! * e[0]! + r[1]! * e[1]! + r[2]! * e[2]!;
  const away = r.map((x, i) => x - along * e[i]!);
  const h = Math.hypot(away[0]!, away[1]!, away[2]!);
  if (h < 1e-7 * length) return [0, 0, 0];
  const k =
    (along / Math.hypot(along, h) - (along - length) / Math.hypot(along - length, h)) / (4 * Math.PI * h * h);
  return [
    k * (e[1]! * away[2]! - e[2]! * away[1]!),
    k * (e[2]! * away[0]! - e[0]! * away[2]!),
    k * (e[0]! * away[1]! - e[1]! * away[0]!),
  ];
}

function gauss(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const a = matrix.map((row, i) => [...row, right[i]!]);
  const n = a.length;
  for (let k = 0; k < n; k++) {
    let best = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i]![k]!) > Math.abs(a[best]![k]!)) best = i;
    [a[k], a[best]] = [a[best]!, a[k]!];
    for (let i = k + 1; i < n; i++) {
      const f = a[i]![k]! / a[k]![k]!;
      for (let j = k; j <= n; j++) a[i]![j]! -= f * a[k]![j]!;
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    let s = a[i]![n]!;
    for (let j = i + 1; j < n; j++) s -= a[i]![j]! * x[j]!;
    x[i] = s / a[i]![i]!;
  }
  return x;
}
