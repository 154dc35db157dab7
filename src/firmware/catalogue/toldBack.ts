import { ROOM_KEY, rateKey, toldSensors } from '#core/toldBack/sensors.ts';
import type { EntryBook } from './entryBook.ts';

/** What the board tells the transmitter over the link's way back. */
export function addToldBackSettings(book: EntryBook): void {
  book.group = 'What the radio hears';
  book.number(
    ROOM_KEY,
    'Room on the way back',
    'count',
    [20, 4000, 120, 10],
    'Bytes a second that the radio brings back from the craft; its maker says it for each packet rate. The board never sends more.',
    'now',
    'integer',
  );
  for (const s of toldSensors)
    book.number(
      rateKey(s.id),
      `${s.name}, times a second`,
      'hz',
      [0, 10, s.usualHz, 0.1],
      `${s.answers} How often that is told to the transmitter, where there is room; 0 for never.`,
    );
}
