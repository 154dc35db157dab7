import { windAtHeight } from '../flight/wind.ts';
import type { Flown } from '../flown/flown.ts';
import { drawnMah } from '../flown/series.ts';
import { latitudeAt, longitudeAt } from '../navigation/earth.ts';
import { parsed } from '../parsed.ts';
import { type LastSeen, lastSeenSchema } from './lastSeen.ts';

/** Where no accuracy is told; that of a usual receiver, m. */
const USUAL_ACCURACY_M = 4;
/** What the wind was estimated at is taken to be so high over the ground where nobody knows better, m. */
const USUAL_HEIGHT_M = 100;
/** Where a track tells no height, it is taken for so high above the sea, m. */
const NO_HEIGHT_M = 100;

/**
 * What a flight knew last: its last moment that tells a place.
 * @param capacityMah of the battery, to tell what is left; left out, that is not known
 * @returns null for a flight without such a moment
 */
export function seenAtEnd(flown: Flown, capacityMah?: number): LastSeen | null {
  const { told, origin } = flown;
  const at = (column: Float64Array | undefined, i: number) => column?.[i] ?? Number.NaN;
  const places = [told.north, told.east, told.velocityNorth, told.velocityEast];
  let i = flown.seconds.length - 1;
  while (i >= 0 && !places.every((c) => Number.isFinite(at(c, i)))) i--;
  if (i < 0) return null;
  const [north, east, vn, ve] = places.map((c) => at(c, i)) as [number, number, number, number];
  const known = (v: number, usual: number) => (Number.isFinite(v) ? v : usual);
  const [wn, we] = [at(told.windNorth, i), at(told.windEast, i)];
  const knownWind = Number.isFinite(wn) && Number.isFinite(we);
  const throttle = at(told.throttle, i);
  const drawn = drawnMah(flown)?.[i];
  const share = capacityMah && drawn !== undefined ? 1 - drawn / capacityMah : undefined;
  const seen = {
    lat: latitudeAt(origin.lat, north),
    lon: longitudeAt(origin.lat, origin.lon, east),
    heightM: Math.min(9000, Math.max(-100, known(at(told.height, i), NO_HEIGHT_M))),
    accuracyM: Math.min(2000, Math.max(0.5, known(at(told.accuracy, i), USUAL_ACCURACY_M))),
    courseRad: Math.atan2(ve, vn),
    speedMps: Math.min(120, Math.hypot(vn, ve)),
    climbMps: Math.min(60, Math.max(-60, known(at(told.climb, i), 0))),
    windFromRad: knownWind ? Math.atan2(-we, -wn) : 0,
    windMps: knownWind ? Math.min(50, Math.hypot(wn, we) / windAtHeight(1, USUAL_HEIGHT_M)) : 0,
    ...(throttle >= 0 && throttle <= 1 ? { throttle } : {}),
    returning: flown.modes[flown.mode[i]!] === 'return',
    ...(share === undefined ? {} : { batteryShare: Math.min(1, Math.max(0, share)) }),
  };
  // What a damaged log tells may be anywhere.
  const lawful = parsed(lastSeenSchema, seen);
  return lawful.success ? lawful.data : null;
}
