import { formatBearing, formatClock } from '../units/units.ts';
import type { OverlayConfig } from './config.ts';
import { type FigureShape, figure, figureColumns, LARGER_LENGTHS } from './figure.ts';
import { AERIAL, AIM, arrowTo, BATTERY, barAt, DEGREE, HOUSE, SATELLITE } from './glyphs.ts';
import type { ItemId } from './items.ts';
import { type VideoSystem, videoSystems } from './videoSystems.ts';
import type { OverlayView } from './view.ts';

/** Cells of the horizon: its middle is where the nose points. */
export const HORIZON = { columns: 11, rows: 7 } as const;
/** The angle that the camera sees from top to bottom, deg. A usual one; ours. */
export const CAMERA_SEES_DEG = 65;
const MESSAGE_COLUMNS = 24;

interface Item {
  /** The most cells that it takes. */
  readonly size: (c: OverlayConfig) => { readonly columns: number; readonly rows: number };
  /** Its rows, each of at most as many characters; blanks let the picture through. */
  readonly text: (v: OverlayView, c: OverlayConfig) => readonly string[];
}

const width = (columns: number, rows = 1) => ({ columns, rows });

/** A figure, with a symbol before it. */
function number(
  shape: (c: OverlayConfig) => FigureShape,
  value: (v: OverlayView) => number,
  before = '',
): Item {
  return {
    size: (c) => width(before.length + figureColumns(shape(c), c.units)),
    text: (v, c) => [before + figure(value(v), shape(c), c.units, c.outgrown)],
  };
}

const length = (whole: number): FigureShape => ({ unit: 'm', whole, decimals: 0, larger: LARGER_LENGTHS });
const charge: FigureShape = { unit: 'mah', whole: 5, decimals: 0 };
const degrees = (value: (v: OverlayView) => number): Item => ({
  size: () => width(4),
  text: (v) => {
    const rad = value(v);
    return [`${Number.isFinite(rad) ? formatBearing(rad).slice(0, 3) : '---'}${DEGREE}`];
  },
});
const signed = (before: string, value: (v: OverlayView) => number): Item => ({
  size: () => width(before.length + 4),
  text: (v, c) => [
    before +
      figure(
        (value(v) * 180) / Math.PI,
        { unit: 'deg', letters: DEGREE, whole: 3, decimals: 0 },
        c.units,
        c.outgrown,
      ),
  ],
});
/** Degrees of a place with five decimals, a metre. */
const place = (letters: readonly [string, string], value: (v: OverlayView) => number): Item => ({
  size: () => width(10),
  text: (v) => {
    const at = value(v);
    return [
      Math.abs(at) <= 180
        ? `${letters[at < 0 ? 1 : 0]}${Math.abs(at).toFixed(5).padStart(9)}`
        : `${letters[0]}${'-'.repeat(9)}`,
    ];
  },
});
const ownWords = (i: 0 | 1 | 2): Item => ({
  size: (c) => width(Math.max(1, c.words[i].length)),
  text: (_, c) => [c.words[i]],
});
const towards = (v: OverlayView, bearing: number) =>
  Number.isFinite(bearing) && Number.isFinite(v.heading) ? arrowTo(bearing - v.heading) : '-';

