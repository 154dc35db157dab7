import type { Terrain } from '../flight/terrain.ts';
import type { Place } from '../navigation/earth.ts';
import { fillGaps, gapShare } from './gaps.ts';
import { gridAbout, type HeightAt } from './gridAbout.ts';
import { MAX_CELLS } from './siteFile.ts';

/** Beyond this a corner is counted from some map's own origin, m. */
const NEAR_M = 100_000;

/** Beyond these there is no ground, m. */
const LOWEST_M = -12_000;
const HIGHEST_M = 9000;

/**
 * Reads an ESRI ASCII grid with square cells: in metres from a place, or in degrees, of which the part about the place
 * is put on a grid of metres. Cells without data are as high as the nearest with.
 * @param about what metres are counted from. @param cellM @param reachM of the grid made from degrees
 * @throws Error with the line and what was expected there
 */
export function parseAsciiGrid(text: string, about: Place, cellM = 60, reachM = 12_000): Terrain {
  const lines = text.split(/\r?\n/);
  const head: Record<string, number> = {};
  let at = 0;
  while (at < lines.length && /^\s*[a-z]/i.test(lines[at]!)) {
    const [name = '', value = ''] = lines[at]!.trim().split(/\s+/);
    const number = Number(value);
    if (!Number.isFinite(number)) throw new Error(`line ${at + 1}: expected a number after ${name}`);
    head[name.toLowerCase()] = number;
    at++;
  }
  const need = (name: string) => {
    const v = head[name];
    if (v === undefined) throw new Error(`the grid's head has no ${name}`);
    return v;
  };
  const columns = need('ncols');
  const rows = need('nrows');
  const cell = need('cellsize');
  if (!(columns >= 2 && rows >= 2 && columns * rows <= MAX_CELLS && cell > 0))
    throw new Error('the grid has no usable size');
  const none = head.nodata_value ?? -9999;
  const west = head.xllcenter ?? need('xllcorner') + cell / 2;
  const south = head.yllcenter ?? need('yllcorner') + cell / 2;
  const heights = new Float32Array(columns * rows);
  for (let j = 0; j < rows; j++) {
    const cells = (lines[at + j] ?? '').trim().split(/\s+/);
    if (cells.length !== columns)
      throw new Error(`line ${at + j + 1}: expected ${columns} heights, found ${cells.length}`);
    for (let i = 0; i < columns; i++) {
      const h = Number(cells[i]);
      if (!Number.isFinite(h)) throw new Error(`line ${at + j + 1}: "${cells[i]}" is not a height`);
      if (h !== none && (h < LOWEST_M || h > HIGHEST_M))
        throw new Error(`line ${at + j + 1}: a height of ${cells[i]} m is none on earth`);
      heights[j * columns + i] = h === none ? Number.NaN : h;
    }
  }
  const degrees = cell < 0.5 && Math.abs(west) <= 180 && Math.abs(south) <= 90;
  if (!degrees) {
    if (Math.abs(west) > NEAR_M || Math.abs(south) > NEAR_M)
      throw new Error(
        'the grid counts metres from the origin of some map, which does not tell where it lies; give one in degrees, or in metres from home',
      );
    const origin = { lat: about.lat, lon: about.lon };
    const terrain = { origin, known: true, columns, rows, cellM: cell, westM: west, southM: south };
    const guessedShare = gapShare(heights);
    const guessed = guessedShare > 0 ? { guessedShare } : {};
    return { ...terrain, ...guessed, heights: fillGaps(heights, columns, rows) };
  }
  const heightAt: HeightAt = (lat, lon) => {
    const x = (lon - west) / cell;
    const y = rows - 1 - (lat - south) / cell;
    if (!(x >= 0 && y >= 0 && x <= columns - 1 && y <= rows - 1)) return Number.NaN;
    const i = Math.min(columns - 2, Math.floor(x));
    const j = Math.min(rows - 2, Math.floor(y));
    const fx = x - i;
    const fy = y - j;
    const k = j * columns + i;
    const top = heights[k]! * (1 - fx) + heights[k + 1]! * fx;
    const low = heights[k + columns]! * (1 - fx) + heights[k + columns + 1]! * fx;
    return top * (1 - fy) + low * fy;
  };
  return gridAbout(about, heightAt, cellM, reachM);
}
