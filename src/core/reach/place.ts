import { isRotorcraft } from '../airframe/airframe.ts';
import { stallSpeed } from '../airframe/performance.ts';
import { groundAbout } from '../flight/terrain.ts';
import { DEG } from '../math/scalar.ts';
import { groundInReach } from '../navigation/returnPlan.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { formatDuration, formatQuantity, type UnitSystem } from '../units/units.ts';
import type { HomeMarch, Limit, WayPoint } from './homeMarch.ts';
import { homeMarch, type ReachInput } from './reachMap.ts';

/** The way home from one place, and what is short of it. */
export interface ReachPlace {
  readonly eastM: number;
  readonly northM: number;
  readonly margin: number;
  readonly limit: Limit;
  /** Charge at the end and what it has to be, share; not a number where it does not get there. */
  readonly leftShare: number;
  readonly needShare: number;
  readonly needFor: HomeMarch['needFor'];
  readonly seconds: number;
  readonly leastWayMps: number;
  /** From home, m; 0 above it. */
  readonly leastWayAtM: number;
  /** Mean wind where that is, m/s. */
  readonly windMps: number;
  readonly clearanceM: number;
  readonly clearanceAtM: number;
  /** Of rotors how far they may lean and what that makes through the air; null for wings. */
  readonly lean: HomeMarch['lean'];
}

/** @param way takes its points */
export function reachPlace(
  march: HomeMarch,
  eastM: number,
  northM: number,
  way: WayPoint[] = [],
): ReachPlace {
  const margin = march.from(northM, eastM, way);
  const slowest = way.reduce(
    (worst, p) =>
      Math.abs(p.distanceM - march.leastWayAtM) < Math.abs(worst.distanceM - march.leastWayAtM) ? p : worst,
    way[0]!,
  );
  return {
    eastM,
    northM,
    margin,
    limit: march.limit,
    leftShare: march.leftShare,
    needShare: march.needShare,
    needFor: march.needFor,
    seconds: march.seconds,
    leastWayMps: march.leastWayMps,
    leastWayAtM: march.leastWayAtM,
    windMps: march.leastWayAtM === 0 ? march.windHere : slowest.windMps,
    clearanceM: march.clearanceM,
    clearanceAtM: march.clearanceAtM,
    lean: march.lean,
  };
}

/** A limit in one word, and its letter on the map. */
export const limitNames: Readonly<Record<Limit, { readonly name: string; readonly letter: string }>> = {
  energy: { name: 'energy', letter: 'E' },
  wind: { name: 'wind', letter: 'W' },
  ground: { name: 'ground', letter: 'G' },
  time: { name: 'time', letter: 'T' },
  fence: { name: 'fence', letter: 'F' },
};

/** The same in two or three words, for a map. */
export function limitFigure(p: ReachPlace, units: UnitSystem): string {
  switch (p.limit) {
    case 'energy':
      return p.leftShare > 0
        ? `${Math.round(100 * p.leftShare)} % left, ${Math.round(100 * p.needShare)} % wanted`
        : 'runs empty';
    case 'wind':
      return `${formatQuantity(p.windMps, 'm/s', units, 0)}${p.leastWayAtM === 0 ? ' above home' : ''}`;
    case 'ground':
      return p.clearanceM < 0
        ? `${formatQuantity(-p.clearanceM, 'm', units, 0)} too low`
        : `clears by ${formatQuantity(p.clearanceM, 'm', units, 0)}`;
    case 'time':
      return formatDuration(p.seconds);
    case 'fence':
      return 'ends there';
  }
}

/** What is short there, or nearest to being so, in a line. */
export function limitWords(p: ReachPlace, units: UnitSystem): string {
  const percent = (share: number) => `${Math.round(100 * Math.max(0, share))} %`;
  const q = (v: number) => formatQuantity(v, 'm', units, 0);
  switch (p.limit) {
    case 'energy':
      if (p.leftShare === Number.NEGATIVE_INFINITY) return 'so it cannot hold its height';
      return p.leftShare <= 0
        ? 'the battery is empty before it is home'
        : `${percent(p.leftShare)} would be left, ${percent(p.needShare)} is wanted${p.needFor === 'circling' ? ' to circle for ten minutes' : ''}`;
    case 'wind':
      // With more tilt than it may have it would make way.
      if (p.lean && p.windMps > LEANS_TOO_LITTLE * p.lean.airMps)
        return `too little tilt: leaning ${Math.round(p.lean.tiltRad / DEG)}° at most it makes ${formatQuantity(p.lean.airMps, 'm/s', units, 0)} through the air, and the wind has ${formatQuantity(p.windMps, 'm/s', units, 0)}`;
      if (p.leastWayAtM === 0)
        return `hardly holds its place above home against ${formatQuantity(p.windMps, 'm/s', units, 0)}`;
      return p.leastWayMps < 0.1
        ? `stands still against ${formatQuantity(p.windMps, 'm/s', units, 0)}`
        : `makes ${formatQuantity(p.leastWayMps, 'm/s', units, 1)} against ${formatQuantity(p.windMps, 'm/s', units, 0)}`;
    case 'ground':
      return p.clearanceM < 0
        ? `${q(-p.clearanceM)} too low for the ground ${q(p.clearanceAtM)} from home`
        : `clears the ground ${q(p.clearanceAtM)} from home by ${q(p.clearanceM)}`;
    case 'time':
      return `takes ${formatDuration(p.seconds)}; it gives up before`;
    case 'fence':
      return 'the way there or home breaks a fence';
  }
}

