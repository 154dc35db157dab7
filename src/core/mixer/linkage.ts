import { DEG } from '../math/scalar.ts';

/**
 * A servo's arm, its rod and the horn of a surface, seen from the left side: x aft, y up. The hinge is the origin of the surface; arm
 * and horn hang down. A servo angle is positive when its arm swings forward, which pulls the trailing edge down. Lengths in
 * any one unit, angles in rad.
 */
export interface Linkage {
  readonly arm: number;
  readonly horn: number;
  readonly rod: number;
  /** The servo's shaft from the hinge; aft is negative for a servo ahead of it. */
  readonly shaftAft: number;
  readonly shaftUp: number;
  /** How far arm and horn lean aft of straight down, servo at its middle and surface flush. */
  readonly armLean: number;
  readonly hornLean: number;
}

/** Rod that leaves the surface at an angle with the servo at its middle. @throws RangeError of lengths that are not positive */
export function rodFor(l: Omit<Linkage, 'rod'>, surfaceAtMiddle = 0): number {
  if (!(l.arm > 0 && l.horn > 0)) throw new RangeError('arm and horn have a length');
  const [px, py] = armTip(l, 0);
  const [qx, qy] = hornTip(l, surfaceAtMiddle);
  return Math.hypot(px - qx, py - qy);
}

/** Where the arm ends at a servo angle: aft and up of the hinge. */
export function armTip(l: Omit<Linkage, 'rod'>, servo: number): readonly [number, number] {
  const a = l.armLean - servo;
  return [l.shaftAft + l.arm * Math.sin(a), l.shaftUp - l.arm * Math.cos(a)];
}

/** Where the horn ends at a surface angle: aft and up of the hinge. */
export function hornTip(l: Omit<Linkage, 'rod'>, surface: number): readonly [number, number] {
  const b = l.hornLean - surface;
  return [l.horn * Math.sin(b), -l.horn * Math.cos(b)];
}

/**
 * Surface angle at a servo angle by the closure of the four bars (Freudenstein 1954), on the side where the horn is at the middle;
 * NaN where the rod is too short or too long to reach.
 */
export function surfaceAt(l: Linkage, servo: number): number {
  const [x, y] = armTip(l, servo);
  const reach = Math.hypot(x, y);
  // Horn at angle b aft of straight down: |h (sin b, -cos b) - P| = rod.
  const c = (l.horn ** 2 + reach ** 2 - l.rod ** 2) / (2 * l.horn * reach);
  if (!(Math.abs(c) <= 1)) return Number.NaN;
  const bearing = Math.atan2(x, -y);
  const open = Math.acos(c);
  // Of the two ways to close it the one that has the horn where it was built: arm ahead of the horn, or behind it.
  const b = bearing + (bearingAtMiddle(l) <= l.hornLean ? open : -open);
  return l.hornLean - wrap(b);
}

const wrap = (a: number) => Math.atan2(Math.sin(a), Math.cos(a));

function bearingAtMiddle(l: Linkage): number {
  const [x, y] = armTip(l, 0);
  return Math.atan2(x, -y);
}

/** How far the surface turns for a turn of the servo, by differences; NaN where it does not reach. */
export function leverageAt(l: Linkage, servo: number): number {
  const h = 1e-4;
  return (surfaceAt(l, servo + h) - surfaceAt(l, servo - h)) / (2 * h);
}

/** Servo angle that gives a surface angle, by bisection between ends that reach; NaN where none does. */
export function servoFor(l: Linkage, surface: number, travel: number): number {
  const { from, to } = reachOf(l, travel);
  let [low, high] = [from, to];
  const off = (servo: number) => surfaceAt(l, servo) - surface;
  if (!(off(low) * off(high) <= 0)) return Number.NaN;
  const rising = off(high) > off(low);
  for (let k = 0; k < 50; k++) {
    const mid = (low + high) / 2;
    if (off(mid) > 0 === rising) high = mid;
    else low = mid;
  }
  return (low + high) / 2;
}

/** Below this share of the leverage at the middle a servo presses against its own rod. */
const DEAD_SHARE = 0.15;

