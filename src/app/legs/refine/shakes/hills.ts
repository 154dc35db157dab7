import { contours } from 'd3-contour';
import type { ThrottleSpectra } from '#core/analysis/throttleSpectra.ts';
import { lowPassOf, notchesIn, powerThrough } from '#core/answers/filterChoice.ts';
import type { FilterSet } from '#core/control/gyroFilter.ts';
import { DEG } from '#core/math/scalar.ts';

/** Frequencies that are drawn, Hz; the way to the right goes by their roots. */
const FROM_HZ = 6;
const TO_HZ = 500;
const COLUMNS = 150;
const ROWS_PER_BAND = 3;
/** Levels of the hills: decibels over one (degree per second) squared per Hz. */
const STEP_DB = 5;
const LOWEST_DB = -35;
/** Nothing was flown there. */
const EMPTY_DB = -300;

/** Where things stand on a map of shake, pixels. */
export interface ShakeFrame {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly floor: number;
}

const root = (hz: number) => Math.sqrt(Math.max(FROM_HZ, hz));

export const xOf = ({ left, right }: ShakeFrame, hz: number): number =>
  left + ((right - left) * (root(hz) - root(FROM_HZ))) / (root(TO_HZ) - root(FROM_HZ));

/** @param throttle 0 to 1 */
export const yOf = ({ top, floor }: ShakeFrame, throttle: number): number => floor - (floor - top) * throttle;

/** Density of each band in decibels, at each line. */
type Heights = readonly (Float64Array | null)[];

const decibels = (density: number): number => 10 * Math.log10(Math.max(1e-30, density / DEG ** 2));

/** As the gyro has it. */
export const rawHeights = ({ bands }: ThrottleSpectra): Heights =>
  bands.map((b) => b?.density.map(decibels) ?? null);

/** As the filters leave it. @param middle throttle at which a notch that follows is where it is set */
export function leftHeights(
  spectra: ThrottleSpectra,
  set: FilterSet,
  middle: number,
  shaft: (throttle: number) => number,
): Heights {
  const { bands, stepHz } = spectra;
  return bands.map((b, k) => {
    if (!b) return null;
    const lines = b.density.length;
    const notch = powerThrough(notchesIn(set, spectra, k, middle, shaft), stepHz, lines);
    const low = powerThrough(lowPassOf(set), stepHz, lines);
    return b.density.map((d, i) => decibels(d * notch[i]! * low[i]!));
  });
}

export interface Hill {
  readonly db: number;
  readonly path: string;
}

/** Hills as outlines, the lowest first. */
export function hillsOf(heights: Heights, stepHz: number, frame: ShakeFrame): readonly Hill[] {
  const rows = heights.length * ROWS_PER_BAND;
  const grid = new Array<number>(COLUMNS * rows);
  let top = LOWEST_DB;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < COLUMNS; column++) {
      const share = column / (COLUMNS - 1);
      const hz = (root(FROM_HZ) + share * (root(TO_HZ) - root(FROM_HZ))) ** 2;
      // The first row of the grid is full throttle.
      const at = (rows - 1 - row + 0.5) / ROWS_PER_BAND - 0.5;
      const db = between(heights, at, hz / stepHz);
      grid[row * COLUMNS + column] = db;
      top = Math.max(top, db);
    }
  const levels: number[] = [];
  for (let db = LOWEST_DB; db < top; db += STEP_DB) levels.push(db);
  const x = (a: number) => frame.left + ((frame.right - frame.left) * (a - 0.5)) / (COLUMNS - 1);
  const y = (b: number) => frame.top + ((frame.floor - frame.top) * b) / rows;
  return contours()
    .size([COLUMNS, rows])
    .thresholds(levels)(grid)
    .map((c) => ({
      db: c.value,
      path: c.coordinates
        .flatMap((area) =>
          area.map(
            (ring) => `M${ring.map(([a, b]) => `${x(a!).toFixed(1)} ${y(b!).toFixed(1)}`).join('L')}Z`,
          ),
        )
        .join(''),
    }));
}

/** Between bands and lines; a band that was not flown takes no part. */
function between(heights: Heights, band: number, line: number): number {
  const low = Math.min(heights.length - 1, Math.max(0, Math.floor(band)));
  const high = Math.min(heights.length - 1, low + 1);
  const at = (h: Float64Array) => {
    const k = Math.min(h.length - 2, Math.floor(line));
    return h[k]! + (line - k) * (h[k + 1]! - h[k]!);
  };
  const share = Math.min(1, Math.max(0, band - low));
  const [a, b] = [heights[low], heights[high]];
  if (a && b) return at(a) + share * (at(b) - at(a));
  if (a && share < 0.5) return at(a);
  if (b && share >= 0.5) return at(b);
  return EMPTY_DB;
}
