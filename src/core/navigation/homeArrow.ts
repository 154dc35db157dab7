import { DEG, wrapPi } from '../math/scalar.ts';

/** Home as seen from the craft. */
export interface HomeArrow {
  readonly distanceM: number;
  /** From north by east, degrees, 0 to 360. */
  readonly bearingDeg: number;
  /** To the right of the nose, degrees, -180 to 180; null where nobody knows where the nose points. */
  readonly turnDeg: number | null;
}

/** @param north @param east of the craft from home, m. @param heading rad; null where it is not known */
export function homeArrow(north: number, east: number, heading: number | null): HomeArrow {
  const bearing = Math.atan2(-east, -north);
  return {
    distanceM: Math.hypot(north, east),
    bearingDeg: (bearing / DEG + 360) % 360,
    turnDeg: heading === null ? null : wrapPi(bearing - heading) / DEG,
  };
}

/** An arrow in words: which way to turn the nose for home. */
export function turnWords(turnDeg: number): string {
  const off = Math.abs(Math.round(turnDeg));
  if (off <= 10) return 'straight ahead';
  if (off >= 170) return 'straight behind';
  return `${off}° to the ${turnDeg > 0 ? 'right' : 'left'} of the nose`;
}
