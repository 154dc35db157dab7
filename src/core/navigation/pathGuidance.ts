import { clamp, GRAVITY } from '../math/scalar.ts';

/** Lookahead length L1 = damping period V/pi (Park, Deyst, How 2004; gains as in Curry et al. 2013), m. */
export function lookahead(period: number, damping: number, groundSpeed: number): number {
  return Math.max(15, (damping * period * groundSpeed) / Math.PI);
}

/**
 * Lateral acceleration 2 V^2/L1 sin(eta) that turns the ground velocity towards a point, m/s^2, right positive.
 * Behind the beam the full turn is asked for, so that a craft flying away turns round at once. Far from the path
 * the aim lies farther than L1; the turn towards it is as sharp as at L1.
 * @param ahead L1, m
 */
export function accelerationTowards(
  velocityNorth: number,
  velocityEast: number,
  toNorth: number,
  toEast: number,
  ahead: number,
): number {
  const v2 = velocityNorth * velocityNorth + velocityEast * velocityEast;
  const l2 = toNorth * toNorth + toEast * toEast;
  const cross = velocityNorth * toEast - velocityEast * toNorth;
  const dot = velocityNorth * toNorth + velocityEast * toEast;
  const size = Math.sqrt(v2 * l2) + 1e-9;
  const sine = dot > 0 ? cross / size : cross >= 0 ? 1 : -1;
  return (2 * v2 * sine) / (Math.min(Math.sqrt(l2), ahead) + 1e-9);
}

/** A point on the ground plane, m. Filled by the functions below, so that nothing is allocated in flight. */
export interface AimPoint {
  north: number;
  east: number;
}

/** The point of the line a-b that lies `ahead` metres from the craft along it; b itself once it is nearer. */
export function aimOnLine(
  out: AimPoint,
  aNorth: number,
  aEast: number,
  bNorth: number,
  bEast: number,
  north: number,
  east: number,
  ahead: number,
): AimPoint {
  const dn = bNorth - aNorth;
  const de = bEast - aEast;
  const length = Math.sqrt(dn * dn + de * de);
  if (length < 1) {
    out.north = bNorth;
    out.east = bEast;
    return out;
  }
  const un = dn / length;
  const ue = de / length;
  const along = (north - aNorth) * un + (east - aEast) * ue;
  const off = (east - aEast) * un - (north - aNorth) * ue;
  const reach = Math.sqrt(Math.max(ahead * ahead - off * off, 0.25 * ahead * ahead));
  const at = Math.min(along + reach, length);
  out.north = aNorth + un * at;
  out.east = aEast + ue * at;
  return out;
}

/**
 * The point of a circle that lies `ahead` metres from the craft in the sense flown: the circle form of the
 * same law. On the circle it gives exactly V^2/R.
 * @param sense 1 clockwise seen from above, -1 the other way
 */
export function aimOnCircle(
  out: AimPoint,
  centreNorth: number,
  centreEast: number,
  radius: number,
  sense: number,
  north: number,
  east: number,
  ahead: number,
): AimPoint {
  const dn = north - centreNorth;
  const de = east - centreEast;
  const d = Math.max(1, Math.sqrt(dn * dn + de * de));
  const reach = Math.min(ahead, 1.6 * radius);
  let angle: number;
  if (d > radius + reach) angle = Math.acos(clamp(radius / d, -1, 1));
  else if (d < radius - reach) angle = Math.PI / 2;
  else angle = Math.acos(clamp((d * d + radius * radius - reach * reach) / (2 * d * radius), -1, 1));
  const bearing = Math.atan2(de, dn) + sense * angle;
  out.north = centreNorth + radius * Math.cos(bearing);
  out.east = centreEast + radius * Math.sin(bearing);
  return out;
}

/** Bank that gives a lateral acceleration in a level coordinated turn, held within a limit, rad. */
export function bankFor(lateral: number, limit: number): number {
  return clamp(Math.atan(lateral / GRAVITY), -limit, limit);
}

/** As fast as it can still be braked, m/s^2: a tenth of gravity and a bit. */
const BRAKES_MPS2 = 1.2;

/**
 * How fast a craft with rotors goes to a place: linear near it, then as fast as can still be braked, m/s.
 * @param most m/s. @param positionP 1/s
 */
export function approachSpeed(distanceM: number, most: number, positionP: number): number {
  return Math.min(most, positionP * distanceM, Math.sqrt(2 * BRAKES_MPS2 * distanceM));
}
