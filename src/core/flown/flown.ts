import { groundAbout, groundHeight } from '../flight/terrain.ts';
import type { LoggedSeries } from '../formats/flightLog.ts';
import type { RehearsalResult, TrackPoint } from '../formats/rehearsalResult.ts';
import { DEG } from '../math/scalar.ts';
import { eastOf, latitudeAt, longitudeAt, northOf, type Place } from '../navigation/earth.ts';
import type { Values } from '../settings/catalogue.ts';
import type { Site } from '../site/site.ts';

/** What is told of a flight at each of its moments; SI and radians, places in metres from its origin. */
export const toldNames = [
  'roll',
  'pitch',
  'yaw',
  'north',
  'east',
  'height',
  'velocityNorth',
  'velocityEast',
  'climb',
  'airspeed',
  'windNorth',
  'windEast',
  'throttle',
  'supplyV',
  'currentA',
  'satellites',
  'accuracy',
  'quality',
  'command',
  'shake',
  'compassOff',
  'homeNorth',
  'homeEast',
] as const;
export type ToldName = (typeof toldNames)[number];

type FlownKind = 'board' | 'rehearsal' | 'track';

/** A flight that was flown, or rehearsed, or a track of one: columns of equal length, in the order of time. */
export interface Flown {
  readonly kind: FlownKind;
  /** For a person: "flight 3", "the last rehearsal", the name of a file. */
  readonly name: string;
  readonly firmware: string;
  /** What north and east are counted from, degrees. */
  readonly origin: Place;
  /** Since its first moment, s; growing. */
  readonly seconds: Float64Array;
  /** What is told; a name that is left out was not told at all, NaN not at that moment. */
  readonly told: Readonly<Partial<Record<ToldName, Float64Array>>>;
  /** Index into `modes` at each moment; below nought where none is told. */
  readonly mode: Int8Array;
  readonly modes: readonly string[];
  /** s since its first moment */
  readonly decisions: readonly { readonly atS: number; readonly text: string }[];
  /** Unlike the firmware's defaults, that it was flown by. */
  readonly settings: Values;
  /** Samples left out because their time ran backwards or was no number, and places where samples are missing. */
  readonly dropped: number;
  readonly gaps: number;
}

export const lastsS = (f: Flown): number => f.seconds[f.seconds.length - 1] ?? 0;

/** A space between samples beyond so many of the usual ones is a gap. */
const GAP = 3;
/** No file of a flight is larger. */
export const MOST_FLOWN_BYTES = 400_000_000;
/** No flight has more. */
const MOST_SAMPLES = 2_000_000;

/**
 * A board's log, put in order: samples whose time does not go on are left out and counted.
 * @param about what its metres are counted from where it does not say so itself
 * @returns a sentence's end where it tells nothing
 */
export function flownOfLog(log: LoggedSeries, about: Place, name: string): Flown | string {
  const clock = log.fields.indexOf('seconds');
  if (clock < 0) return 'tells no time';
  const kept: (readonly number[])[] = [];
  let last = Number.NEGATIVE_INFINITY;
  for (const s of log.samples) {
    const t = s[clock]!;
    if (!(t > last) || !(t < 1e7)) continue;
    last = t;
    kept.push(s);
  }
  if (kept.length < 2) return 'holds no flight: fewer than two moments are told';
  if (kept.length > MOST_SAMPLES) return `holds more than ${MOST_SAMPLES} moments`;
  const begin = kept[0]![clock]!;
  const n = kept.length;
  const seconds = new Float64Array(n);
  const mode = new Int8Array(n);
  const modeAt = log.fields.indexOf('mode');
  const told: Partial<Record<ToldName, Float64Array>> = {};
  const columns: Float64Array[] = [];
  const places: number[] = [];
  for (const name of toldNames) {
    const k = log.fields.indexOf(name);
    if (k < 0) continue;
    const column = new Float64Array(n);
    told[name] = column;
    columns.push(column);
    places.push(k);
  }
  for (let i = 0; i < n; i++) {
    const row = kept[i]!;
    seconds[i] = row[clock]! - begin;
    const m = modeAt < 0 ? -1 : row[modeAt]!;
    mode[i] = log.modes[m] === undefined ? -1 : m;
    for (let c = 0; c < places.length; c++) columns[c]![i] = row[places[c]!]!;
  }
  return {
    kind: 'board',
    ...{ name, firmware: log.firmware, origin: log.origin ?? about, seconds, told },
    mode,
    modes: log.modes,
    decisions: log.decisions.map((d) => ({ atS: Math.max(0, d.atS - begin), text: d.text })),
    settings: log.settings,
    dropped: log.samples.length - kept.length,
    gaps: gapsOf(seconds),
  };
}

/** Places where samples are missing. */
export function gapsOf(seconds: Float64Array): number {
  if (seconds.length < 3) return 0;
  const spaces = seconds.slice(1).map((t, i) => t - seconds[i]!);
  const usual = spaces.slice().sort()[spaces.length >> 1]!;
  return spaces.reduce((n, s) => (s > GAP * usual ? n + 1 : n), 0);
}

