import { eastOf, northOf } from '../navigation/earth.ts';
import { formatClock, formatQuantity, type UnitSystem } from '../units/units.ts';
import { type Flown, indexAt } from './flown.ts';
import { type InTheAir, inTheAir } from './inTheAir.ts';
import { drawnMah, fromHome } from './series.ts';

/** Two flights beside each other: laid over each other in time, and what is other. */
export interface Compared {
  /** The second flight's time less the first one's, s: add it to a time of the first. */
  readonly offsetS: number;
  readonly by: 'take-off' | 'likeness';
  /** Over the time that both tell of: how far they were apart, m, and when it was most, s of the first. */
  readonly apartM: { readonly mean: number; readonly most: number; readonly atS: number } | null;
  readonly facts: readonly ComparedFact[];
}

interface ComparedFact {
  readonly name: string;
  readonly first: string;
  readonly second: string;
  /** Second over first less one; null where that means nothing. */
  readonly share: number | null;
}

/** Shifts that are tried about the take-off, s. */
const SHIFT_S = 30;
const SHIFT_STEP_S = 0.5;
const FINE_STEP_S = 0.05;
/** Moments at which likeness is looked at. */
const LOOKED = 240;
/** Only so much better is another shift than that of the take-off, share. */
const BETTER = 0.8;

/** Lays one flight over another. */
export function compared(first: Flown, second: Flown, units: UnitSystem): Compared {
  const air = [airOf(first), airOf(second)] as const;
  const takeOff = second.seconds[air[1].from]! - first.seconds[air[0].from]!;
  const found = likest(first, second, air[0], takeOff);
  const offsetS = found ?? takeOff;
  return {
    offsetS,
    by: found === null ? 'take-off' : 'likeness',
    apartM: apart(first, second, offsetS, air[0]),
    facts: factsOf(first, second, air, units),
  };
}

const airOf = (f: Flown): InTheAir => inTheAir(f) ?? { from: 0, to: f.seconds.length - 1 };

/** A shift at which distance from home and height go much better together than at the take-off's; null where there is none. */
function likest(first: Flown, second: Flown, air: InTheAir, takeOff: number): number | null {
  const [a, b] = [fromHome(first), fromHome(second)];
  const [ha, hb] = [first.told.height, second.told.height];
  if (!a || !b || !ha || !hb) return null;
  const [from, to] = [first.seconds[air.from]!, first.seconds[air.to]!];
  const off = (shift: number) => {
    let [sum, n] = [0, 0];
    for (let k = 0; k < LOOKED; k++) {
      const t = from + ((k + 0.5) / LOOKED) * (to - from);
      const u = t + shift;
      if (u < 0 || u > second.seconds.at(-1)!) continue;
      const [i, j] = [indexAt(first.seconds, t), indexAt(second.seconds, u)];
      const d = (a[i]! - b[j]!) ** 2 + (ha[i]! - hb[j]!) ** 2;
      if (!Number.isFinite(d)) continue;
      sum += d;
      n++;
    }
    return n > LOOKED / 3 ? sum / n : Number.POSITIVE_INFINITY;
  };
  let best = takeOff;
  let least = off(takeOff);
  const usual = least;
  const tryAbout = (middle: number, reach: number, step: number) => {
    for (let d = -reach; d <= reach; d += step) {
      const o = off(middle + d);
      if (o >= least) continue;
      least = o;
      best = middle + d;
    }
  };
  tryAbout(takeOff, SHIFT_S, SHIFT_STEP_S);
  tryAbout(best, SHIFT_STEP_S, FINE_STEP_S);
  return least < BETTER ** 2 * usual ? best : null;
}

function apart(first: Flown, second: Flown, offsetS: number, air: InTheAir): Compared['apartM'] {
  const [a, b] = [first.told, second.told];
  if (!a.north || !a.east || !b.north || !b.east) return null;
  // Both from the first one's origin.
  const dn = northOf(first.origin.lat, second.origin.lat);
  const de = eastOf(first.origin.lat, first.origin.lon, second.origin.lon);
  const last = second.seconds.at(-1)!;
  let [sum, n, most, atS] = [0, 0, 0, 0];
  for (let i = air.from; i <= air.to; i++) {
    const u = first.seconds[i]! + offsetS;
    if (u < 0 || u > last) continue;
    const j = indexAt(second.seconds, u);
    const d = Math.hypot(
      a.north[i]! - b.north[j]! - dn,
      a.east[i]! - b.east[j]! - de,
      (a.height?.[i] ?? 0) - (b.height?.[j] ?? 0),
    );
    if (!Number.isFinite(d)) continue;
    sum += d;
    n++;
    if (d > most) [most, atS] = [d, first.seconds[i]!];
  }
  return n > 0 ? { mean: sum / n, most, atS } : null;
}

function factsOf(
  first: Flown,
  second: Flown,
  air: readonly [InTheAir, InTheAir],
  units: UnitSystem,
): ComparedFact[] {
  const pair = [first, second] as const;
  const fact = (
    name: string,
    figure: (f: Flown, at: InTheAir) => number,
    text: (v: number) => string,
  ): ComparedFact[] => {
    const [x, y] = pair.map((f, k) => figure(f, air[k]!)) as [number, number];
    if (!Number.isFinite(x) || !Number.isFinite(y)) return [];
    return [{ name, first: text(x), second: text(y), share: Math.abs(x) > 1e-6 ? y / x - 1 : null }];
  };
  const metres = (v: number) => formatQuantity(v, 'm', units, 0);
  const speed = (v: number) => formatQuantity(v, 'm/s', units, 1);
  const lasts = (f: Flown, at: InTheAir) => f.seconds[at.to]! - f.seconds[at.from]!;
  const mean = (column: Float64Array | undefined | null, at: InTheAir) => {
    if (!column) return Number.NaN;
    let [sum, n] = [0, 0];
    for (let i = at.from; i <= at.to; i++)
      if (Number.isFinite(column[i])) {
        sum += column[i]!;
        n++;
      }
    return n > 0 ? sum / n : Number.NaN;
  };
  const top = (column: Float64Array | undefined | null, at: InTheAir) =>
    column
      ? column
          .slice(at.from, at.to + 1)
          .reduce((m, v) => (Number.isFinite(v) ? Math.max(m, v) : m), Number.NEGATIVE_INFINITY)
      : Number.NaN;
  const wind = ({ told: { windNorth, windEast } }: Flown) =>
    windNorth && windEast ? windNorth.map((n, i) => Math.hypot(n, windEast[i]!)) : null;
  return [
    ...fact('in the air', lasts, formatClock),
    ...fact('farthest from home', (f, at) => top(fromHome(f), at), metres),
    ...fact(
      'highest over its start',
      (f, at) => top(f.told.height, at) - (f.told.height?.[at.from] ?? 0),
      metres,
    ),
    ...fact('mean airspeed', (f, at) => mean(f.told.airspeed, at), speed),
    ...fact('mean wind', (f, at) => mean(wind(f), at), speed),
    ...fact(
      'mean current',
      (f, at) => mean(f.told.currentA, at),
      (v) => formatQuantity(v, 'a', units, 1),
    ),
    ...fact(
      'drawn',
      (f) => drawnMah(f)?.at(-1) ?? Number.NaN,
      (v) => formatQuantity(v, 'mah', units, 0),
    ),
    ...fact(
      'strongest shake',
      (f, at) => top(f.told.shake, at),
      (v) => formatQuantity(v, 'm/s2', units, 1),
    ),
  ];
}
