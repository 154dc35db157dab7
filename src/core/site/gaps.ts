/** Share of cells without a height. */
export const gapShare = (heights: Float32Array): number =>
  heights.reduce((sum, h) => sum + (Number.isNaN(h) ? 1 : 0), 0) / heights.length;

/**
 * Gives cells without a height that of the nearest with one, counted in cells; of two as near the higher. In place.
 * @throws Error where no cell has a height
 */
export function fillGaps(heights: Float32Array, columns: number, rows: number): Float32Array {
  let edge: number[] = [];
  let gaps = 0;
  for (let at = 0; at < heights.length; at++) {
    if (Number.isNaN(heights[at]!)) gaps++;
    else edge.push(at);
  }
  if (edge.length === 0) throw new Error('no cell of it has a height');
  while (gaps > 0) {
    const found = new Map<number, number>();
    for (const at of edge) {
      const column = at % columns;
      const row = (at - column) / columns;
      const h = heights[at]!;
      const give = (to: number) => {
        if (Number.isNaN(heights[to]!) && !(found.get(to)! >= h)) found.set(to, h);
      };
      if (column > 0) give(at - 1);
      if (column < columns - 1) give(at + 1);
      if (row > 0) give(at - columns);
      if (row < rows - 1) give(at + columns);
    }
    for (const [at, h] of found) heights[at] = h;
    gaps -= found.size;
    edge = [...found.keys()];
  }
  return heights;
}
