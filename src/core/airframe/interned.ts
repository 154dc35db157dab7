import type { Airframe } from './airframe.ts';

let known: { readonly text: string; readonly airframe: Airframe } | null = null;

/**
 * The last craft again where this one is the same: for workers, which are sent a copy each time. What is worked out
 * once per craft (lattice, stall speed, fitness) stays known by the object it was worked out for.
 */
export function interned(airframe: Airframe): Airframe {
  const text = JSON.stringify(airframe);
  if (known?.text !== text) known = { text, airframe };
  return known.airframe;
}
