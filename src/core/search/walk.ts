import { groundHeight, type HomeGround } from '../flight/terrain.ts';
import { eastOf, northOf, type Place } from '../navigation/earth.ts';
import { EARTH_M } from '../navigation/skyline.ts';
import type { Likelihood } from './likelihood.ts';

/** One square after the other, as a person walks them. */
export interface WalkStep {
  /** Of its middle, from the place where it was last seen, m. */
  readonly north: number;
  readonly east: number;
  /** From the step before, or from where one stands. */
  readonly bearingRad: number;
  readonly distanceM: number;
  /** Chance that it lies there, and that it was found by the end of this step. */
  readonly chance: number;
  readonly found: number;
  /** Of the square, m. */
  readonly sideM: number;
}

/** A person sees so far to each side in short grass: squares of a walk are twice that. Ours. */
const LOOKS_M = 20;
const MOST_STEPS = 60;

/**
 * The walk that finds it soonest: always on to the square with the greatest chance for the way to it and across it.
 * @param fromNorth where one stands, from the place where it was last seen, m
 */
export function searchWalk(map: Likelihood, fromNorth: number, fromEast: number): readonly WalkStep[] {
  const per = Math.max(1, Math.round((2 * LOOKS_M) / map.cellM));
  const side = per * map.cellM;
  const wide = Math.ceil(map.columns / per);
  const high = Math.ceil(map.rows / per);
  const left = new Float64Array(wide * high);
  for (const cell of map.order) {
    const i = Math.floor((cell % map.columns) / per);
    const j = Math.floor(Math.floor(cell / map.columns) / per);
    left[j * wide + i]! += map.chance[cell]!;
  }
  const steps: WalkStep[] = [];
  let [north, east] = [fromNorth, fromEast];
  let found = 0;
  // Squares are crossed in lanes as wide as one sees.
  const across = Math.max(side, (side * side) / (2 * LOOKS_M));
  while (steps.length < MOST_STEPS) {
    let best = -1;
    let most = 0;
    for (let k = 0; k < left.length; k++) {
      if (left[k]! <= 1e-4) continue;
      const n = map.southM + (Math.floor(k / wide) + 0.5) * side;
      const e = map.westM + ((k % wide) + 0.5) * side;
      const worth = left[k]! / (Math.hypot(n - north, e - east) + across);
      if (worth > most) {
        most = worth;
        best = k;
      }
    }
    if (best < 0) break;
    const n = map.southM + (Math.floor(best / wide) + 0.5) * side;
    const e = map.westM + ((best % wide) + 0.5) * side;
    found += left[best]!;
    steps.push({
      north: n,
      east: e,
      bearingRad: Math.atan2(e - east, n - north),
      distanceM: Math.hypot(n - north, e - east),
      chance: left[best]!,
      found,
      sideM: side,
    });
    left[best] = 0;
    north = n;
    east = e;
  }
  return steps;
}

const EYE_M = 1.7;
/** What lies in the grass and sends. */
const BEACON_M = 0.2;
const SIGHT_STEP_M = 15;

/**
 * Whether a beacon that lies at a place can be seen, or its radio heard straight, from where one stands: nothing of the ground
 * between stands in the way, the earth's roundness counted.
 */
export function inSight(
  { terrain, homeEastM, homeNorthM }: HomeGround,
  home: Place,
  from: Place,
  to: Place,
): boolean {
  const at = (p: Place) =>
    [homeNorthM + northOf(home.lat, p.lat), homeEastM + eastOf(home.lat, home.lon, p.lon)] as const;
  const [n0, e0] = at(from);
  const [n1, e1] = at(to);
  const distance = Math.hypot(n1 - n0, e1 - e0);
  const z0 = groundHeight(terrain, e0, n0) + EYE_M;
  const z1 = groundHeight(terrain, e1, n1) + BEACON_M;
  const steps = Math.floor(distance / SIGHT_STEP_M);
  for (let k = 1; k < steps; k++) {
    const share = k / steps;
    const rise = (share * (1 - share) * distance * distance) / (2 * EARTH_M);
    const ray = z0 + share * (z1 - z0) - rise;
    if (groundHeight(terrain, e0 + share * (e1 - e0), n0 + share * (n1 - n0)) > ray) return false;
  }
  return true;
}
