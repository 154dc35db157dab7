import type { Terrain } from '../flight/terrain.ts';

const MAX_CELLS = 4_000_000;

/**
 * Reads an ESRI ASCII grid with square cells in metres. Cells without data count as sea.
 * @throws Error with the line and what was expected there
 */
export function parseAsciiGrid(text: string): Terrain {
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
  const cellM = need('cellsize');
  if (!(columns >= 2 && rows >= 2 && columns * rows <= MAX_CELLS && cellM > 0))
    throw new Error('the grid has no usable size');
  const none = head.nodata_value ?? -9999;
  const westM = head.xllcenter ?? need('xllcorner') + cellM / 2;
  const southM = head.yllcenter ?? need('yllcorner') + cellM / 2;
  const heights = new Float32Array(columns * rows);
  for (let j = 0; j < rows; j++) {
    const cells = (lines[at + j] ?? '').trim().split(/\s+/);
    if (cells.length !== columns)
      throw new Error(`line ${at + j + 1}: expected ${columns} heights, found ${cells.length}`);
    for (let i = 0; i < columns; i++) {
      const h = Number(cells[i]);
      if (!Number.isFinite(h)) throw new Error(`line ${at + j + 1}: "${cells[i]}" is not a height`);
      heights[j * columns + i] = h === none ? 0 : h;
    }
  }
  return { columns, rows, cellM, westM, southM, heights };
}
