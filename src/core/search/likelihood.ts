import { Random } from '../math/random.ts';
import { type Ending, EndingFlyer, endings, type Landed, type SearchWorld, sharesOf } from './endings.ts';

/** Where it may lie, as squares about the place where it was last seen; row 0 is the southernmost. */
export interface Likelihood {
  readonly cellM: number;
  readonly columns: number;
  readonly rows: number;
  /** Of the lower left corner, from the place where it was last seen. */
  readonly westM: number;
  readonly southM: number;
  /** Chance that it lies in each square; all of them together are one. */
  readonly chance: Float64Array;
  /** Squares from the likeliest on, as far as `SEARCHED` of all goes. */
  readonly order: Uint32Array;
  /** How likely each ending was taken to be. */
  readonly shares: Readonly<Record<Ending, number>>;
}

/** Where a flight ended; all of them together are the cloud. */
export interface Cloud {
  readonly north: Float64Array;
  readonly east: Float64Array;
  /** Place among `SPREADS_M` of how far each end speaks for its neighbourhood. */
  readonly spread: Uint8Array;
  readonly count: number;
}

/** So much of the chance is in the area that is searched at all. */
const SEARCHED = 0.9;
const MOST_CELLS = 500;
const LEAST_CELL_M = 10;
/** How far one flight's end speaks for its neighbourhood, m: what falls lies near the others that fall, what flew on lies anywhere. */
const SPREADS_M = [14, 45, 140] as const;
const spreadOf: Readonly<Record<Ending, 0 | 1 | 2>> = {
  fall: 0,
  'down-here': 0,
  glide: 1,
  circling: 1,
  'way-home': 1,
  'flown-on': 2,
  'flown-round': 2,
};
/** Of flights on each side that are too far out to draw the map for, share. */
const OUTLIERS = 0.004;

/**
 * Flies plausible endings from where it was last seen. Equal questions have equal answers.
 * @param flights how many
 */
export function flyEndings(world: SearchWorld, flights: number, seed: number): Cloud {
  const random = new Random(seed);
  const flyer = new EndingFlyer(world, random);
  const shares = sharesOf(world.craft, world.seen);
  const north = new Float64Array(flights);
  const east = new Float64Array(flights);
  const spread = new Uint8Array(flights);
  const landed: Landed = { north: 0, east: 0, seconds: 0 };
  for (let k = 0; k < flights; k++) {
    const ending = picked(shares, random.uniform());
    spread[k] = spreadOf[ending];
    flyer.fly(ending, landed);
    north[k] = landed.north;
    east[k] = landed.east;
  }
  return { north, east, spread, count: flights };
}

/** The ending that a number from 0 to 1 falls on, each as wide as it is likely. */
function picked(shares: Readonly<Record<Ending, number>>, at: number): Ending {
  let left = at;
  for (const ending of endings) {
    left -= shares[ending];
    if (left < 0) return ending;
  }
  return 'fall';
}

/** A square that was looked over, by its middle from the place where it was last seen, m. */
export interface Searched {
  readonly north: number;
  readonly east: number;
  readonly sideM: number;
}

/** Whoever looks over a square finds what lies there so often: grass and ditches hide it. Ours. */
const FINDS = 0.85;

/** What is left of a map once some of it was looked over: by Bayes' rule, what was not found there lies elsewhere. */
export function withSearched(map: Likelihood, searched: readonly Searched[]): Likelihood {
  if (searched.length === 0) return map;
  const chance = map.chance.slice();
  for (const s of searched) {
    const reach = s.sideM / 2;
    const column = (east: number) => Math.round((east - map.westM) / map.cellM);
    const row = (north: number) => Math.round((north - map.southM) / map.cellM);
    const [i0, i1] = [Math.max(0, column(s.east - reach)), Math.min(map.columns, column(s.east + reach))];
    const [j0, j1] = [Math.max(0, row(s.north - reach)), Math.min(map.rows, row(s.north + reach))];
    for (let j = j0; j < j1; j++) for (let i = i0; i < i1; i++) chance[j * map.columns + i]! *= 1 - FINDS;
  }
  return { ...map, ...ranked(chance) };
}

