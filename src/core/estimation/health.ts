/** How far an estimate may be trusted, in the steps in which it degrades. */
export const healthSteps = ['good', 'degraded', 'lost'] as const;
export type Health = (typeof healthSteps)[number];

/** One estimate's health with its accuracy (one sigma, in the estimate's unit). */
export interface Estimate {
  health: Health;
  accuracy: number;
}
