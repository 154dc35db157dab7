import type { EntryBook } from './entryBook.ts';

/** Navigation, the lost link and the way home. */
export function addNavigationSettings(book: EntryBook): void {
  book.group = 'Navigation';
  book.number('nav.speed', 'Cruise speed', 'm/s', [5, 60, 15, 0.5], 'Airspeed in navigation.');
  book.number(
    'nav.speedFloor',
    'Least airspeed',
    'm/s',
    [4, 50, 10, 0.5],
    'Below this, height is given up for speed.',
  );
  book.number(
    'nav.period',
    'Path period',
    's',
    [6, 40, 16, 1],
    'How quickly it turns onto a path. Lower is sharper.',
  );
  book.number(
    'nav.damping',
    'Path damping',
    'share',
    [0.5, 1.2, 0.75, 0.05],
    'Damping of the approach to a path.',
  );
  book.number('nav.climb', 'Climb rate', 'm/s', [0.5, 10, 2.5, 0.1], 'Greatest climb asked for.');
  book.number('nav.sink', 'Sink rate', 'm/s', [0.5, 10, 2, 0.1], 'Greatest sink asked for.');
  book.number(
    'nav.heightTime',
    'Height time',
    's',
    [1, 20, 5, 0.5],
    'Height error divided by this is the climb asked for.',
  );
  book.number(
    'nav.speedTime',
    'Speed time',
    's',
    [1, 20, 4, 0.5],
    'Speed error divided by this is the acceleration asked for.',
  );
  book.number(
    'loiter.radius',
    'Loiter radius',
    'm',
    [15, 500, 60, 5],
    'Radius of every circle flown by itself.',
  );
  book.choice(
    'loiter.sense',
    'Loiter sense',
    [
      ['clockwise', 'clockwise'],
      ['anticlockwise', 'anticlockwise'],
    ],
    'clockwise',
    'Which way round circles are flown, seen from above.',
  );

  book.group = 'Lost link';
  book.choice(
    'lost.action',
    'When the link is lost',
    [
      ['nothing', 'do nothing'],
      ['cut', 'stop the motors'],
      ['glide', 'glide down in a circle'],
      ['return', 'return home'],
    ],
    'cut',
    'What the board does by itself once the link is lost.',
  );
  book.number(
    'lost.notice',
    'Loss noticed after',
    's',
    [0.2, 10, 0.8, 0.1],
    'Silence that counts as a lost link.',
  );
  book.number(
    'lost.guard',
    'Guard for',
    's',
    [0, 30, 1.5, 0.5],
    'Level flight in the hope that the link comes back.',
  );
  book.number(
    'lost.steady',
    'Link steady for',
    's',
    [0.5, 20, 3, 0.5],
    'How long the link must hold before sticks count again.',
  );
  book.number(
    'lost.stick',
    'Stick moved by',
    'share',
    [0.05, 0.5, 0.15, 0.05],
    'Stick movement that takes control back.',
  );
  book.number('lost.glideBank', 'Glide bank', 'deg', [0, 40, 15, 1], 'Bank of the glide after a lost link.');
  book.number(
    'lost.near',
    'Near home within',
    'm',
    [0, 500, 0, 10],
    'Closer than this the craft circles instead of climbing away. 0 turns it off.',
  );

  book.group = 'Way home';
  book.choice(
    'return.climb',
    'Climb on return',
    [
      ['climb-first', 'climb, then turn for home'],
      ['climb-on-the-way', 'climb on the way'],
      ['at-least', 'at least the return height'],
      ['keep-height', 'keep the height it has'],
    ],
    'climb-on-the-way',
    'How the return height is reached.',
  );
  book.number('return.height', 'Return height', 'm', [15, 1000, 60, 5], 'Height above home to fly home at.');
  book.number('return.speed', 'Return speed', 'm/s', [5, 60, 14, 0.5], 'Airspeed on the way home.');
  book.choice(
    'return.arrival',
    'On arrival',
    [
      ['circle', 'circle up there'],
      ['circle-low', 'sink, then circle'],
    ],
    'circle',
    'What the craft does above home.',
  );
  book.number(
    'return.arrivalHeight',
    'Arrival height',
    'm',
    [15, 500, 60, 5],
    'Height above home of the circle on arrival.',
  );
  book.number(
    'return.satellites',
    'Satellites to return',
    'count',
    [4, 20, 6, 1],
    'With fewer, the board glides instead of navigating.',
    'now',
    'integer',
  );
  book.number(
    'return.watch',
    'Progress watched over',
    's',
    [10, 300, 45, 5],
    'If home is no nearer after this time, the board flies faster.',
  );
  book.number(
    'return.faster',
    'Faster when held up',
    'm/s',
    [0, 20, 3, 0.5],
    'Airspeed added while no progress is made.',
  );
}
