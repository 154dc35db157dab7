import type { EntryBook } from './entryBook.ts';

/** Sensors, battery and how the board is mounted. */
export function addSensorsSettings(book: EntryBook): void {
  book.group = 'Sensors';
  book.choice(
    'gnss.baud',
    'GNSS baud',
    [
      ['9600', '9600'],
      ['38400', '38400'],
      ['57600', '57600'],
      ['115200', '115200'],
    ],
    '38400',
    'Speed of the GNSS receiver’s port.',
    'restart',
  );
  book.choice(
    'gnss.rate',
    'GNSS solutions a second',
    [
      ['1', '1'],
      ['5', '5'],
      ['10', '10'],
    ],
    '5',
    'How often the receiver is asked for a solution. More need a faster port.',
    'restart',
  );
  book.flag(
    'gnss.view',
    'Satellites in view',
    true,
    'The receiver also tells each second which satellites it sees, how strong, and where.',
    'restart',
  );
  book.choice(
    'gnss.systems',
    'Satellites used',
    [
      ['one', 'of one system'],
      ['two', 'of two systems'],
      ['all', 'of all it knows'],
    ],
    'all',
    'More systems give more satellites, and fill the wire more.',
    'restart',
  );
  book.number(
    'battery.cells',
    'Battery cells',
    'count',
    [1, 14, 4, 1],
    'Cells in series.',
    'restart',
    'integer',
  );
  book.number(
    'battery.scale',
    'Voltage scale',
    'share',
    [0.8, 1.25, 1, 0.001],
    'Corrects the voltage measured by the board.',
  );
  book.number(
    'battery.low',
    'Low cell voltage',
    'v',
    [2.5, 4, 3.55, 0.01],
    'A cell under load below this is a warning.',
  );
  book.number(
    'battery.empty',
    'Empty cell voltage',
    'v',
    [2.4, 3.9, 3.3, 0.01],
    'A cell under load below this is empty.',
  );
  book.number(
    'battery.capacity',
    'Battery capacity',
    'mah',
    [50, 100000, 5000, 50],
    'Charge that can be used from full to empty.',
  );
  book.number(
    'mount.roll',
    'Board turned, roll',
    'deg',
    [-180, 180, 0, 1],
    'How the board is turned in the craft about its length.',
    'restart',
  );
  book.number(
    'mount.pitch',
    'Board turned, pitch',
    'deg',
    [-180, 180, 0, 1],
    'How the board is turned in the craft, nose up.',
    'restart',
  );
  book.number(
    'mount.yaw',
    'Board turned, yaw',
    'deg',
    [-180, 180, 0, 1],
    'How the board is turned in the craft, seen from above.',
    'restart',
  );
  book.number(
    'battery.currentScale',
    'Current scale',
    'share',
    [0.5, 2, 1, 0.005],
    'Corrects the current measured by the board.',
  );
  book.number(
    'battery.currentOffset',
    'Current offset',
    'a',
    [-5, 5, 0, 0.05],
    'Current shown with none flowing.',
  );
  book.choice(
    'battery.lowAction',
    'When the battery is low',
    [
      ['say', 'only say so'],
      ['return', 'return home'],
    ],
    'say',
    'What the board does when a cell under load stays below the low mark.',
  );
  book.choice(
    'battery.emptyAction',
    'When the battery is empty',
    [
      ['say', 'only say so'],
      ['down', 'come down here'],
    ],
    'say',
    'What the board does when nothing is left to fly on and it is not yet at home: rotors sink where they are, a wing glides down in a circle.',
  );
  book.choice(
    'battery.watch',
    'The battery is low by',
    [
      ['volts', 'the voltage of a cell under load'],
      ['charge', 'the charge that is left'],
      ['home', 'the charge that the way home takes'],
    ],
    'volts',
    'By the way home it is low when what is left is no more than the way home takes, against the wind as it is, and what is to be left.',
  );
  book.number(
    'battery.reserve',
    'Charge to be left',
    'share',
    [0.05, 0.7, 0.2, 0.01],
    'Of the capacity: low by charge begins here, and so much is kept above home.',
  );
  book.choice(
    'battery.chemistry',
    'Battery chemistry',
    [
      ['lipo', 'LiPo'],
      ['li-ion', 'Li-ion'],
    ],
    'lipo',
    'By it the charge at arming is known from the voltage at rest.',
  );
  book.number(
    'battery.homeCurrent',
    'Current on the way home',
    'a',
    [0, 400, 0, 0.1],
    'Level at the return speed. 0: not known, and the way home cannot be reckoned.',
  );
  book.number(
    'battery.climbCharge',
    'Charge of a climb',
    'mah',
    [0, 5000, 0, 1],
    'For each hundred metres, with all that is used meanwhile.',
  );
  for (const [way, words] of [
    ['forward', 'ahead'],
    ['right', 'to the right'],
    ['up', 'above'],
  ] as const)
    book.number(
      `mount.${way}`,
      `Board ${words} of the centre of gravity`,
      'mm',
      [-2000, 2000, 0, 1],
      'A board away from the centre of gravity feels every turn as a push; it is taken out by this.',
    );
  for (const [way, words] of [
    ['Roll', 'about its length, right wing down'],
    ['Pitch', 'about its span, nose up'],
  ] as const)
    book.number(
      `mount.level${way}`,
      `Level, ${way.toLowerCase()}`,
      'deg',
      [-20, 20, 0, 0.1],
      `How the craft lies ${words} when it counts as level; apart from how the board is mounted.`,
    );
  for (const [n, nth] of [
    [1, 'first'],
    [2, 'second'],
  ] as const)
    for (const axis of ['x', 'y', 'z'] as const) {
      const letter = axis.toUpperCase();
      book.number(
        `accel.${n}.offset.${axis}`,
        `Accelerometer ${n}, offset ${letter}`,
        'm/s2',
        [-2, 2, 0, 0.001],
        `What the ${nth} chip says along its ${letter} while it feels nothing.`,
      );
      book.number(
        `accel.${n}.scale.${axis}`,
        `Accelerometer ${n}, scale ${letter}`,
        'share',
        [0.85, 1.15, 1, 0.0001],
        `Corrects what the ${nth} chip says along its ${letter}.`,
      );
    }
  book.choice(
    'bus.speed',
    'Speed of the I2C bus',
    [
      ['100', '100 kHz'],
      ['400', '400 kHz'],
    ],
    '400',
    'Of the bus for sensors outside the board. Slower forgives long wires and weak pull-ups.',
    'restart',
  );
  book.choice(
    'imu.use',
    'Gyro and accelerometer',
    [
      ['first', 'the first'],
      ['second', 'the second'],
      ['both', 'the mean of both'],
    ],
    'first',
    'On a board with two; on others the first is taken.',
    'restart',
  );
  book.flag(
    'compass.fitted',
    'Compass fitted',
    false,
    'A craft that hovers needs one to navigate.',
    'restart',
  );
  for (const [axis, letter] of [
    ['x', 'X'],
    ['y', 'Y'],
    ['z', 'Z'],
  ] as const) {
    book.number(
      `compass.${axis}`,
      `Compass offset ${letter}`,
      'ut',
      [-200, 200, 0, 0.1],
      'Field of the craft itself, taken off what the compass measures.',
    );
  }
  for (const [key, words, usual] of [
    ['xx', 'X for X', 1],
    ['yy', 'Y for Y', 1],
    ['zz', 'Z for Z', 1],
    ['xy', 'X for Y and Y for X', 0],
    ['xz', 'X for Z and Z for X', 0],
    ['yz', 'Y for Z and Z for Y', 0],
  ] as const)
    book.number(
      `compass.${key}`,
      `Compass matrix, ${words}`,
      'share',
      usual === 1 ? [0.5, 1.6, 1, 0.0001] : [-0.5, 0.5, 0, 0.0001],
      'Puts right what iron near the compass bends; offsets are taken off first.',
    );
  for (const axis of ['x', 'y', 'z'] as const)
    book.number(
      `compass.perAmp.${axis}`,
      `Compass, field per ampere ${axis.toUpperCase()}`,
      'ut',
      [-5, 5, 0, 0.001],
      'Field that a current of one ampere makes at the compass, taken off what it measures.',
    );
  for (const [way, words] of [
    ['roll', 'about its length'],
    ['pitch', 'nose up'],
    ['yaw', 'seen from above'],
  ] as const)
    book.number(
      `compass.${way}`,
      `Compass turned, ${way}`,
      'deg',
      [-180, 180, 0, 1],
      `How the compass is turned against the board, ${words}.`,
      'restart',
    );
  book.number(
    'compass.declination',
    'Declination',
    'deg',
    [-180, 180, 0, 0.1],
    'Magnetic north east of true north at the field.',
  );
  book.number(
    'compass.strength',
    'Field strength',
    'ut',
    [20, 70, 50, 0.1],
    'Strength of the field at the place; a compass that measures much else is not believed.',
  );
  book.flag(
    'pitot.fitted',
    'Airspeed sensor fitted',
    true,
    'Without one, airspeed is worked out.',
    'restart',
  );
  book.number(
    'pitot.scale',
    'Airspeed scale',
    'share',
    [0.7, 1.4, 1, 0.01],
    'Corrects the measured airspeed.',
  );
  book.number(
    'pitot.zero',
    'Airspeed, pressure at rest',
    'pa',
    [-200, 200, 0, 0.1],
    'What the sensor says under its cover, taken off what it measures.',
  );
  book.flag(
    'range.fitted',
    'Rangefinder fitted',
    false,
    'Measures the height above the ground when low.',
    'restart',
  );
  book.number('range.most', 'Rangefinder reaches', 'm', [1, 100, 12, 1], 'Farther readings are not used.');
  book.number(
    'range.offset',
    'Rangefinder above the ground',
    'm',
    [-1, 1, 0, 0.01],
    'What it measures while the craft stands.',
  );
  book.number(
    'range.scale',
    'Rangefinder scale',
    'share',
    [0.8, 1.25, 1, 0.01],
    'Corrects the measured distance.',
  );
  book.flag(
    'flow.fitted',
    'Optical flow fitted',
    false,
    'A camera that looks down keeps the craft over its place when it is low and has no fix. It needs the rangefinder.',
    'restart',
  );
  book.number(
    'flow.scale',
    'Optical flow scale',
    'share',
    [0.7, 1.4, 1, 0.01],
    'Corrects how fast the ground seems to turn.',
  );
  book.number(
    'gnss.jump',
    'Jump not believed',
    'm',
    [5, 200, 30, 5],
    'A fix that moves farther than this at once is taken for a glitch at first.',
  );

  book.group = 'Flight log';
  book.choice(
    'log.rate',
    'Log rate',
    [
      ['0', 'off'],
      ['5', '5 a second'],
      ['10', '10 a second'],
      ['50', '50 a second'],
    ],
    '10',
    'How often the board writes down what it does.',
  );
  book.flag('log.loops', 'Log the loops', false, 'Also writes demands and commands of every axis.');
  book.flag(
    'log.gyro',
    'Log the raw gyro',
    false,
    'Also writes every step of the gyro before its filters, and nothing of it is lost: about four minutes fill the store.',
  );
}
