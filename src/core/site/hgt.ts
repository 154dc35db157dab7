import type { Terrain } from '../flight/terrain.ts';
import { latitudeAt, longitudeAt, type Place } from '../navigation/earth.ts';
import { gridAbout } from './gridAbout.ts';

const SIDES = [1201, 3601] as const;
const VOID = -32768;

/** A file of terrain with its name, which tells where it lies. */
export interface Tile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/**
 * Reads `.hgt` terrain tiles: squares of big-endian 16-bit metres, row 0 in the north, of 3 or 1 arc seconds, named by
 * their south-west corner (N61W013). The part about a place is put on a grid of square cells.
 * @param cellM side of the cells of the result, m. @param reachM half its width and height, m
 * @throws Error with what was expected
 */
export function parseHgt(tiles: readonly Tile[], about: Place, cellM = 60, reachM = 12_000): Terrain {
  const parts = tiles.map(tileOf);
  for (const [i, part] of parts.entries())
    if (!holdsSome(part, about, reachM))
      throw new Error(`${tiles[i]!.name} lies elsewhere: none of it is within ${reachM / 1000} km of home`);
  return gridAbout(
    about,
    (lat, lon) => {
      for (const part of parts) {
        const h = part(lat, lon);
        if (!Number.isNaN(h)) return h;
      }
      return Number.NaN;
    },
    cellM,
    reachM,
  );
}

/** Whether a tile has anything of the square about a place. */
function holdsSome(part: (lat: number, lon: number) => number, about: Place, reachM: number): boolean {
  const at = [-1, -0.5, 0, 0.5, 1];
  return at.some((n) =>
    at.some(
      (e) =>
        !Number.isNaN(part(latitudeAt(about.lat, n * reachM), longitudeAt(about.lat, about.lon, e * reachM))),
    ),
  );
}

function tileOf({ name, bytes }: Tile): (lat: number, lon: number) => number {
  const place = /([NS])(\d{2})([EW])(\d{3})/i.exec(name);
  if (!place) throw new Error(`the name ${name} does not tell a tile's corner, as N61W013.hgt does`);
  const south = Number(place[2]) * (/s/i.test(place[1]!) ? -1 : 1);
  const west = Number(place[4]) * (/w/i.test(place[3]!) ? -1 : 1);
  const side = SIDES.find((s) => s * s * 2 === bytes.length);
  if (!side) throw new Error(`a tile has 1201 or 3601 heights a side; this file has ${bytes.length} bytes`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const at = (row: number, column: number) => {
    const h = view.getInt16(2 * (row * side + column));
    return h === VOID ? Number.NaN : h;
  };
  return (lat, lon) => {
    const x = (lon - west) * (side - 1);
    const y = (south + 1 - lat) * (side - 1);
    if (!(x >= 0 && y >= 0 && x <= side - 1 && y <= side - 1)) return Number.NaN;
    const column = Math.min(side - 2, Math.floor(x));
    const row = Math.min(side - 2, Math.floor(y));
    const fx = x - column;
    const fy = y - row;
    const top = at(row, column) * (1 - fx) + at(row, column + 1) * fx;
    const low = at(row + 1, column) * (1 - fx) + at(row + 1, column + 1) * fx;
    return top * (1 - fy) + low * fy;
  };
}