/** A rehearsal as a flight, counted from its home. */
export function flownOfRehearsal(result: RehearsalResult, site: Pick<Site, 'home'>): Flown {
  const { track } = result;
  const { home } = site;
  const of = (pick: (p: (typeof track)[number]) => number) => Float64Array.from(track, pick);
  const modes = [...new Set(track.map((p) => p.mode))];
  const [north, east] = [of((p) => northOf(home.lat, p.lat)), of((p) => eastOf(home.lat, home.lon, p.lon))];
  const seconds = of((p) => p.atS - track[0]!.atS);
  const rate = (column: Float64Array) => slopes(seconds, column);
  const height = of((p) => p.heightM);
  return {
    kind: 'rehearsal',
    ...{ name: 'the rehearsal', firmware: '', origin: { lat: home.lat, lon: home.lon }, seconds },
    told: {
      roll: of((p) => p.rollDeg * DEG),
      pitch: of((p) => p.pitchDeg * DEG),
      yaw: of((p) => p.yawDeg * DEG),
      ...{ north, east, height, velocityNorth: rate(north), velocityEast: rate(east), climb: rate(height) },
      airspeed: of((p) => p.toldAirspeedMps ?? p.airspeedMps),
      ...{ homeNorth: of(() => 0), homeEast: of(() => 0) },
    },
    mode: Int8Array.from(track, (p) => modes.indexOf(p.mode)),
    modes,
    decisions: result.decisions.map((d) => ({ atS: Math.max(0, d.atS - track[0]!.atS), text: d.text })),
    ...{ settings: {}, dropped: 0, gaps: 0 },
  };
}

/** Rate of change over each moment's neighbours, by central differences. @param seconds growing */
export function slopes(seconds: Float64Array, column: Float64Array): Float64Array {
  const n = column.length;
  return Float64Array.from({ length: n }, (_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
    const dt = seconds[b]! - seconds[a]!;
    return dt > 0 ? (column[b]! - column[a]!) / dt : 0;
  });
}

/** The last moment that is not after a time; 0 before the first. By halving. */
export function indexAt(seconds: Float64Array, atS: number): number {
  let [low, high] = [0, seconds.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (seconds[middle]! <= atS) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Ground under each moment, above the sea, m; NaN where the site's ground is not known or no place is told. */
export function groundUnder(flown: Flown, site: Pick<Site, 'terrain' | 'home'>): Float64Array {
  const { north, east } = flown.told;
  const { terrain } = site;
  if (!terrain.known || !north || !east) return new Float64Array(flown.seconds.length).fill(Number.NaN);
  const { homeEastM, homeNorthM } = groundAbout(terrain, flown.origin);
  return flown.seconds.map((_, i) =>
    groundHeight(terrain, homeEastM + east[i]!, homeNorthM + north[i]!),
  ) as Float64Array;
}

/** Runs of one mode: from and to as indices, the end not in it. */
export function modeRuns(
  flown: Flown,
): { readonly mode: string; readonly from: number; readonly to: number }[] {
  const runs: { mode: string; from: number; to: number }[] = [];
  for (let i = 0; i < flown.mode.length; i++) {
    const mode = flown.modes[flown.mode[i]!] ?? '';
    const last = runs.at(-1);
    if (last && last.mode === mode) last.to = i + 1;
    else runs.push({ mode, from: i, to: i + 1 });
  }
  return runs;
}

/** No track in the air is drawn with more points. */
const MOST_DRAWN = 3000;

/** A flight's track as points in the air, thinned evenly. */
export function trackPoints(
  { told, origin, seconds, mode, modes }: Flown,
  groundM: Float64Array,
): readonly TrackPoint[] {
  const { north, east, height } = told;
  const every = Math.max(1, Math.ceil(seconds.length / MOST_DRAWN));
  const at = (column: Float64Array | undefined, i: number) => {
    const v = column?.[i] ?? 0;
    return Number.isFinite(v) ? v : 0;
  };
  const indices: number[] = [];
  for (let i = 0; i < seconds.length; i += every)
    if (north && east && Number.isFinite(north[i]! + east[i]!)) indices.push(i);
  return indices.map((i) => ({
    atS: seconds[i]!,
    lat: latitudeAt(origin.lat, north![i]!),
    lon: longitudeAt(origin.lat, origin.lon, east![i]!),
    heightM: at(height, i),
    groundM: at(groundM, i),
    airspeedMps: at(told.airspeed, i),
    groundspeedMps: Math.hypot(at(told.velocityNorth, i), at(told.velocityEast, i)),
    mode: modes[mode[i]!] ?? '',
    rollDeg: at(told.roll, i) / DEG,
    pitchDeg: at(told.pitch, i) / DEG,
    yawDeg: at(told.yaw, i) / DEG,
  }));
}
