import { contours } from 'd3-contour';
import { groundAbout, pooled } from '#core/flight/terrain.ts';
import { eastOf, latitudeAt, longitudeAt, northOf, type Place } from '#core/navigation/earth.ts';
import type { Site } from '#core/site/site.ts';

/** A map is so many units wide; its letters and lines are given in them. */
const UNITS = 116;
/** Of a wide ground so much about home is drawn, m to each side. */
const MOST_M = 8000;
const MOST_CELLS = 12_000;
const MOST_LINES = 11;
/** A map is so high for its width at most. */
const HIGH = 0.62;

/** A contour line: its height above sea level, m, and its way in the map's units. */
interface Contour {
  readonly level: number;
  readonly path: string;
  /** Drawn stronger. */
  readonly main: boolean;
}

/** A map of a site, north up: how places lie on it, and its ground. */
export interface SiteFrame {
  readonly viewBox: string;
  readonly width: number;
  readonly height: number;
  readonly unitM: number;
  /** Home. */
  readonly home: readonly [number, number];
  readonly contours: readonly Contour[];
  /** What lies around is sea: its lowest line is the shore. */
  readonly sea: boolean;
  at(place: Place): readonly [number, number];
  /** The place under a point of the map. */
  placeAt(x: number, y: number): Place;
}

const frames = new WeakMap<Site, SiteFrame>();

/** The map of a site; the same one as long as the site is. */
export function siteFrame(site: Site): SiteFrame {
  let frame = frames.get(site);
  if (!frame) {
    frame = draw(site);
    frames.set(site, frame);
  }
  return frame;
}

function draw(site: Site): SiteFrame {
  const { terrain } = site;
  const { homeEastM, homeNorthM } = groundAbout(terrain, site.home);
  const { lat, lon } = terrain.origin;
  const edge = 0.02 * terrain.cellM * terrain.columns;
  const within = (from: number, to: number, home: number) => {
    if (!terrain.known) return [home - 6000, home + 6000] as const;
    if (to - from <= 2 * MOST_M) return [from + edge, to - edge] as const;
    return [Math.max(from, home - MOST_M), Math.min(to, home + MOST_M)] as const;
  };
  const [west, east] = within(
    terrain.westM,
    terrain.westM + (terrain.columns - 1) * terrain.cellM,
    homeEastM,
  );
  let [south, north] = within(
    terrain.southM,
    terrain.southM + (terrain.rows - 1) * terrain.cellM,
    homeNorthM,
  );
  const high = HIGH * (east - west);
  if (north - south > high) {
    // As much about home as there is room for, and no more than there is ground.
    south = Math.min(Math.max(south, homeNorthM - high / 2), north - high);
    north = south + high;
  }
  const unitM = (east - west) / UNITS;
  const x = (eastM: number) => (eastM - west) / unitM;
  const y = (northM: number) => (north - northM) / unitM;
  const height = (north - south) / unitM;
  const lines = terrain.known ? contoursOf(site, x, y) : [];
  return {
    viewBox: `0 0 ${UNITS} ${height.toFixed(2)}`,
    width: UNITS,
    height,
    unitM,
    home: [x(homeEastM), y(homeNorthM)],
    contours: lines,
    sea: lines[0]?.level === 0,
    at: (p) => [x(eastOf(lat, lon, p.lon)), y(northOf(lat, p.lat))],
    placeAt: (px, py) => ({
      lat: latitudeAt(lat, north - py * unitM),
      lon: longitudeAt(lat, lon, west + px * unitM),
    }),
  };
}

/** Steps between contour lines that people count in, m. */
const STEPS = [5, 10, 25, 50, 100, 200, 500] as const;

function contoursOf(site: Site, x: (eastM: number) => number, y: (northM: number) => number): Contour[] {
  const whole = site.terrain;
  const t = pooled(whole, Math.ceil(Math.sqrt((whole.columns * whole.rows) / MOST_CELLS)));
  let low = Number.POSITIVE_INFINITY;
  let top = Number.NEGATIVE_INFINITY;
  for (const h of t.heights) {
    if (h < low) low = h;
    if (h > top) top = h;
  }
  const from = Math.max(0, low);
  const step = STEPS.find((s) => (top - from) / s <= MOST_LINES) ?? 1000;
  const first = low <= 0 ? 0 : Math.floor(from / step) * step;
  const levels: number[] = [];
  for (let level = first; level < top; level += step) levels.push(level);
  const cell = t.cellM;
  const northM = t.southM + (t.rows - 1) * cell;
  return contours()
    .size([t.columns, t.rows])
    .thresholds(levels)(Array.from(t.heights))
    .map((c) => ({
      level: c.value,
      main: (c.value / step) % 4 === 0,
      // d3 puts a value at the middle of its cell, half a unit in.
      path: c.coordinates
        .map((poly) =>
          poly
            .map(
              (ring) =>
                `M${ring
                  .map(
                    ([a, b]) =>
                      `${x(t.westM + (a! - 0.5) * cell).toFixed(2)} ${y(northM - (b! - 0.5) * cell).toFixed(2)}`,
                  )
                  .join('L')}Z`,
            )
            .join(''),
        )
        .join(''),
    }));
}

/** Room round what is drawn, share; and no less than this is shown, m. */
const ROOM = 0.12;
const LEAST_M = 300;

/** The part of a map that shows all of some points. @param wide its width over its height */
export function fitted(points: readonly (readonly [number, number])[], unitM: number, wide: number) {
  let [west, east, top, low] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const [x, y] of points) {
    west = Math.min(west, x);
    east = Math.max(east, x);
    top = Math.min(top, y);
    low = Math.max(low, y);
  }
  const least = LEAST_M / unitM;
  let width = Math.max(least, east - west) * (1 + 2 * ROOM);
  let height = Math.max(least / wide, low - top) * (1 + 2 * ROOM);
  if (width / height > wide) height = width / wide;
  else width = height * wide;
  return { left: (west + east - width) / 2, top: (top + low - height) / 2, width, height };
}
