import { featuresOfXml } from '../formats/geoXml.ts';
import { eastOf, northOf, type Place } from '../navigation/earth.ts';
import { NmeaReader } from '../sensors/nmea.ts';
import { type Flown, gapsOf, slopes } from './flown.ts';

/** Tracks of other makers: GPX 1.1, KML 2.2, GeoJSON with times, and NMEA 0183 as a receiver or a transmitter wrote it down. */

export const MOST_TRACK_BYTES = 40_000_000;
const MOST_POINTS = 500_000;
const DAY_S = 86_400;

interface Timed extends Place {
  readonly heightM: number;
  readonly atS: number;
  readonly satellites?: number;
  readonly accuracy?: number;
}

export type TrackRead =
  | {
      readonly ok: true;
      readonly flown: Flown;
      /** Unix time of its first moment; null where only the time of day is told. */
      readonly startMs: number | null;
    }
  | { readonly ok: false; readonly why: string };

const fail = (why: string): TrackRead => ({ ok: false, why: `${why} Nothing was taken.` });

/** Reads a track by what it is, whatever its name. Moments whose time runs backwards are left out and counted. */
export function readTrack(text: string, name: string): TrackRead {
  if (text.length > MOST_TRACK_BYTES)
    return fail(
      `The file has ${(text.length / 1e6).toFixed(0)} MB; a track of at most ${MOST_TRACK_BYTES / 1e6} MB is read.`,
    );
  const trimmed = text.replace(/^\uFEFF/, '').trimStart();
  if (trimmed.startsWith('<')) return fromXml(trimmed, name);
  if (trimmed.startsWith('{')) return fromJson(trimmed, name);
  if (/^\$[A-Z]{2}(RMC|GGA|GSA|GSV|GLL|VTG|TXT|ZDA)/m.test(trimmed.slice(0, 4000)))
    return fromNmea(trimmed, name);
  return fail('The file is no track that is known: neither GPX nor KML nor GeoJSON nor NMEA.');
}

function fromXml(text: string, name: string): TrackRead {
  const read = featuresOfXml(text);
  return 'why' in read ? fail(read.why) : fromFeatures(read.features, name);
}

function fromJson(text: string, name: string): TrackRead {
  try {
    return fromFeatures(JSON.parse(text), name);
  } catch {
    return fail('The file begins like GeoJSON and is broken off or damaged.');
  }
}

/** All lines with a time at each place, one after the other. */
function fromFeatures(raw: unknown, name: string): TrackRead {
  const all = (raw as { features?: unknown } | null)?.features;
  const features = Array.isArray(all) ? (all as unknown[]) : [raw];
  const points: Timed[] = [];
  let places = 0;
  for (const f of features) {
    const { geometry, properties } = (f ?? {}) as { geometry?: unknown; properties?: unknown };
    const { type, coordinates } = (geometry ?? {}) as { type?: unknown; coordinates?: unknown };
    const times = (properties as { coordinateProperties?: { times?: unknown } } | null)?.coordinateProperties
      ?.times;
    if (!Array.isArray(coordinates)) continue;
    const lines = type === 'LineString' ? [coordinates] : type === 'MultiLineString' ? coordinates : [];
    const timesOf = (k: number) => (type === 'LineString' ? times : (times as unknown[] | undefined)?.[k]);
    for (const [k, line] of lines.entries()) {
      if (!Array.isArray(line)) continue;
      places += line.length;
      if (places > MOST_POINTS)
        return fail(`The track has more than ${MOST_POINTS.toLocaleString('en')} places.`);
      const stamps = timesOf(k);
      if (!Array.isArray(stamps)) continue;
      for (const [i, p] of line.entries()) {
        const [lon, lat, heightM] = p as readonly unknown[];
        const at = Date.parse(String(stamps[i]));
        if (!isPlace(lat, lon) || Number.isNaN(at)) continue;
        points.push({
          ...{ lat: lat as number, lon: lon as number, atS: at / 1000 },
          heightM: typeof heightM === 'number' ? heightM : Number.NaN,
        });
      }
    }
  }
  if (points.length < 2)
    return fail(
      places > 1
        ? 'The file holds a line without times: when it was where is not told, so that nothing can be laid over it.'
        : 'The file holds no track.',
    );
  return { ok: true, flown: flownOf(points, name), startMs: 1000 * points[0]!.atS };
}

const isPlace = (lat: unknown, lon: unknown): boolean =>
  typeof lat === 'number' && typeof lon === 'number' && Math.abs(lat) <= 90 && Math.abs(lon) <= 180;

function fromNmea(text: string, name: string): TrackRead {
  const reader = new NmeaReader();
  const points: Timed[] = [];
  let [days, last] = [0, Number.NaN];
  for (let i = 0; i < text.length; i++) {
    if (!reader.push(text.charCodeAt(i) & 0xff)) continue;
    const e = reader.epoch;
    if (!e.valid || !isPlace(e.lat, e.lon)) continue;
    // Past midnight the time of day begins anew.
    if (last - e.timeS > DAY_S / 2) days++;
    last = e.timeS;
    points.push({
      ...{ lat: e.lat, lon: e.lon, heightM: e.heightM, atS: days * DAY_S + e.timeS, satellites: e.used },
      accuracy: 1.2 * e.hdop + 0.6,
    });
    if (points.length > MOST_POINTS)
      return fail(`The track has more than ${MOST_POINTS.toLocaleString('en')} places.`);
  }
  if (points.length < 2)
    return fail(
      reader.sentences === 0
        ? `Of its sentences none is whole${reader.faults > 0 ? `: ${reader.faults} are damaged` : ''}.`
        : 'It holds sentences of a receiver, and no two places with a fix.',
    );
  return { ok: true, flown: flownOf(points, name), startMs: null };
}

/** A track as a flight: speeds and course follow from its places. */
function flownOf(points: readonly Timed[], name: string): Flown {
  const kept: Timed[] = [];
  for (const p of points) if (!kept.length || p.atS > kept.at(-1)!.atS) kept.push(p);
  const origin = { lat: kept[0]!.lat, lon: kept[0]!.lon };
  const seconds = Float64Array.from(kept, (p) => p.atS - kept[0]!.atS);
  const north = Float64Array.from(kept, (p) => northOf(origin.lat, p.lat));
  const east = Float64Array.from(kept, (p) => eastOf(origin.lat, origin.lon, p.lon));
  const height = Float64Array.from(kept, (p) => p.heightM);
  const [velocityNorth, velocityEast] = [slopes(seconds, north), slopes(seconds, east)];
  const told = kept[0]!.satellites !== undefined;
  return {
    kind: 'track',
    ...{ name, firmware: '', origin, seconds },
    told: {
      ...{ north, east, velocityNorth, velocityEast },
      ...(height.some(Number.isFinite) ? { height, climb: slopes(seconds, height) } : {}),
      yaw: velocityNorth.map((n, i) => Math.atan2(velocityEast[i]!, n)),
      ...(told
        ? {
            satellites: Float64Array.from(kept, (p) => p.satellites ?? Number.NaN),
            accuracy: Float64Array.from(kept, (p) => p.accuracy ?? Number.NaN),
          }
        : {}),
    },
    mode: new Int8Array(kept.length).fill(-1),
    ...{ modes: [], decisions: [], settings: {} },
    dropped: points.length - kept.length,
    gaps: gapsOf(seconds),
  };
}
