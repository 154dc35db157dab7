import { windAtHeight } from '../flight/wind.ts';
import type { LoggedSeries } from '../formats/flightLog.ts';
import { latitudeAt, longitudeAt, type Place } from '../navigation/earth.ts';
import { parsed } from '../parsed.ts';
import { type LastSeen, lastSeenSchema } from './lastSeen.ts';

/** A log tells no accuracy of its place; that of a usual receiver, m. */
const USUAL_ACCURACY_M = 4;
/** What the wind was estimated at is taken to be so high over the ground where nobody knows better, m. */
const USUAL_HEIGHT_M = 100;

/**
 * What a log knew last.
 * @param about what its metres are counted from where it does not say so itself
 * @param capacityMah of the battery, to tell what is left; left out, that is not known
 * @returns null for a log without a sample of its place
 */
export function seenInLog(log: LoggedSeries, about: Place | null, capacityMah?: number): LastSeen | null {
  const from = log.origin ?? about;
  const field = (name: string) => log.fields.indexOf(name);
  const places = ['north', 'east', 'height', 'velocityNorth', 'velocityEast', 'climb'].map(field);
  const last = log.samples.findLast((s) => places.every((i) => i >= 0 && Number.isFinite(s[i])));
  if (!from || !last) return null;
  const at = (name: string) => {
    const i = field(name);
    return i >= 0 ? last[i]! : Number.NaN;
  };
  const [north, east, height, vn, ve, climb] = places.map((i) => last[i]!) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const [wn, we] = [at('windNorth'), at('windEast')];
  const knownWind = Number.isFinite(wn) && Number.isFinite(we);
  const throttle = at('throttle');
  const mode = log.modes[at('mode')];
  const share = capacityMah ? 1 - usedMah(log) / capacityMah : undefined;
  const seen = {
    lat: latitudeAt(from.lat, north),
    lon: longitudeAt(from.lat, from.lon, east),
    heightM: Math.min(9000, Math.max(-100, height)),
    accuracyM: USUAL_ACCURACY_M,
    courseRad: Math.atan2(ve, vn),
    speedMps: Math.min(120, Math.hypot(vn, ve)),
    climbMps: Math.min(60, Math.max(-60, climb)),
    windFromRad: knownWind ? Math.atan2(-we, -wn) : 0,
    windMps: knownWind ? Math.min(50, Math.hypot(wn, we) / windAtHeight(1, USUAL_HEIGHT_M)) : 0,
    ...(throttle >= 0 && throttle <= 1 ? { throttle } : {}),
    returning: mode === 'return',
    ...(share === undefined ? {} : { batteryShare: Math.min(1, Math.max(0, share)) }),
  };
  // What a damaged log tells may be anywhere.
  const lawful = parsed(lastSeenSchema, seen);
  return lawful.success ? lawful.data : null;
}

/** Charge that went through over a log, by its current. */
function usedMah(log: LoggedSeries): number {
  const [clock, current] = [log.fields.indexOf('seconds'), log.fields.indexOf('currentA')];
  if (clock < 0 || current < 0) return 0;
  let used = 0;
  for (let k = 1; k < log.samples.length; k++) {
    const dt = log.samples[k]![clock]! - log.samples[k - 1]![clock]!;
    if (dt > 0 && dt < 10) used += (Math.max(0, log.samples[k]![current]!) * dt) / 3.6;
  }
  return used;
}
