import { MIX_ROWS, rowSources, sourceWords } from '#core/mixer/freeRows.ts';
import { CHANNEL_COUNT, OUTPUT_COUNT } from './counts.ts';
import type { EntryBook } from './entryBook.ts';

/** Rows of a mix of one's own. */
export function addMixRows(book: EntryBook): void {
  book.group = 'Mix rows';
  for (let n = 1; n <= MIX_ROWS; n++) {
    const key = (what: string) => `mix.row.${n}.${what}`;
    const whole = (
      what: string,
      label: string,
      range: readonly [number, number, number, number],
      meaning: string,
    ) =>
      book.number(
        key(what),
        `Mix row ${n}, ${label}`,
        what === 'to' || what === 'channel' ? 'count' : 'us',
        range,
        meaning,
        'now',
        'integer',
      );
    whole('to', 'output', [0, OUTPUT_COUNT, 0, 1], 'Output that the row adds to. 0 is none.');
    book.choice(
      key('from'),
      `Mix row ${n}, source`,
      rowSources.map((r) => [r, sourceWords[r]] as const),
      'roll',
      'What it takes a part of.',
    );
    book.number(
      key('weight'),
      `Mix row ${n}, weight`,
      'share',
      [-2, 2, 0, 0.05],
      'How much of it, and which way.',
    );
    book.number(key('low'), `Mix row ${n}, least`, 'share', [-1, 1, -1, 0.05], 'It adds no less than this.');
    book.number(key('high'), `Mix row ${n}, most`, 'share', [-1, 1, 1, 0.05], 'It adds no more than this.');
    book.number(
      key('curve'),
      `Mix row ${n}, softness`,
      'share',
      [0, 0.9, 0, 0.05],
      'Softer about the middle; the ends stay.',
    );
    whole(
      'channel',
      'condition',
      [0, CHANNEL_COUNT, 0, 1],
      'Channel of the switch that lets it act. 0 is always.',
    );
    whole('fromUs', 'from', [800, 2200, 1700, 10], 'It acts from here on.');
    whole('toUs', 'to', [800, 2200, 2200, 10], 'It acts up to here.');
  }
}