/** Edits that bring it home from a place, and what they are called. */
export interface Mend {
  readonly label: string;
  readonly edits: Values;
}

/** So much faster than the return speed is tried, and so much slower, which takes less, m/s. */
const FASTER = [1, 2, 3, 4, 6, 8];
const SLOWER = [-1, -2, -3, -4];

/** A wind above this share of what its tilt makes is too much for that tilt, not for its speed. */
const LEANS_TOO_LITTLE = 0.75;
/** A craft with rotors may lean so much more, degrees, and no farther than this. */
const LEANS = [4, 8, 12, 16];
const MOST_LEAN_DEG = 45;

/** So many changes together are offered at most. */
const MOST_CHANGES = 3;

/**
 * The least change of the drafted return that brings it home from a place: one change where one does, otherwise the one
 * that helps most and what it takes beside. Null where it comes home as it is, or nothing that settings can do helps.
 */
export function mendFor(input: ReachInput, eastM: number, northM: number, units: UnitSystem): Mend | null {
  let values = input.values;
  let margin = homeMarch(input).from(northM, eastM);
  if (margin >= 0) return null;
  const taken: Mend[] = [];
  while (taken.length < MOST_CHANGES) {
    let best: Mend | null = null;
    for (const mend of changesOf({ ...input, values }, units)) {
      const tried = homeMarch({ ...input, values: { ...values, ...mend.edits } }).from(northM, eastM);
      if (tried <= margin) continue;
      best = mend;
      margin = tried;
      if (tried >= 0) break;
    }
    if (!best) return null;
    values = { ...values, ...best.edits };
    taken.push(best);
    if (margin >= 0) return together(taken);
  }
  return null;
}

function together(mends: readonly Mend[]): Mend {
  const [first, ...others] = mends.map((m) => m.label);
  const label = [first!, ...others.map((l) => l[0]!.toLowerCase() + l.slice(1))].join('; ');
  return { label, edits: Object.assign({}, ...mends.map((m) => m.edits)) };
}

/** Changes of one thing each, the least first. */
function changesOf({ airframe, values, site }: ReachInput, units: UnitSystem): Mend[] {
  const s = settingsOf(values);
  const [speed, height] = [s.number('return.speed'), s.number('return.height')];
  const mends: Mend[] = [];
  const climbsFirst = s.choice('return.climb') === 'climb-first';
  const climb: Values = climbsFirst ? {} : { 'return.climb': 'climb-first' };
  if (!climbsFirst) mends.push({ label: 'Climb first, then turn for home', edits: climb });
  const above = (to: number, more: Values, how: string): Mend => ({
    label: `Return ${formatQuantity(to, 'm', units, 0)} above home${how}`,
    edits: { 'return.height': to, ...more },
  });
  if (site.terrain.known) {
    const { needM } = groundInReach(groundAbout(site.terrain, site.home));
    for (const to of [height + 40, height + 80, height + 140, needM])
      if (to > height && to <= needM)
        mends.push(above(5 * Math.ceil(to / 5), climb, climbsFirst ? '' : ', climbing first'));
    if (needM < height - 5) mends.push(above(needM, {}, ''));
  }
  const least = isRotorcraft(airframe) ? 3 : 1.3 * stallSpeed(airframe);
  for (const by of [...FASTER, ...SLOWER]) {
    const to = speed + by;
    if (to < least || to > 60) continue;
    mends.push({
      label: `Fly home at ${formatQuantity(to, 'm/s', units)}`,
      edits: { 'return.speed': to },
    });
  }
  if (isRotorcraft(airframe))
    for (const by of LEANS) {
      const to = s.number('hover.tilt') + by;
      if (to <= MOST_LEAN_DEG) mends.push({ label: `Let it lean up to ${to}°`, edits: { 'hover.tilt': to } });
    }
  if (s.choice('return.arrival') !== 'land')
    mends.push({ label: 'Land instead of circling', edits: { 'return.arrival': 'land' } });
  return mends;
}
