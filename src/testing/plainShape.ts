import type { LoopShape } from '#core/control/rateLoop.ts';

/** What rate loops are like that nobody set: one pole before D, nothing done to what is asked, in every step. */
export const plainShape: LoopShape = {
  sumLimit: 0.5,
  dCutoffHz: 30,
  dPoles: 1,
  forwardLagS: 0,
  forwardLeadS: 0,
  everySteps: 1,
};
