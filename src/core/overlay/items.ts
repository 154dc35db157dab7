/** What an overlay can tell, by the question that it answers. Names and questions only: what is drawn is `itemText.ts`. */

export const questions = {
  home: 'Where is home?',
  left: 'How much is left?',
  flying: 'How am I flying?',
  link: 'Is the link good?',
  now: 'What is going on?',
} as const;
export type Question = keyof typeof questions;

const table = {
  arrow: ['home', 'arrow'],
  distance: ['home', 'distance'],
  bearing: ['home', 'bearing'],
  latitude: ['home', 'latitude'],
  longitude: ['home', 'longitude'],
  travelled: ['home', 'way flown'],
  volts: ['left', 'volts'],
  cell: ['left', 'volts a cell'],
  current: ['left', 'current'],
  power: ['left', 'power'],
  used: ['left', 'used'],
  left: ['left', 'left'],
  need: ['left', 'needed to get home'],
  minutes: ['left', 'time left'],
  mode: ['flying', 'mode'],
  speed: ['flying', 'speed over ground'],
  airspeed: ['flying', 'airspeed'],
  height: ['flying', 'height over home'],
  ground: ['flying', 'height over ground'],
  climb: ['flying', 'climb'],
  heading: ['flying', 'heading'],
  bank: ['flying', 'bank'],
  nose: ['flying', 'nose'],
  throttle: ['flying', 'throttle'],
  wind: ['flying', 'wind'],
  horizon: ['flying', 'horizon'],
  aim: ['flying', 'mark of the nose'],
  quality: ['link', 'quality'],
  silent: ['link', 'lost for'],
  satellites: ['link', 'satellites'],
  accuracy: ['link', 'fix good to'],
  message: ['now', 'what the board says'],
  time: ['now', 'time in the air'],
  dial: ['now', 'what a dial gives'],
  words1: ['now', 'own words 1'],
  words2: ['now', 'own words 2'],
  words3: ['now', 'own words 3'],
} as const satisfies Record<string, readonly [Question, string]>;

export type ItemId = keyof typeof table;
export const itemIds = Object.keys(table) as readonly ItemId[];
export const itemName = (id: ItemId): string => table[id][1];
export const questionOf = (id: ItemId): Question => table[id][0];

/** Layouts that one switch chooses between. */
export const layoutIds = ['a', 'b', 'c'] as const;
export type LayoutId = (typeof layoutIds)[number];

/** A cell as one number, as settings keep it: hundreds of rows and the column, both from 0; below 0 nothing is drawn. */
export const NOT_SHOWN = -1;
export const cellAt = (row: number, column: number): number => 100 * row + column;
export const rowOf = (cell: number): number => Math.floor(cell / 100);
export const columnOf = (cell: number): number => cell % 100;
/** The last cell of the largest grid there is. */
export const LAST_CELL = cellAt(21, 59);

/** The setting that says where an item stands in a layout. */
export const placeKey = <L extends LayoutId, I extends ItemId>(layout: L, item: I) =>
  `overlay.${layout}.${item}` as const;

/** Figures that blink where they pass a mark, which side of it is the wrong one, and the item that blinks. */
export const alarms = {
  cell: { item: 'cell', also: 'volts', wrong: 'below' },
  left: { item: 'left', also: 'used', wrong: 'below' },
  height: { item: 'height', also: 'ground', wrong: 'above' },
  distance: { item: 'distance', also: 'arrow', wrong: 'above' },
  airspeed: { item: 'airspeed', also: 'speed', wrong: 'below' },
  satellites: { item: 'satellites', also: 'accuracy', wrong: 'below' },
  quality: { item: 'quality', also: 'silent', wrong: 'below' },
  current: { item: 'current', also: 'power', wrong: 'above' },
} as const satisfies Record<
  string,
  { readonly item: ItemId; readonly also: ItemId; readonly wrong: 'below' | 'above' }
>;
export type AlarmId = keyof typeof alarms;
export const alarmIds = Object.keys(alarms) as readonly AlarmId[];
