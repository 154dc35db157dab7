import type { HomeGround } from '../flight/terrain.ts';
import { type GroundLine, groundLine } from './groundLine.ts';
import { type ClimbRule, GROUND_MARGIN_M, returnHeights } from './returnPlan.ts';

/**
 * The way home from the side: how high it is where, and how near it comes to the ground. The one computation of it; the
 * drawing, the findings and what they offer go by it, so that they cannot say different things.
 */

/** So far out a way home is looked at, m. */
export const LINE_M = 5500;
/** Height above home at which the link is taken to be lost where nobody said another, m. */
export const USUAL_START_M = 120;

export interface WayHome {
  readonly rule: ClimbRule;
  /** Above home, where the return begins, m. */
  readonly startM: number;
  /** Return height above home, m. */
  readonly returnM: number;
  /** Over ground while it climbs, m/s; taken without wind. */
  readonly speedMps: number;
  readonly climbMps: number;
  /** Nearer to home than this it comes down anyway, m. */
  readonly endsM: number;
}

/** Height above home at a distance from home, for a return that begins at `fromM`, m. */
export function heightOnWay(way: WayHome, distanceM: number, fromM = LINE_M): number {
  const plan = returnHeights(way.rule, way.startM, way.returnM);
  const climbM = plan.climbFirst ? 0 : Math.max(0, plan.heightM - way.startM);
  if (climbM === 0) return plan.heightM;
  const flownM = Math.max(0, fromM - distanceM);
  return Math.min(plan.heightM, way.startM + (flownM * way.climbMps) / way.speedMps);
}

/** Where a way home comes nearest to the ground. */
export interface Nearest {
  readonly bearingDeg: number;
  readonly distanceM: number;
  /** Above the ground, m; negative for below it. */
  readonly clearanceM: number;
}

/** @param homeM ground at home above the sea, m */
export function nearestOn(line: GroundLine, way: WayHome, homeM: number): Nearest {
  let nearest: Nearest = {
    bearingDeg: line.bearingDeg,
    distanceM: LINE_M,
    clearanceM: Number.POSITIVE_INFINITY,
  };
  for (const { distanceM, heightM } of line.points) {
    if (distanceM <= way.endsM) continue;
    const clearanceM = heightOnWay(way, distanceM) - (heightM - homeM);
    if (clearanceM < nearest.clearanceM) nearest = { ...nearest, distanceM, clearanceM };
  }
  return nearest;
}

const known = new WeakMap<HomeGround, readonly GroundLine[]>();

/** The ground along lines from home, one every two degrees. */
export function linesAbout(ground: HomeGround): readonly GroundLine[] {
  const before = known.get(ground);
  if (before) return before;
  const { terrain, homeEastM, homeNorthM } = ground;
  const lines = Array.from({ length: 180 }, (_, i) =>
    groundLine(terrain, homeEastM, homeNorthM, 2 * i, LINE_M),
  );
  known.set(ground, lines);
  return lines;
}

/** The line on which a way home comes nearest to the ground, whichever side it comes from. */
export function nearestAbout(ground: HomeGround, way: WayHome): Nearest {
  let nearest: Nearest | null = null;
  for (const line of linesAbout(ground)) {
    const here = nearestOn(line, way, line.points[0]!.heightM);
    if (!nearest || here.clearanceM < nearest.clearanceM) nearest = here;
  }
  return nearest!;
}

/**
 * What a way home would have to be to clear all of the ground about home, changing as little as can be; null where it
 * does. @param needM return height above home that clears the ground in reach, m
 */
export function mendedWay(
  ground: HomeGround,
  way: WayHome,
  needM: number,
): Partial<Pick<WayHome, 'rule' | 'returnM'>> | null {
  const clears = (w: WayHome) => nearestAbout(ground, w).clearanceM >= GROUND_MARGIN_M - 5;
  const high = way.returnM >= needM - 5;
  if (high && clears(way)) return null;
  const returnM = Math.max(way.returnM, needM);
  if (clears({ ...way, returnM })) return high ? null : { returnM };
  const rule = 'climb-first';
  return high ? { rule } : { rule, returnM };
}
