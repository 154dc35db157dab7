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
