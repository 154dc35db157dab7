import {
  type AlarmId,
  alarms,
  itemIds,
  itemName,
  LAST_CELL,
  layoutIds,
  NOT_SHOWN,
  placeKey,
} from '#core/overlay/items.ts';
import type { EntryBook } from './entryBook.ts';

/** Mark, how far over it an alarm ends: label, unit, greatest mark, step. */
const alarmShapes: Readonly<
  Record<AlarmId, readonly [string, 'v' | 'mah' | 'm' | 'm/s' | 'count' | 'share' | 'a', number, number]>
> = {
  cell: ['Volts a cell', 'v', 5, 0.05],
  left: ['Charge left', 'mah', 50_000, 50],
  height: ['Height over home', 'm', 5000, 10],
  distance: ['Distance', 'm', 100_000, 100],
  airspeed: ['Airspeed', 'm/s', 60, 0.5],
  satellites: ['Satellites', 'count', 40, 1],
  quality: ['Link quality', 'share', 1, 0.05],
  current: ['Current', 'a', 300, 1],
};

/** What stands over the pilot's picture. */
export function addOverlaySettings(book: EntryBook): void {
  book.group = 'Over the picture';
  book.choice(
    'overlay.system',
    'Video system',
    [
      ['none', 'no picture'],
      ['analogue-625', 'analogue, 625 lines'],
      ['analogue-525', 'analogue, 525 lines'],
      ['ouzel', 'Ouzel, digital'],
      ['dipper', 'Dipper, digital'],
    ],
    'none',
    'What brings the picture down; its grid of cells is the overlay’s.',
  );
  book.channel('overlay.channel', 'Layout channel', 0, 'Switch between layouts A, B and C. 0 for A only.');
  book.choice(
    'overlay.units',
    'Units over the picture',
    [
      ['metric', 'm and m/s'],
      ['imperial', 'ft and mph'],
      ['aviation', 'ft and kt'],
    ],
    'metric',
    'What figures over the picture are told in.',
  );
  book.choice(
    'overlay.outgrown',
    'A figure too long',
    [
      ['coarser', 'is told coarser'],
      ['most', 'stays at the most that fits'],
      ['dashes', 'turns to dashes'],
    ],
    'coarser',
    'What becomes of a figure that outgrows its cells.',
  );
  const decimals = (key: 'volts' | 'current' | 'speed' | 'climb', label: string, usual: number) =>
    book.number(
      `overlay.decimals.${key}`,
      `Decimals of ${label}`,
      'count',
      [0, 2, usual, 1],
      'Digits behind the point, where they fit.',
      'now',
      'integer',
    );
  decimals('volts', 'volts', 1);
  decimals('current', 'amperes', 1);
  decimals('speed', 'speeds', 0);
  decimals('climb', 'climb', 1);
  for (const [id, [name, unit, most, step]] of Object.entries(alarmShapes)) {
    const { wrong } = alarms[id as AlarmId];
    book.number(
      `overlay.alarm.${id}.at`,
      `${name} blinks at`,
      unit,
      [0, most, 0, step],
      `Blinks ${wrong} this. 0 for never.`,
    );
    book.number(
      `overlay.alarm.${id}.back`,
      `${name} blinks until`,
      unit,
      [0, most / 4, step, step],
      'So far on the right side of the mark it stops.',
    );
  }
  for (let n = 1; n <= 3; n++)
    book.text(`overlay.words.${n}`, `Own words ${n}`, 20, '', 'Stands over the picture as it is typed.');
  for (const layout of layoutIds)
    for (const item of itemIds)
      book.number(
        placeKey(layout, item),
        `${layout.toUpperCase()}: ${itemName(item)}`,
        'cell',
        [NOT_SHOWN, LAST_CELL, NOT_SHOWN, 1],
        'Its first cell: hundreds of rows and the column, from 0; -1 for not shown.',
        'now',
        'integer',
      );
}
