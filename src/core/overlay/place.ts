import type { OverlayConfig } from './config.ts';
import { cellAt, columnOf, type ItemId, itemIds, rowOf } from './items.ts';
import { itemSize } from './itemText.ts';
import type { VideoSystem } from './videoSystems.ts';

/** Cells that something takes, from its first one. */
export interface Box {
  readonly row: number;
  readonly column: number;
  readonly rows: number;
  readonly columns: number;
}

/** Where items of a layout stand; those below 0 do not. */
export type Placing = Readonly<Record<ItemId, number>>;

export const nowhere = (): Record<ItemId, number> =>
  Object.fromEntries(itemIds.map((id) => [id, -1])) as Record<ItemId, number>;

/** The most that an item takes from a cell on. */
export function boxOf(item: ItemId, cell: number, c: OverlayConfig): Box {
  return { row: rowOf(cell), column: columnOf(cell), ...itemSize(item, c) };
}

export const overlaps = (a: Box, b: Box): boolean =>
  a.row < b.row + b.rows &&
  b.row < a.row + a.rows &&
  a.column < b.column + b.columns &&
  b.column < a.column + a.columns;

export const inFrame = (b: Box, s: VideoSystem): boolean =>
  b.row + b.rows <= s.rows && b.column + b.columns <= s.columns;

/** Within what screens and goggles do not cut off. */
export const inSight = (b: Box, s: VideoSystem): boolean =>
  b.row >= s.edge.rows &&
  b.column >= s.edge.columns &&
  b.row + b.rows <= s.rows - s.edge.rows &&
  b.column + b.columns <= s.columns - s.edge.columns;

/** Boxes of all items that a layout shows and the system draws, but one. */
function boxesBut(but: ItemId | null, placing: Placing, c: OverlayConfig, s: VideoSystem): Box[] {
  return itemIds.flatMap((id) =>
    id !== but && placing[id] >= 0 && s.draws(id) === true ? [boxOf(id, placing[id], c)] : [],
  );
}

/** A row is about half as wide again as a column: nearness on the screen, not in numbers. */
const ROW_COST = 1.5;

/**
 * The free cell nearest to a wanted one at which an item touches no other and is seen whole, with a column left between
 * neighbours where there is room for that; null where there is none.
 * @param wanted may lie outside
 */
export function freeCell(
  item: ItemId,
  wanted: { readonly row: number; readonly column: number },
  placing: Placing,
  c: OverlayConfig,
  s: VideoSystem,
): number | null {
  const others = boxesBut(item, placing, c, s);
  const apart = others.map((o) => ({ ...o, column: o.column - 1, columns: o.columns + 2 }));
  const size = itemSize(item, c);
  return nearestFree(size, wanted, apart, s) ?? nearestFree(size, wanted, others, s);
}

function nearestFree(
  size: { readonly rows: number; readonly columns: number },
  wanted: { readonly row: number; readonly column: number },
  others: readonly Box[],
  s: VideoSystem,
): number | null {
  let best: number | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (let row = s.edge.rows; row + size.rows <= s.rows - s.edge.rows; row++)
    for (let column = s.edge.columns; column + size.columns <= s.columns - s.edge.columns; column++) {
      const far = Math.hypot(ROW_COST * (row - wanted.row), column - wanted.column);
      if (far >= least) continue;
      const box = { row, column, ...size };
      if (others.some((o) => overlaps(box, o))) continue;
      least = far;
      best = cellAt(row, column);
    }
  return best;
}

/** What remains of a layout on another grid. */
export interface Carried {
  readonly placing: Record<ItemId, number>;
  /** Items that have no place there, and why. */
  readonly left: readonly { readonly item: ItemId; readonly why: string }[];
  /** Items that stand in for others. */
  readonly instead: readonly { readonly item: ItemId; readonly by: ItemId }[];
}

/** What is looked at most keeps its place before the others (HANDBOOK.md, What the pilot sees). */
const inOrder: readonly ItemId[] = [
  ...(['horizon', 'arrow', 'distance', 'mode', 'height', 'speed', 'cell', 'volts', 'used'] as const),
  ...(['satellites', 'quality', 'message', 'airspeed', 'left', 'climb'] as const),
];
const byWeight = [...inOrder, ...itemIds.filter((id) => !inOrder.includes(id))];

