import type { Terrain } from '../flight/terrain.ts';
import { eastOf, northOf } from '../navigation/earth.ts';

const SIDES = [1201, 3601] as const;
const VOID = -32768;

/**
 * Reads an `.hgt` terrain tile: a square of big-endian 16-bit metres, row 0 in the north, of 3 or 1 arc seconds,
 * named by its south-west corner (N61W013). The part about a place is put on a grid of square cells.
 * @param name file name, which tells where the tile lies
 * @param cellM side of the cells of the result, m. @param reachM half its width and height, m
 * @throws Error with what was expected
 */
export function parseHgt(
  name: string,
  bytes: Uint8Array,
  centre: { readonly lat: number; readonly lon: number },
  cellM: number,
  reachM: number,
): Terrain {
  const place = /([NS])(\d{2})([EW])(\d{3})/i.exec(name);
  if (!place) throw new Error(`the name ${name} does not tell a tile's corner, as N61W013.hgt does`);
  const south = Number(place[2]) * (/s/i.test(place[1]!) ? -1 : 1);
  const west = Number(place[4]) * (/w/i.test(place[3]!) ? -1 : 1);
  const side = SIDES.find((s) => s * s * 2 === bytes.length);
  if (!side) throw new Error(`a tile has 1201 or 3601 heights a side; this file has ${bytes.length} bytes`);
  const inside =
    centre.lat >= south && centre.lat <= south + 1 && centre.lon >= west && centre.lon <= west + 1;
  if (!inside) throw new Error(`the tile ${name} does not hold ${centre.lat}, ${centre.lon}`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const at = (row: number, col: number) => {
    const r = Math.min(side - 1, Math.max(0, row));
    const c = Math.min(side - 1, Math.max(0, col));
    const h = view.getInt16(2 * (r * side + c));
    return h === VOID ? 0 : h;
  };
  const columns = Math.floor((2 * reachM) / cellM) + 1;
  const metresPerDegNorth = northOf(0, 1);
  const metresPerDegEast = eastOf(centre.lat, 0, 1);
  const heights = new Float32Array(columns * columns);
  for (let j = 0; j < columns; j++) {
    const lat = centre.lat + (reachM - j * cellM) / metresPerDegNorth;
    const y = (south + 1 - lat) * (side - 1);
    const row = Math.floor(y);
    for (let i = 0; i < columns; i++) {
      const lon = centre.lon + (i * cellM - reachM) / metresPerDegEast;
      const x = (lon - west) * (side - 1);
      const col = Math.floor(x);
      const fx = x - col;
      const fy = y - row;
      const top = at(row, col) * (1 - fx) + at(row, col + 1) * fx;
      const low = at(row + 1, col) * (1 - fx) + at(row + 1, col + 1) * fx;
      heights[j * columns + i] = top * (1 - fy) + low * fy;
    }
  }
  return { columns, rows: columns, cellM, westM: -reachM, southM: -reachM, heights };
}
