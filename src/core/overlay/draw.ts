import type { OverlayConfig } from './config.ts';
import { BLANK, BLINKS, symbolOf, symbols } from './glyphs.ts';
import { alarmIds, alarms, columnOf, type ItemId, itemIds, type LayoutId, rowOf } from './items.ts';
import { itemText } from './itemText.ts';
import type { VideoSystem } from './videoSystems.ts';
import type { OverlayView } from './view.ts';

/** Which alarms are on, by `alarmIds`; kept from one picture to the next, since they end later than they begin. */
export type AlarmStates = boolean[];
export const newAlarms = (): AlarmStates => alarmIds.map(() => false);

/** What alarms look at, by `alarmIds`; NaN where it is not known. */
function watched(v: OverlayView): readonly number[] {
  const of: Record<(typeof alarmIds)[number], number> = {
    cell: v.supplyV / v.cells,
    left: v.leftMah,
    height: v.height,
    distance: v.homeSet ? v.homeDistance : Number.NaN,
    airspeed: v.airspeed,
    satellites: v.satellites,
    quality: v.quality,
    current: v.currentA,
  };
  return alarmIds.map((id) => of[id]);
}

/** Alarms that begin at their mark and end `back` beyond it; none on the ground, where all of them would be on. */
export function stepAlarms(states: AlarmStates, v: OverlayView, c: OverlayConfig): void {
  const values = watched(v);
  alarmIds.forEach((id, i) => {
    const { at, back } = c.alarms[id];
    const value = values[i]!;
    if (at === 0 || !v.armed || Number.isNaN(value)) {
      states[i] = false;
      return;
    }
    const over = alarms[id].wrong === 'below' ? at - value : value - at;
    states[i] = states[i] ? over > -back : over > 0;
  });
}

/** Items that blink now. */
export const blinking = (states: AlarmStates): ReadonlySet<ItemId> =>
  new Set(alarmIds.flatMap((id, i) => (states[i] ? [alarms[id].item, alarms[id].also] : [])));

/** An item that is drawn, its cells row by row from its own corner; `BLANK` lets the picture through. */
interface DrawnItem {
  readonly id: ItemId;
  readonly row: number;
  readonly column: number;
  readonly lines: readonly string[];
}

/** The items of a layout that a system draws, with what they say now, in the order in which a board writes them. */
function drawnItems(
  layout: LayoutId,
  v: OverlayView,
  c: OverlayConfig,
  system: VideoSystem,
): readonly DrawnItem[] {
  return itemIds.flatMap((id) => {
    const cell = c.layouts[layout][id];
    if (cell < 0 || system.draws(id) !== true) return [];
    return [{ id, row: rowOf(cell), column: columnOf(cell), lines: itemText(id, v, c) }];
  });
}

/** The code that a system shows for a character: a letter where it lacks the symbol. */
function codeOn(system: VideoSystem, character: string): number {
  const code = character.charCodeAt(0);
  const symbol = symbolOf(code);
  if (symbol && system.lacks.includes(symbol)) return symbols[symbol].instead.charCodeAt(0);
  return symbol || (code >= BLANK && code < 0x7f) ? code : '?'.charCodeAt(0);
}

/**
 * Fills the cells of a whole picture, row by row. What lies beyond the grid is not drawn; of two items on one cell the
 * later one stands there, as on the chip.
 * @param cells as many as the system's grid has
 * @param states alarms as they stand
 */
export function drawOverlay(
  layout: LayoutId,
  v: OverlayView,
  c: OverlayConfig,
  system: VideoSystem,
  states: AlarmStates,
  cells: Uint16Array,
): void {
  cells.fill(BLANK);
  const blinks = blinking(states);
  for (const item of drawnItems(layout, v, c, system)) {
    const mark = blinks.has(item.id) ? BLINKS : 0;
    item.lines.forEach((line, j) => {
      const row = item.row + j;
      if (row >= system.rows) return;
      for (let i = 0; i < line.length; i++) {
        const column = item.column + i;
        if (column >= system.columns) break;
        const code = codeOn(system, line[i]!);
        if (code !== BLANK) cells[row * system.columns + column] = code | mark;
      }
    });
  }
}

/** A picture as rows of letters that any page or terminal has. */
export function picturedInText(
  layout: LayoutId,
  v: OverlayView,
  c: OverlayConfig,
  system: VideoSystem,
): readonly string[] {
  const cells = new Uint16Array(system.columns * system.rows);
  drawOverlay(layout, v, c, system, newAlarms(), cells);
  return Array.from({ length: system.rows }, (_, row) =>
    Array.from(cells.subarray(row * system.columns, (row + 1) * system.columns), (cell) => {
      const symbol = symbolOf(cell & 0xff);
      return symbol ? symbols[symbol].instead : String.fromCharCode(cell & 0xff);
    }).join(''),
  );
}
