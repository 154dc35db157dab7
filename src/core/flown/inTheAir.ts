import type { Flown } from './flown.ts';
import { fromHome } from './series.ts';

/** From a flight's take-off to its landing, as indices of its moments, both in it. */
export interface InTheAir {
  readonly from: number;
  readonly to: number;
}

/** Who moves faster over ground than this, or stands so much higher or farther away than when it was armed, flies; m/s, m. */
const MOVES_MPS = 4;
const ROSE_M = 4;
/** Speed over ground of a receiver that stands is told up to so much; the height has to agree, m. */
const AWAY_M = 30;

/** When it flew; null where it never did. */
export function inTheAir(flown: Flown): InTheAir | null {
  const { velocityNorth: vn, velocityEast: ve, height, airspeed } = flown.told;
  const away = fromHome(flown);
  const ground = height?.find(Number.isFinite) ?? 0;
  const flies = (i: number) =>
    Math.hypot(vn?.[i] ?? 0, ve?.[i] ?? 0) > MOVES_MPS &&
    ((height ? Math.abs(height[i]! - ground) > ROSE_M : true) ||
      (away ? away[i]! > AWAY_M : true) ||
      (airspeed?.[i] ?? 0) > MOVES_MPS);
  const n = flown.seconds.length;
  let [from, to] = [0, n - 1];
  while (from < n && !flies(from)) from++;
  if (from === n) return null;
  while (!flies(to)) to--;
  return { from, to };
}