/** Chances that add up to one, and the squares in the order in which they are searched. */
function ranked(chance: Float64Array): Pick<Likelihood, 'chance' | 'order'> {
  const sum = chance.reduce((s, x) => s + x, 0) || 1;
  for (let k = 0; k < chance.length; k++) chance[k]! /= sum;
  const all = Uint32Array.from({ length: chance.length }, (_, i) => i).sort(
    (a, b) => chance[b]! - chance[a]!,
  );
  let held = 0;
  let last = 0;
  while (last < all.length && held < SEARCHED) held += chance[all[last++]!]!;
  return { chance, order: all.slice(0, last) };
}

/** A cloud as a map: counted into squares and spread over their neighbours by Gaussians (Silverman 1986, 4.2), wider where flights are few. */
export function likelihoodOf(cloud: Cloud, world: SearchWorld): Likelihood {
  const [south, north] = edges(cloud.north);
  const [west, east] = edges(cloud.east);
  const cellM = Math.max(LEAST_CELL_M, Math.ceil(Math.max(north - south, east - west) / MOST_CELLS));
  const margin = 3 * SPREADS_M[1];
  const westM = Math.floor((west - margin) / cellM) * cellM;
  const southM = Math.floor((south - margin) / cellM) * cellM;
  const columns = Math.ceil((east + margin - westM) / cellM);
  const rows = Math.ceil((north + margin - southM) / cellM);
  const all = new Float64Array(columns * rows);
  for (const [width, spreadM] of SPREADS_M.entries()) {
    const counted = new Float64Array(columns * rows);
    for (let k = 0; k < cloud.count; k++) {
      if (cloud.spread[k] !== width) continue;
      const i = Math.floor((cloud.east[k]! - westM) / cellM);
      const j = Math.floor((cloud.north[k]! - southM) / cellM);
      if (i >= 0 && i < columns && j >= 0 && j < rows) counted[j * columns + i]! += 1;
    }
    const spreadOut = spread(counted, columns, rows, Math.max(1, spreadM / cellM));
    for (let k = 0; k < all.length; k++) all[k]! += spreadOut[k]!;
  }
  return {
    ...{ cellM, columns, rows, westM, southM },
    ...ranked(all),
    shares: sharesOf(world.craft, world.seen),
  };
}

/** Where nearly all of some numbers lie. */
function edges(of: Float64Array): readonly [number, number] {
  const sorted = of.slice().sort();
  const out = Math.floor(OUTLIERS * sorted.length);
  return [sorted[out] ?? 0, sorted[sorted.length - 1 - out] ?? 0];
}

/** A Gaussian of a width in squares over rows, then over columns; its whole is one. */
function spread(from: Float64Array, columns: number, rows: number, width: number): Float64Array {
  const reach = Math.ceil(3 * width);
  const kernel = Float64Array.from(
    { length: 2 * reach + 1 },
    (_, i) => Math.exp(-0.5 * ((i - reach) / width) ** 2) / (width * Math.sqrt(2 * Math.PI)),
  );
  const once = new Float64Array(from.length);
  const twice = new Float64Array(from.length);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const at = from[j * columns + i]!;
      if (at === 0) continue;
      for (let k = -reach; k <= reach; k++)
        if (i + k >= 0 && i + k < columns) once[j * columns + i + k]! += at * kernel[k + reach]!;
    }
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const at = once[j * columns + i]!;
      if (at === 0) continue;
      for (let k = -reach; k <= reach; k++)
        if (j + k >= 0 && j + k < rows) twice[(j + k) * columns + i]! += at * kernel[k + reach]!;
    }
  return twice;
}

/** How much of the area that is searched comes before a place, from the likeliest square on; 1 beyond all of it. */
export function searchedBefore(map: Likelihood, northM: number, eastM: number): number {
  const i = Math.floor((eastM - map.westM) / map.cellM);
  const j = Math.floor((northM - map.southM) / map.cellM);
  if (i < 0 || i >= map.columns || j < 0 || j >= map.rows) return 1;
  const rank = map.order.indexOf(j * map.columns + i);
  return rank < 0 ? 1 : (rank + 1) / map.order.length;
}

/** Shares of the searched area, from the likeliest on, that are told apart in a file. */
export const BANDS = [0.05, 0.1, 0.2, 0.4, 1] as const;

/** Band of each square of a search, by its place in the order; -1 for those that are not searched. */
export function bandsOf(map: Likelihood): Int8Array {
  const bands = new Int8Array(map.columns * map.rows).fill(-1);
  map.order.forEach((cell, rank) => {
    bands[cell] = BANDS.findIndex((b) => (rank + 1) / map.order.length <= b + 1e-12);
  });
  return bands;
}