/** Of a stretch, where something stood: at its beginning, in its middle, at its end; and how far from there. */
function anchored(at: number, size: number, of: number, to: number): number {
  const middle = (at + size / 2) / of;
  if (middle < 0.36) return at;
  if (middle > 0.64) return to - (of - at);
  return Math.trunc((to - of) / 2) + at;
}

/**
 * A layout on another grid by what it means: what stood in a corner stands in that corner, what stood in the middle
 * stands there; what the other system does not draw is replaced by what tells much the same.
 */
export function carried(
  placing: Placing,
  from: Pick<VideoSystem, 'columns' | 'rows'>,
  to: VideoSystem,
  c: OverlayConfig,
): Carried {
  const next = nowhere();
  const left: { item: ItemId; why: string }[] = [];
  const instead: { item: ItemId; by: ItemId }[] = [];
  for (const item of byWeight) {
    const cell = placing[item];
    if (cell < 0) continue;
    const draws = to.draws(item);
    const as = draws === true ? item : draws.instead;
    if (as === null) {
      left.push({ item, why: `${to.name} does not draw it, and nothing like it.` });
      continue;
    }
    if (as !== item) {
      if (placing[as] >= 0 || next[as] >= 0) {
        left.push({ item, why: `${to.name} does not draw it; what tells much the same is there already.` });
        continue;
      }
      instead.push({ item, by: as });
    }
    const size = itemSize(as, c);
    const row = anchored(rowOf(cell), size.rows, from.rows, to.rows);
    const column = anchored(columnOf(cell), size.columns, from.columns, to.columns);
    const free = freeCell(as, { row, column }, next, c, to);
    if (free === null) left.push({ item, why: 'there is no room left for it.' });
    else next[as] = free;
  }
  return { placing: next, left, instead };
}

/** Where eyes look for an item; null for those that may stand anywhere. */
export function wishedAt(
  item: ItemId,
  c: OverlayConfig,
  s: VideoSystem,
): { readonly row: number; readonly column: number } | null {
  const right = s.columns - 1;
  const bottom = s.rows - 1;
  const middle = Math.floor(s.columns / 2);
  const half = Math.floor(s.rows / 2);
  const at = (row: number, column: number) => ({ row, column });
  switch (item) {
    case 'horizon':
    case 'aim':
      return middleFor(item, c, s);
    case 'arrow':
      return at(1, middle);
    case 'distance':
      return at(1, middle + 2);
    case 'mode':
      return at(1, middle - 14);
    case 'quality':
      return at(1, right - 6);
    case 'satellites':
      return at(2, right - 4);
    case 'speed':
      return at(half, 1);
    case 'height':
      return at(half, right - 7);
    case 'climb':
      return at(half + 1, right - 9);
    case 'cell':
      return at(bottom - 3, 1);
    case 'used':
      return at(bottom - 2, 1);
    case 'current':
      return at(bottom - 1, 1);
    case 'time':
      return at(bottom - 1, right - 7);
    case 'message':
      return at(bottom - 3, middle - 12);
    default:
      return null;
  }
}

/** The cell from which an item stands in the middle of the picture. */
export function middleFor(item: ItemId, c: OverlayConfig, s: VideoSystem) {
  const size = itemSize(item, c);
  return { row: Math.round((s.rows - size.rows) / 2), column: Math.round((s.columns - size.columns) / 2) };
}

const usual: readonly ItemId[] = [
  ...(['arrow', 'distance', 'mode', 'quality', 'satellites', 'speed', 'height', 'climb'] as const),
  ...(['cell', 'used', 'current', 'time', 'message'] as const),
];

/** A beginning for a craft: what is looked at most, in the places where eyes find it. */
export function usualPlacing(c: OverlayConfig, s: VideoSystem, rotors: boolean): Record<ItemId, number> {
  const placing = nowhere();
  for (const item of rotors ? [...usual, 'aim' as const] : usual) {
    const wish = wishedAt(item, c, s);
    if (wish && s.draws(item) === true) placing[item] = freeCell(item, wish, placing, c, s) ?? -1;
  }
  return placing;
}
