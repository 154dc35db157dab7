import { groundHeight, type HomeGround, highestWithin, type Top } from '../flight/terrain.ts';

/** How height is gained on the way home. */
export const climbRules = ['climb-first', 'climb-on-the-way', 'at-least', 'keep-height'] as const;
export type ClimbRule = (typeof climbRules)[number];

/** The height above home to fly at, and whether the craft climbs on the spot before it turns for home. */
export interface ReturnHeights {
  readonly heightM: number;
  readonly climbFirst: boolean;
}

/** @param startM height above home where the return begins. @param returnM the set return height, m */
export function returnHeights(rule: ClimbRule, startM: number, returnM: number): ReturnHeights {
  switch (rule) {
    case 'climb-first':
      return { heightM: returnM, climbFirst: startM < returnM - 5 };
    case 'climb-on-the-way':
      return { heightM: returnM, climbFirst: false };
    case 'at-least':
      return { heightM: Math.max(startM, returnM), climbFirst: false };
    case 'keep-height':
      return { heightM: startM, climbFirst: false };
  }
}

/** Height that a way home has to keep above the ground, m. */
export const GROUND_MARGIN_M = 30;
/** Ground this far from home counts for the way home, m. */
export const HOME_REACH_M = 6000;

export interface GroundInReach {
  readonly top: Top;
  /** Ground at home, above sea level, m. */
  readonly homeM: number;
  /** Least return height above home that clears all of it, in steps of 5 m. */
  readonly needM: number;
}

/** The ground does not change while it is looked at with every edit. */
const seen = new WeakMap<HomeGround, GroundInReach>();

/** What the ground in reach of home asks of a straight way home. */
export function groundInReach(ground: HomeGround): GroundInReach {
  const known = seen.get(ground);
  if (known) return known;
  const top = highestWithin(ground, HOME_REACH_M);
  const homeM = groundHeight(ground.terrain, ground.homeEastM, ground.homeNorthM);
  const needM = Math.ceil((top.heightM - homeM + GROUND_MARGIN_M) / 5) * 5;
  const reach = { top, homeM, needM };
  seen.set(ground, reach);
  return reach;
}
