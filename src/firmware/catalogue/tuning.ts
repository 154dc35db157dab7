import { DIALS, dialTargets } from '#core/control/dials.ts';
import type { EntryBook } from './entryBook.ts';

/** Gains that the board finds in flight. */
export function addTuneSettings(book: EntryBook): void {
  book.group = 'Finding gains';
  book.channel(
    'tune.channel',
    'Finding gains channel',
    0,
    'Switch that lets the board find gains in flight, at its upper end. 0 for none.',
  );
  book.choice(
    'tune.axes',
    'Gains are found of',
    [
      ['both', 'roll, then pitch'],
      ['roll', 'roll'],
      ['pitch', 'pitch'],
    ],
    'both',
    'About which axes the craft is leant to and fro.',
  );
  book.number(
    'tune.share',
    'Share of the most',
    'share',
    [0.05, 1, 0.5, 0.05],
    'Of the most P that leaves 55°, 40 ms and three times until it rings, and that servos can follow: so much is taken. Less is softer.',
  );
  book.number(
    'tune.servo',
    'Servo from middle to end',
    's',
    [0.02, 0.5, 0.09, 0.01],
    'The slowest of those that roll and pitch the craft. No gains are found that it could not follow.',
  );
  book.flag('tune.flies', 'Flies what it found', true, 'Until it is disarmed; nothing is written.');
}

/** What is moved in flight by a dial or a switch of the transmitter. */
export function addDialSettings(book: EntryBook): void {
  book.group = 'Dials';
  for (let n = 1; n <= DIALS; n++) {
    const at = `dial.${n}`;
    book.channel(
      `${at}.channel`,
      `Dial ${n} channel`,
      0,
      'Channel of a dial or a switch that moves a setting. 0 for none.',
    );
    book.choice(
      `${at}.moves`,
      `Dial ${n} moves`,
      [['nothing', 'nothing'], ...dialTargets],
      'nothing',
      'The setting that is multiplied, within what it takes. What is written stays.',
    );
    book.choice(
      `${at}.by`,
      `Dial ${n} is`,
      [
        ['dial', 'a dial'],
        ['switch', 'a switch that springs back'],
      ],
      'dial',
      'A dial multiplies by where it stands, a switch by one step at each flick.',
    );
    book.number(
      `${at}.span`,
      `Dial ${n} span`,
      'share',
      [1.05, 4, 1.5, 0.05],
      'So many times what is written at its upper end, and one over it at its lower.',
    );
    book.number(
      `${at}.step`,
      `Dial ${n} step`,
      'share',
      [0.01, 0.5, 0.05, 0.01],
      'Of a switch: share more or less at each flick.',
    );
  }
}
