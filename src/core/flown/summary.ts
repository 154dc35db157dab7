import type { FlownFlight } from '../field/fieldBook.ts';
import { latitudeAt, longitudeAt } from '../navigation/earth.ts';
import { type Flown, lastsS } from './flown.ts';
import { inTheAir } from './inTheAir.ts';
import { drawnMah, fromHome } from './series.ts';

/** Points of a track that are kept to know it by. */
const STAMP_POINTS = 60;
/** Current has to change by so much between two moments to tell the resistance, A. */
const LEAST_STEP_A = 2;

/** Figures of a flight, for the book. */
export type FlightFigures = Pick<
  FlownFlight,
  'seconds' | 'wayM' | 'farthestM' | 'highestM' | 'drawnMah' | 'leastV' | 'ohm' | 'windMps' | 'stamp'
>;

/** What of a flight goes into the book; figures that it does not tell are left out. */
export function figuresOf(flown: Flown): FlightFigures {
  const air = inTheAir(flown);
  const { north, east, height, supplyV, windNorth, windEast } = flown.told;
  const { from, to } = air ?? { from: 0, to: flown.seconds.length - 1 };
  const away = fromHome(flown);
  const home = height?.find(Number.isFinite) ?? 0;
  let wayM = 0;
  for (let i = from + 1; north && east && i <= to; i++) {
    const step = Math.hypot(north[i]! - north[i - 1]!, east[i]! - east[i - 1]!);
    if (Number.isFinite(step)) wayM += step;
  }
  const drawn = drawnMah(flown)?.at(-1);
  const least = supplyV?.reduce((m, v) => (v > 1 && v < m ? v : m), Number.POSITIVE_INFINITY);
  const ohm = resistanceOf(flown);
  const winds =
    windNorth && windEast
      ? windNorth.slice(from, to + 1).map((n, i) => Math.hypot(n, windEast[from + i]!))
      : null;
  const wind = winds?.length ? winds.reduce((sum, v) => sum + v, 0) / winds.length : Number.NaN;
  return {
    seconds: round(air ? flown.seconds[to]! - flown.seconds[from]! : lastsS(flown), 1),
    wayM: Math.round(wayM),
    farthestM: Math.round(most(away, from, to)),
    highestM: Math.round(most(height, from, to) - home),
    ...(drawn === undefined ? {} : { drawnMah: Math.round(drawn) }),
    ...(least !== undefined && Number.isFinite(least) ? { leastV: round(least, 2) } : {}),
    ...(ohm === null ? {} : { ohm: round(ohm, 4) }),
    ...(Number.isFinite(wind) ? { windMps: round(wind, 1) } : {}),
    stamp: stampOf(flown, from, to),
  };
}

const round = (v: number, digits: number) => Number(v.toFixed(digits));

function most(column: Float64Array | null | undefined, from: number, to: number): number {
  let m = 0;
  let any = false;
  for (let i = from; column && i <= to; i++) {
    const v = column[i]!;
    if (!Number.isFinite(v) || (any && v <= m)) continue;
    m = v;
    any = true;
  }
  return m;
}

/**
 * Resistance of battery and lead, ohm: how the supply answers to changes of the current from one moment to the next, as
 * the slope through nought by least squares, so that what the charge does meanwhile falls out. Null where too little changed.
 */
export function resistanceOf({ told: { supplyV, currentA } }: Flown): number | null {
  if (!supplyV || !currentA) return null;
  let [xy, xx, n] = [0, 0, 0];
  for (let i = 1; i < supplyV.length; i++) {
    const [di, dv] = [currentA[i]! - currentA[i - 1]!, supplyV[i]! - supplyV[i - 1]!];
    if (!(Math.abs(di) >= LEAST_STEP_A) || !(supplyV[i]! > 1)) continue;
    xy -= di * dv;
    xx += di * di;
    n++;
  }
  return n >= 5 && xy > 0 ? xy / xx : null;
}

/** A few places of its track, to know it by. */
function stampOf(flown: Flown, from: number, to: number): number[] {
  const { north, east } = flown.told;
  if (!north || !east) return [];
  const n = Math.min(STAMP_POINTS, to - from + 1);
  const { lat, lon } = flown.origin;
  return Array.from(
    { length: n },
    (_, k) => from + Math.round((k * (to - from)) / Math.max(1, n - 1)),
  ).flatMap((i) =>
    Number.isFinite(north[i]! + east[i]!)
      ? [round(latitudeAt(lat, north[i]!), 5), round(longitudeAt(lat, lon, east[i]!), 5)]
      : [],
  );
}