export interface Reach {
  /** Servo angles between which the surface follows, rad. */
  readonly from: number;
  readonly to: number;
  /** It binds before the travel ends, to either side. */
  readonly bindsFrom: boolean;
  readonly bindsTo: boolean;
}

/** Where a linkage binds within a servo's travel: the rod does not reach, or arm and rod, or horn and rod, are in line. */
export function reachOf(l: Linkage, travel: number): Reach {
  const middle = Math.abs(leverageAt(l, 0));
  const sign = Math.sign(leverageAt(l, 0));
  const moves = (servo: number) => {
    const k = sign * leverageAt(l, servo);
    return k > DEAD_SHARE * middle && k < middle / DEAD_SHARE;
  };
  const end = (way: 1 | -1): number => {
    const step = travel / 200;
    let good = 0;
    for (let k = 1; k <= 200; k++) {
      const servo = k * step;
      if (!moves(way * servo)) {
        let bad = servo;
        for (let go = 0; go < 30; go++) {
          const mid = (good + bad) / 2;
          if (moves(way * mid)) good = mid;
          else bad = mid;
        }
        return way * good;
      }
      good = servo;
    }
    return way * travel;
  };
  if (!(middle > 0) || !moves(0)) return { from: 0, to: 0, bindsFrom: true, bindsTo: true };
  const [from, to] = [end(-1), end(1)];
  return { from, to, bindsFrom: from > -travel, bindsTo: to < travel };
}

/** Distance of the trailing edge from flush for a chord behind the hinge, with the sign of the angle: 2 c sin(|a|/2). */
export function edgeOf(angle: number, chord: number): number {
  return 2 * chord * Math.sin(angle / 2);
}

/** The inverse of `edgeOf`; NaN for more than a trailing edge can stand off. */
export function angleOfEdge(edge: number, chord: number): number {
  const s = edge / (2 * chord);
  return Math.abs(s) <= 1 ? 2 * Math.asin(s) : Number.NaN;
}

/** A surface seen at a servo angle, rad. */
export interface Reading {
  readonly servo: number;
  readonly surface: number;
}

/** Readings closer together than this tell no travel, rad of the surface. */
const LEAST_APART = 4 * DEG;

/**
 * The linkage as it is, from one as it is described and two readings: arm and rod are made to fit; leans and places stay. Two readings
 * decide two numbers: how much it moves and where its middle is. The rod is as long at both, |A + arm u| = |B + arm v|, which is
 * linear in the arm (Freudenstein 1954).
 */
export function fitLinkage(
  described: Linkage,
  [a, b]: readonly [Reading, Reading],
): Linkage | { readonly refused: string } {
  if (!(Math.abs(a.surface - b.surface) > LEAST_APART))
    return {
      refused: 'The two readings are nearly the same. Take one near each end of the travel.',
    };
  if (!(Math.abs(a.servo - b.servo) > LEAST_APART))
    return { refused: 'The servo stood at the same place for both readings.' };
  if ((a.surface - b.surface) / (a.servo - b.servo) < 0)
    return {
      refused:
        'It moves the other way than this linkage would. Is the horn above the surface, or down taken for up?',
    };
  const seen = ({ servo, surface }: Reading) => {
    const [qx, qy] = hornTip(described, surface);
    const lean = described.armLean - servo;
    const [x, y] = [described.shaftAft - qx, described.shaftUp - qy];
    const [ux, uy] = [Math.sin(lean), -Math.cos(lean)];
    return { x, y, ux, uy, along: x * ux + y * uy };
  };
  const [p, q] = [seen(a), seen(b)];
  const arm = (q.x ** 2 + q.y ** 2 - p.x ** 2 - p.y ** 2) / (2 * (p.along - q.along));
  const rod = Math.hypot(p.x + arm * p.ux, p.y + arm * p.uy);
  const fitted = { ...described, arm, rod };
  const off = (r: Reading) => Math.abs(surfaceAt(fitted, r.servo) - r.surface);
  if (!(arm > 0 && rod > 0 && off(a) + off(b) < 0.01 * DEG))
    return {
      refused: 'No arm and rod move it so. Measure arm, horn and the readings once more.',
    };
  return fitted;
}
