import { DEG } from '../math/scalar.ts';
import type { UnitId } from '../units/units.ts';
import type { Flown, ToldName } from './flown.ts';

/** What can be followed over a flight: each a name, a unit in which it is kept, and how it comes from what was told. */
export interface Series {
  readonly id: string;
  readonly name: string;
  readonly unit: UnitId;
  readonly digits: number;
  readonly of: (flown: Flown, groundM: Float64Array) => Float64Array | null;
}

/** One column, times a factor; null where it was not told. */
const told =
  (name: ToldName, factor = 1) =>
  ({ told: t }: Flown) =>
    t[name]?.map((v) => factor * v) ?? null;

/** Two columns by a formula; null where one was not told. */
const both =
  (a: ToldName, b: ToldName, formula: (x: number, y: number) => number) =>
  ({ told: t }: Flown) => {
    const [x, y] = [t[a], t[b]];
    return x && y ? x.map((v, i) => formula(v, y[i]!)) : null;
  };

/** Longer than this between two moments nobody knows what was drawn, s. */
const LONGEST_DRAW_S = 10;

/** Charge drawn since the first moment, mAh, by the current; null where none was told. */
export function drawnMah({ seconds, told: { currentA } }: Flown): Float64Array | null {
  if (!currentA) return null;
  let sum = 0;
  return currentA.map((a, i) => {
    const dt = i > 0 ? seconds[i]! - seconds[i - 1]! : 0;
    if (dt < LONGEST_DRAW_S && a > 0) sum += (a * dt) / 3.6;
    return sum;
  });
}

/** Distance from home over the ground, m; from the origin until home is told. */
export function fromHome({ told: t }: Flown): Float64Array | null {
  const { north, east, homeNorth, homeEast } = t;
  if (!north || !east) return null;
  return north.map((n, i) => {
    const [hn, he] = [homeNorth?.[i] ?? 0, homeEast?.[i] ?? 0];
    return Math.hypot(n - (Number.isNaN(hn) ? 0 : hn), east[i]! - (Number.isNaN(he) ? 0 : he));
  });
}

const allSeries: readonly Series[] = [
  { id: 'height', name: 'height above sea', unit: 'm', digits: 0, of: told('height') },
  {
    ...{ id: 'over-ground', name: 'height over ground', unit: 'm', digits: 0 },
    of: ({ told: { height } }, groundM) =>
      height && !Number.isNaN(groundM[0]) ? height.map((h, i) => h - groundM[i]!) : null,
  },
  { id: 'from-home', name: 'distance from home', unit: 'm', digits: 0, of: fromHome },
  { id: 'airspeed', name: 'airspeed', unit: 'm/s', digits: 1, of: told('airspeed') },
  {
    ...{ id: 'ground-speed', name: 'speed over ground', unit: 'm/s', digits: 1 },
    of: both('velocityNorth', 'velocityEast', Math.hypot),
  },
  { id: 'climb', name: 'climb', unit: 'm/s', digits: 1, of: told('climb') },
  { id: 'wind', name: 'wind it felt', unit: 'm/s', digits: 1, of: both('windNorth', 'windEast', Math.hypot) },
  { id: 'bank', name: 'bank', unit: 'deg', digits: 0, of: told('roll', 1 / DEG) },
  { id: 'nose', name: 'nose up', unit: 'deg', digits: 0, of: told('pitch', 1 / DEG) },
  { id: 'throttle', name: 'throttle', unit: 'percent', digits: 0, of: told('throttle', 100) },
  { id: 'command', name: 'greatest command', unit: 'percent', digits: 0, of: told('command', 100) },
  { id: 'volts', name: 'supply', unit: 'v', digits: 2, of: told('supplyV') },
  { id: 'amps', name: 'current', unit: 'a', digits: 1, of: told('currentA') },
  { id: 'drawn', name: 'drawn', unit: 'mah', digits: 0, of: drawnMah },
  { id: 'satellites', name: 'satellites', unit: 'count', digits: 0, of: told('satellites') },
  { id: 'accuracy', name: 'place good to', unit: 'm', digits: 1, of: told('accuracy') },
  { id: 'quality', name: 'link heard', unit: 'percent', digits: 0, of: told('quality', 100) },
  { id: 'shake', name: 'shake', unit: 'm/s2', digits: 1, of: told('shake') },
  { id: 'compass-off', name: 'compass off', unit: 'deg', digits: 0, of: told('compassOff', 1 / DEG) },
];

/** Of a flight, what it tells: series with their values. */
export function seriesOf(
  flown: Flown,
  groundM: Float64Array,
): readonly (Series & { readonly values: Float64Array })[] {
  return allSeries.flatMap((s) => {
    const values = s.of(flown, groundM);
    return values?.some(Number.isFinite) ? [{ ...s, values }] : [];
  });
}
