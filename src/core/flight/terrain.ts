/**
 * Ground heights on a regular grid of metres east and north of a centre. Row 0 is the northernmost.
 * Below 0 is sea floor; over it, and outside the grid, the surface lies at 0.
 */
export interface Terrain {
  readonly columns: number;
  readonly rows: number;
  readonly cellM: number;
  /** East and north of the centre of the lower left cell, m. */
  readonly westM: number;
  readonly southM: number;
  readonly heights: Float32Array;
}

/** Ground height above sea level at a place given in metres from the grid's centre, bilinear, m. */
export function groundHeight(terrain: Terrain, eastM: number, northM: number): number {
  const x = (eastM - terrain.westM) / terrain.cellM;
  const y = terrain.rows - 1 - (northM - terrain.southM) / terrain.cellM;
  if (!(x >= 0 && y >= 0 && x < terrain.columns - 1 && y < terrain.rows - 1)) return 0;
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

/** Ground about a home on it, in metres from the grid's centre. */
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
