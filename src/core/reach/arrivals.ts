import { groundAbout, groundHeight } from '../flight/terrain.ts';
import type { Scenario } from '../formats/scenario.ts';
import { DEG } from '../math/scalar.ts';
import { approachHeight, approachLength, FLARE_S } from '../navigation/landingApproach.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import type { Site } from '../site/site.ts';

/** Eight winds that an arrival is flown in, by where they come from. */
export const ARRIVAL_WINDS_DEG = [0, 45, 90, 135, 180, 225, 270, 315] as const;

/** It begins so far out, under way home, with the link lost soon, m and s. */
const FROM_M = 700;
const LOST_S = 12;
const LIMIT_S = 1500;

/** An arrival in one wind: from upwind of home at the return height, so that all that is left is to arrive. */
export function arrivalScenario(
  base: Pick<Scenario, 'seed' | 'wind' | 'outbound' | 'air'>,
  values: Values,
  site: Pick<Site, 'home'>,
  fromDeg: number,
): Scenario {
  const heightM = Math.min(1500, Math.max(20, settingsOf(values).number('return.height')));
  return {
    seed: base.seed,
    home: site.home,
    wind: { ...base.wind, fromDeg },
    outbound: { bearingDeg: base.outbound.bearingDeg, distanceM: FROM_M, heightM, begins: 'there' },
    events: [{ atS: LOST_S, do: 'link-lost' }],
    limitS: LIMIT_S,
    ...(base.air ? { air: base.air } : {}),
  };
}

/** The approach of a wing against a wind, as the firmware plans it. Metres east and north of home. */
export interface Approach {
  readonly fromDeg: number;
  /** Where it begins, downwind of home. */
  readonly gate: readonly [eastM: number, northM: number];
  /** Least room of the slope over the ground, m, and how far from home that is, m. */
  readonly clearanceM: number;
  readonly clearanceAtM: number;
}

/** The slope is looked at in steps of this, m, from where it is so much above the flare: nearer to home it comes down anyway, m. */
const STEP_M = 10;
export const APPROACH_ROOM_M = 5;

/** @param fromDeg where the wind comes from: the gate lies on the other side */
export function approachOf(values: Values, site: Pick<Site, 'terrain' | 'home'>, fromDeg: number): Approach {
  const s = settingsOf(values);
  const height = s.number('land.height');
  const slope = Math.tan(s.number('land.slope') * DEG);
  const length = approachLength(height, slope, s.number('loiter.radius'));
  // In still air it comes over the ground fastest and lowest.
  const speed = s.number('land.speed');
  const blows = (fromDeg + 180) * DEG;
  const strip = s.number('land.strip') * DEG;
  // Along a strip it comes from the end that lies more downwind.
  const to =
    s.choice('land.along') === 'wind' ? blows : Math.cos(blows - strip) < 0 ? strip + Math.PI : strip;
  const [east, north] = [Math.sin(to), Math.cos(to)];
  const { homeEastM, homeNorthM } = groundAbout(site.terrain, site.home);
  const homeM = groundHeight(site.terrain, homeEastM, homeNorthM);
  let [clearanceM, clearanceAtM] = [Number.POSITIVE_INFINITY, 0];
  const first = (s.number('land.flare') + 2 * APPROACH_ROOM_M) / slope + speed * FLARE_S;
  for (let d = first; d <= length; d += STEP_M) {
    const ground = groundHeight(site.terrain, homeEastM + east * d, homeNorthM + north * d) - homeM;
    const room = Math.min(height, approachHeight(d, speed, slope)) - ground;
    if (room < clearanceM) [clearanceM, clearanceAtM] = [room, d];
  }
  return { fromDeg, gate: [east * length, north * length], clearanceM, clearanceAtM };
}
