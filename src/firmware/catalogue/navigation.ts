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
      ['glide', 'come down where it is'],
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

  book.number(
    'lost.blind',
    'Fly without a fix for',
    's',
    [2, 300, 45, 1],
    'How long navigation goes on by air speed and wind when the fix is lost; then the craft comes down.',
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
      ['land', 'land'],
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
  book.choice(
    'return.above',
    'Return height counts from',
    [
      ['home', 'home'],
      ['ground', 'the ground under it'],
    ],
    'home',
    'The ground under it needs terrain on the memory card; where there is none, home counts.',
  );
  book.number(
    'return.lower',
    'Lower when held up',
    'm',
    [0, 300, 60, 10],
    'Wind is weaker lower down: how far it sinks when flying faster did not help. Never below the floor.',
  );
  book.number(
    'return.floor',
    'Return floor',
    'm',
    [15, 500, 60, 5],
    'It never sinks lower than this on the way.',
  );
  book.number(
    'return.timeout',
    'Give up after',
    's',
    [60, 7200, 1800, 60],
    'A return that takes longer ends in coming down where it is.',
  );
  book.number(
    'return.fewFor',
    'Few satellites allowed for',
    's',
    [0, 120, 15, 1],
    'How long fewer satellites than asked for are put up with.',
  );

  book.group = 'Hand launch';
  book.number(
    'launch.accel',
    'Throw felt from',
    'm/s2',
    [5, 40, 8, 0.5],
    'Push along the nose that counts as the throw.',
  );
  book.number('launch.delay', 'Motor after', 's', [0, 2, 0.15, 0.05], 'Time from the throw to the motor.');
  book.number('launch.throttle', 'Launch throttle', 'share', [0.3, 1, 1, 0.05], 'Throttle of the launch.');
  book.number('launch.pitch', 'Launch pitch', 'deg', [3, 40, 14, 1], 'Nose-up angle of the launch.');
  book.number('launch.time', 'Launch lasts', 's', [2, 30, 8, 1], 'Then the mode of the switches takes over.');
  book.number(
    'launch.height',
    'Launch up to',
    'm',
    [5, 150, 30, 5],
    'Ends sooner once this high above where it was thrown.',
  );

  book.group = 'Landing';
  book.number('land.speed', 'Approach speed', 'm/s', [4, 40, 11, 0.5], 'Airspeed on the approach.');
  book.number('land.slope', 'Approach slope', 'deg', [2, 15, 5, 0.5], 'Steepness of the approach.');
  book.number('land.height', 'Approach from', 'm', [10, 150, 35, 5], 'Height above home where it begins.');
  book.choice(
    'land.along',
    'Approach along',
    [
      ['wind', 'the wind'],
      ['strip', 'the strip'],
    ],
    'wind',
    'A wing lands against the wind, or along a strip from whichever end lies more against it.',
  );
  book.number(
    'land.strip',
    'Strip',
    'deg',
    [0, 179, 0, 1],
    'Bearing of the strip from one of its ends to the other; it is landed on both ways.',
  );
  book.number('land.flare', 'Flare below', 'm', [0.5, 15, 3, 0.5], 'Motor off and nose up below this.');
  book.number('land.pitch', 'Flare pitch', 'deg', [0, 20, 6, 1], 'Nose-up angle of the flare.');
  book.number(
    'land.disarm',
    'Disarm after landing',
    's',
    [0, 30, 3, 1],
    'Standing still this long after a landing by itself disarms. 0 leaves it to the pilot.',
  );

  book.group = 'Geofence';
  book.number('fence.radius', 'Fence radius', 'm', [0, 20000, 0, 50], 'Farthest from home. 0 turns it off.');
  book.number('fence.top', 'Fence top', 'm', [0, 2000, 0, 10], 'Highest above home. 0 turns it off.');
  book.choice(
    'fence.action',
    'At the fence',
    [
      ['say', 'only say so'],
      ['loiter', 'loiter there'],
      ['return', 'return home'],
    ],
    'return',
    'What the board does outside the fence.',
  );
}