const table: Readonly<Record<ItemId, Item>> = {
  arrow: { size: () => width(1), text: (v) => [v.homeSet ? towards(v, v.homeBearing) : '-'] },
  distance: number(
    () => length(4),
    (v) => (v.homeSet ? v.homeDistance : Number.NaN),
    HOUSE,
  ),
  bearing: degrees((v) => (v.homeSet ? v.homeBearing : Number.NaN)),
  latitude: place(['N', 'S'], (v) => v.latitude),
  longitude: place(['E', 'W'], (v) => v.longitude),
  travelled: number(
    () => length(5),
    (v) => v.travelled,
  ),
  volts: number(
    (c) => ({ unit: 'v', whole: 2, decimals: c.decimals.volts }),
    (v) => v.supplyV,
    BATTERY,
  ),
  cell: number(
    (c) => ({ unit: 'v', whole: 1, decimals: c.decimals.volts }),
    (v) => v.supplyV / v.cells,
  ),
  current: number(
    (c) => ({ unit: 'a', whole: 3, decimals: c.decimals.current }),
    (v) => v.currentA,
  ),
  power: number(
    () => ({ unit: 'none', letters: 'W', whole: 4, decimals: 0 }),
    (v) => v.currentA * v.supplyV,
  ),
  used: number(
    () => charge,
    (v) => v.usedMah,
  ),
  left: number(
    () => charge,
    (v) => v.leftMah,
  ),
  need: number(
    () => charge,
    (v) => v.needMah,
    HOUSE,
  ),
  minutes: number(
    () => ({ unit: 'none', letters: 'min', whole: 3, decimals: 0 }),
    (v) => v.leftS / 60,
  ),
  mode: {
    size: (c) => width(Math.max(...c.modes.map((m) => m.length))),
    text: (v) => [v.mode],
  },
  speed: number(
    (c) => ({ unit: 'm/s', whole: 3, decimals: c.decimals.speed }),
    (v) => v.speed,
  ),
  airspeed: number(
    (c) => ({ unit: 'm/s', whole: 3, decimals: c.decimals.speed }),
    (v) => v.airspeed,
    'a',
  ),
  height: number(
    () => length(5),
    (v) => v.height,
  ),
  ground: number(
    () => length(4),
    (v) => v.aboveGround,
    '_',
  ),
  climb: number(
    (c) => ({ unit: 'm/s', whole: 3, decimals: c.decimals.climb }),
    (v) => v.climb,
  ),
  heading: degrees((v) => v.heading),
  bank: signed('R', (v) => v.roll),
  nose: signed('P', (v) => v.pitch),
  throttle: number(
    () => ({ unit: 'percent', whole: 3, decimals: 0 }),
    (v) => 100 * v.throttle,
  ),
  wind: {
    size: (c) => width(1 + figureColumns({ unit: 'm/s', whole: 2, decimals: 0 }, c.units)),
    // The arrow points where it blows to, as it pushes the craft.
    text: (v, c) => [
      towards(v, v.windFrom + Math.PI) +
        figure(v.windSpeed, { unit: 'm/s', whole: 2, decimals: 0 }, c.units, c.outgrown),
    ],
  },
  horizon: { size: () => HORIZON, text: (v, c) => horizon(v, c.system ?? videoSystems['analogue-625']) },
  aim: { size: () => width(3), text: () => [`${AIM} ${AIM}`] },
  quality: number(
    () => ({ unit: 'percent', whole: 3, decimals: 0 }),
    (v) => 100 * v.quality,
    AERIAL,
  ),
  silent: number(
    () => ({ unit: 's', whole: 3, decimals: 1 }),
    (v) => v.silentS,
  ),
  satellites: number(
    () => ({ unit: 'count', whole: 2, decimals: 0 }),
    (v) => v.satellites,
    SATELLITE,
  ),
  accuracy: number(
    () => ({ unit: 'm', whole: 2, decimals: 1 }),
    (v) => v.accuracy,
  ),
  message: {
    size: () => width(MESSAGE_COLUMNS),
    text: (v) => [v.message.slice(0, MESSAGE_COLUMNS)],
  },
  time: { size: () => width(6), text: (v) => [formatClock(Math.min(v.flownS, 59_999)).padStart(6)] },
  dial: { size: () => width(5), text: (v) => [`x${v.dial.toFixed(2)}`.slice(0, 5)] },
  words1: ownWords(0),
  words2: ownWords(1),
  words3: ownWords(2),
};

/** The horizon of a camera that looks where the nose points: a bar in each column, the nose's own mark in the middle. */
function horizon(v: OverlayView, system: VideoSystem): string[] {
  const { columns, rows } = HORIZON;
  const cells = Array.from({ length: rows }, () => new Array<string>(columns).fill(' '));
  const middle = (columns - 1) / 2;
  const slope = Math.tan(Math.max(-1.45, Math.min(1.45, v.roll)));
  // Of a cell: its height as the camera sees it, and its width over its height.
  const rowTan = (2 * Math.tan((CAMERA_SEES_DEG * Math.PI) / 360)) / system.rows;
  const cellAspect = (system.aspect * system.rows) / system.columns;
  const nose = Math.tan(Math.max(-1.2, Math.min(1.2, v.pitch)));
  for (let i = 0; i < columns; i++) {
    // Rows above the middle one: with the nose up the horizon lies below it, with the right wing down it rises to the right.
    const up = -nose / rowTan / Math.max(0.1, Math.cos(v.roll)) + (i - middle) * cellAspect * slope;
    const from = rows / 2 + up;
    const row = Math.floor(from);
    if (row >= 0 && row < rows) cells[rows - 1 - row]![i] = barAt(from - row);
  }
  cells[(rows - 1) / 2]![middle] = AIM;
  return cells.map((row) => row.join(''));
}

/** The most cells that an item takes as it is set. */
export const itemSize = (id: ItemId, c: OverlayConfig) => table[id].size(c);
/** An item's rows now. */
export const itemText = (id: ItemId, v: OverlayView, c: OverlayConfig): readonly string[] =>
  table[id].text(v, c);
