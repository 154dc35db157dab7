import { VIDEO_CHANNELS, videoBandIds, videoBands, videoPowersMw } from '#core/video/transmitter.ts';
import type { EntryBook } from './entryBook.ts';

/** The video transmitter, where the board tells it what to do. */
export function addVideoSettings(book: EntryBook): void {
  book.group = 'Video transmitter';
  book.choice(
    'video.band',
    'Band',
    videoBandIds.map((id) => [id, videoBands[id].name] as const),
    'r',
    'Table of frequencies that transmitter and goggles share.',
  );
  book.number(
    'video.channel',
    'Channel',
    'count',
    [1, VIDEO_CHANNELS, 1, 1],
    'Its number in the band.',
    'now',
    'integer',
  );
  book.choice(
    'video.power',
    'Power',
    videoPowersMw.map((mw) => [String(mw), `${mw} mW`] as const),
    '25',
    'What it sends with. What is allowed where you fly is yours to know.',
  );
  book.flag(
    'video.quiet',
    'Least power until it is armed',
    true,
    'It stays cool on the table, and disturbs nobody who flies.',
  );
}
