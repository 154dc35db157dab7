import { eastOf, northOf, type Place } from '../navigation/earth.ts';

/**
 * Ground heights on a regular grid of metres east and north of an origin. Row 0 is the northernmost. Below 0 is sea
 * floor, over which the surface lies at 0; outside the grid the ground goes on as at its edge.
 */
export interface Terrain {
  /** What metres are counted from. */
  readonly origin: Place;
  /** False for level ground that stands for one that nobody measured: nothing may be concluded from it. */
  readonly known: boolean;
  readonly columns: number;
  readonly rows: number;
  readonly cellM: number;
  /** East and north of the centre of the lower left cell, m. */
  readonly westM: number;
  readonly southM: number;
  readonly heights: Float32Array;
  /** Share of its cells that had no height when it was read and got that of the nearest that has; left out for none. */
  readonly guessedShare?: number;
}

/** Ground height above sea level at a place given in metres from the grid's centre, bilinear, m. */
export function groundHeight(terrain: Terrain, eastM: number, northM: number): number {
  const right = terrain.columns - 1 - 1e-9;
  const bottom = terrain.rows - 1 - 1e-9;
  let x = (eastM - terrain.westM) / terrain.cellM;
  let y = terrain.rows - 1 - (northM - terrain.southM) / terrain.cellM;
  if (!(x >= 0)) x = 0;
  else if (x > right) x = right;
  if (!(y >= 0)) y = 0;
  else if (y > bottom) y = bottom;
  const i = Math.floor(x);
  const j = Math.floor(y);
  const fx = x - i;
  const fy = y - j;
  const at = j * terrain.columns + i;
  const h = terrain.heights;
  const top = h[at]! * (1 - fx) + h[at + 1]! * fx;
  const low = h[at + terrain.columns]! * (1 - fx) + h[at + terrain.columns + 1]! * fx;
  return Math.max(0, top * (1 - fy) + low * fy);
}

/** Ground about a home on it, in metres from the grid's origin. */
export interface HomeGround {
  readonly terrain: Terrain;
  readonly homeEastM: number;
  readonly homeNorthM: number;
}

export interface Top {
  /** Above sea level, m. */
  readonly heightM: number;
  /** From home, m. */
  readonly distanceM: number;
}

/** The highest ground within a distance of home. */
export function highestWithin({ terrain: t, homeEastM, homeNorthM }: HomeGround, reachM: number): Top {
  let heightM = 0;
  let distanceM = 0;
  for (let j = 0; j < t.rows; j++) {
    for (let i = 0; i < t.columns; i++) {
      const h = t.heights[j * t.columns + i]!;
      if (h <= heightM) continue;
      const d = Math.hypot(
        t.westM + i * t.cellM - homeEastM,
        t.southM + (t.rows - 1 - j) * t.cellM - homeNorthM,
      );
      if (d > reachM) continue;
      heightM = h;
      distanceM = d;
    }
  }
  return { heightM, distanceM };
}

/** Ground about a home. */
export function groundAbout(terrain: Terrain, home: Place): HomeGround {
  const { lat, lon } = terrain.origin;
  return { terrain, homeEastM: eastOf(lat, lon, home.lon), homeNorthM: northOf(lat, home.lat) };
}

/** Level ground about a home, where nobody knows what is there. @param heightM of home above sea level */
export function levelGround(home: Place, heightM: number): Terrain {
  const half = 100_000;
  return {
    origin: { lat: home.lat, lon: home.lon },
    known: false,
    columns: 2,
    rows: 2,
    cellM: 2 * half,
    westM: -half,
    southM: -half,
    heights: new Float32Array(4).fill(heightM),
  };
}

/** Whether a place lies on the grid. */
export function liesOn(terrain: Terrain, place: Place): boolean {
  const { homeEastM: e, homeNorthM: n } = groundAbout(terrain, place);
  const { westM, southM, cellM, columns, rows } = terrain;
  return e >= westM && n >= southM && e <= westM + (columns - 1) * cellM && n <= southM + (rows - 1) * cellM;
}

/** Something that stands on the ground: a mast, a line of trees, a mill. */
export interface Obstacle extends Place {
  readonly name: string;
  /** Its top above sea level, m. */
  readonly topM: number;
  /** It may be anywhere within this of its place, m. */
  readonly radiusM: number;
}

/**
 * The ground with what stands on it: every cell that an obstacle may reach into is as high as its top. Findings, lines
 * home and flights then keep clear of it as of a hill.
 */
export function withObstacles(terrain: Terrain, obstacles: readonly Obstacle[]): Terrain {
  if (!terrain.known || obstacles.length === 0) return terrain;
  const heights = terrain.heights.slice();
  const { columns, rows, cellM, westM, southM } = terrain;
  for (const o of obstacles) {
    const { homeEastM: e, homeNorthM: n } = groundAbout(terrain, o);
    // Between two cells the ground is a slope: both have to be as high.
    const reach = o.radiusM + cellM;
    for (let row = 0; row < rows; row++) {
      const dn = southM + (rows - 1 - row) * cellM - n;
      if (Math.abs(dn) > reach) continue;
      for (let column = 0; column < columns; column++) {
        const de = westM + column * cellM - e;
        const at = row * columns + column;
        if (Math.abs(de) <= reach && o.topM > heights[at]!) heights[at] = o.topM;
      }
    }
  }
  return { ...terrain, heights };
}

/** A coarser grid of the highest ground in each block of cells, for drawings. */
export function pooled(terrain: Terrain, by: number): Terrain {
  const columns = Math.floor(terrain.columns / by);
  const rows = Math.floor(terrain.rows / by);
  if (by < 2 || columns < 2 || rows < 2) return terrain;
  const heights = new Float32Array(columns * rows).fill(Number.NEGATIVE_INFINITY);
  for (let j = 0; j < rows * by; j++)
    for (let i = 0; i < columns * by; i++) {
      const at = Math.floor(j / by) * columns + Math.floor(i / by);
      const h = terrain.heights[j * terrain.columns + i]!;
      if (h > heights[at]!) heights[at] = h;
    }
  const cellM = terrain.cellM * by;
  const lastRow = terrain.rows - rows * by;
  const middle = ((by - 1) / 2) * terrain.cellM;
  return {
    ...terrain,
    columns,
    rows,
    cellM,
    westM: terrain.westM + middle,
    southM: terrain.southM + lastRow * terrain.cellM + middle,
    heights,
  };
}
