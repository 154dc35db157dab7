import { kindNames, kinds } from '#core/airframe/airframe.ts';
import { DIALS, dialTargets } from '#core/control/dials.ts';
import { usualShares } from '#core/mixer/roles.ts';
import type { EntryBook } from './entryBook.ts';

/** Loops, levelling and motors. */
export function addControlSettings(book: EntryBook): void {
  book.group = 'Rate loops';
  addControlSet(book, '', '');
  book.number(
    'rate.reference',
    'Reference speed',
    'm/s',
    [5, 60, 15, 0.5],
    'Airspeed at which the gains hold as written.',
  );
  book.choice(
    'rate.by',
    'Gains go by',
    [
      ['speed', 'airspeed'],
      ['throttle', 'throttle'],
      ['nothing', 'nothing'],
    ],
    'speed',
    'What gains become less with. Rotors have no airspeed: theirs go by the throttle or by nothing.',
  );
  book.number(
    'rate.power',
    'Power of the gain law',
    'share',
    [0, 2, 2, 0.05],
    'P, I and D go with reference over speed, or over throttle, to this power.',
  );
  book.number(
    'rate.forwardPower',
    'Power for feed-forward',
    'share',
    [0, 2, 1, 0.05],
    'The same for the feed-forward of wings; that of rotors goes as P does.',
  );
  book.number(
    'rate.lowest',
    'Gains grow down to',
    'share',
    [0.2, 1, 0.6, 0.01],
    'Below this share of the reference gains grow no further.',
  );
  book.number(
    'rate.highest',
    'Gains fall up to',
    'share',
    [1, 4, 2, 0.01],
    'Beyond this share of the reference gains fall no further.',
  );
  book.number(
    'rate.throttleLag',
    'Speed follows throttle in',
    's',
    [0, 10, 1.5, 0.1],
    'How late the speed is behind the throttle, where gains go by the throttle.',
  );
  book.number(
    'rate.voltPower',
    'Gains over voltage',
    'share',
    [0, 2, 0, 0.05],
    'Of rotors: gains grow as the battery falls, by this power. 1 makes up for what motors lose; 0 leaves them.',
  );
  book.number(
    'rate.volts',
    'Gains hold at',
    'v',
    [2.5, 4.4, 3.7, 0.01],
    'Voltage of a cell at which gains over voltage are as written.',
  );
  book.number(
    'rate.sumLimit',
    'Greatest summed correction',
    'share',
    [0, 1, 0.3, 0.05],
    'How much surface the I part may use.',
  );
  book.number(
    'gyro.cutoff',
    'Gyro low-pass',
    'hz',
    [10, 400, 80, 5],
    'Cut-off of the gyro filter. Lower is smoother and slower.',
    'restart',
  );
  book.number(
    'rate.dCutoff',
    'D low-pass',
    'hz',
    [5, 200, 30, 5],
    'Cut-off of the filter before the D part.',
    'restart',
  );

  book.number(
    'gyro.notch',
    'Gyro notch',
    'hz',
    [0, 450, 0, 1],
    'Centre of the notch against the propellers. 0 turns it off.',
    'restart',
  );
  book.number('gyro.notchQ', 'Notch Q', 'share', [1, 10, 3, 0.5], 'Higher is narrower.', 'restart');
  book.flag(
    'gyro.notchFollows',
    'Notch follows the throttle',
    false,
    'Moves the notch with the throttle; its centre is then that at cruise or hover.',
    'restart',
  );
  book.number(
    'gyro.notchPower',
    'Notch over throttle',
    'share',
    [0.3, 1.5, 0.5, 0.05],
    'Power of the throttle by which a notch that follows moves: 0.5 is its root, 1 is in step with it.',
    'restart',
  );
  book.flag(
    'gyro.notchTold',
    'Notch goes by the motors’ own speed',
    false,
    'Motor controllers that are sent frames tell how fast they turn: the notch is there. Where they are silent it is where it would be without.',
    'restart',
  );
  book.number(
    'gyro.notchHarmonics',
    'Notches',
    'count',
    [1, 3, 1, 1],
    'Notches at once, twice and three times the centre: blades shake at multiples of the shaft.',
    'restart',
  );
  book.number(
    'gyro.poles',
    'Gyro low-pass poles',
    'count',
    [1, 3, 1, 1],
    'How steeply the gyro filter cuts off; each pole costs the delay of one.',
    'restart',
  );

  book.number(
    'gyro.track',
    'Tracking notches',
    'count',
    [0, 4, 0, 1],
    'Notches that look for what shakes most themselves, and follow it. 0 turns them off.',
    'restart',
    'integer',
  );
  book.number(
    'gyro.trackFrom',
    'Tracking from',
    'hz',
    [40, 300, 70, 5],
    'They look for nothing slower: what is below is the craft’s own turning.',
    'restart',
  );
  book.number('gyro.trackTo', 'Tracking to', 'hz', [80, 450, 350, 5], 'Nor for anything quicker.', 'restart');
  book.number('gyro.trackQ', 'Tracking Q', 'share', [1, 10, 3, 0.5], 'Higher is narrower.', 'restart');
  book.choice(
    'gyro.kind',
    'Gyro low-pass is',
    [
      ['poles', 'of poles'],
      ['biquad', 'of the second order'],
    ],
    'poles',
    'One of the second order cuts off twice as steeply as a pole, and costs less delay than two.',
    'restart',
  );
  book.number(
    'gyro.cutoff2',
    'Second gyro low-pass',
    'hz',
    [0, 400, 0, 5],
    'Cut-off of another pole behind the first low-pass. 0 turns it off.',
    'restart',
  );
  book.number(
    'gyro.yawCutoff',
    'Yaw low-pass',
    'hz',
    [0, 400, 0, 5],
    'Cut-off of a low-pass of the yaw gyro alone: fins and tilted rotors shake it most. 0 turns it off.',
    'restart',
  );

  book.group = 'Level';
  book.number(
    'level.pitch',
    'Cruise pitch',
    'deg',
    [-10, 15, 2, 0.1],
    'Attitude in which the craft flies level at its cruise speed.',
  );

  book.number(
    'horizon.blend',
    'Horizon blends from',
    'share',
    [0.2, 1, 0.6, 0.05],
    'Stick beyond this share turns freely in Horizon; below it the craft levels itself.',
  );

  book.group = 'Control sets';
  book.choice(
    'set.active',
    'Control set',
    [
      ['1', 'set 1'],
      ['2', 'set 2'],
      ['3', 'set 3'],
    ],
    '1',
    'Which set of rates, gains and limits is flown. Changes only while disarmed.',
  );
  for (const n of [2, 3]) addControlSet(book, `set.${n}.`, `Set ${n}: `);

  book.group = 'Motors';
  book.number(
    'motor.idle',
    'Motor idle',
    'share',
    [0, 0.3, 0, 0.01],
    'Lowest duty while armed. 0 lets the motors stand.',
  );
  book.number(
    'motor.cruise',
    'Cruise throttle',
    'share',
    [0.1, 0.9, 0.5, 0.01],
    'Throttle that holds height at cruise speed.',
  );
  book.number(
    'motor.max',
    'Highest throttle',
    'share',
    [0.3, 1, 1, 0.01],
    'Throttle is never more than this.',
  );
  book.number(
    'motor.perClimb',
    'Throttle per climb',
    'share',
    [0.01, 0.5, 0.08, 0.005],
    'More throttle for each m/s of climb.',
  );
  book.number('motor.ramp', 'Throttle ramp', 's', [0, 2, 0.2, 0.05], 'Time from stop to full throttle.');
  book.number(
    'mix.differential',
    'Differential thrust',
    'share',
    [0, 1, 0, 0.05],
    'How much yaw commands go to the motors.',
  );
  book.number(
    'mix.turnRudder',
    'Rudder with aileron',
    'share',
    [-0.5, 1, 0, 0.05],
    'Rudder added for each share of aileron.',
  );
  book.number(
    'mix.aileronUp',
    'Aileron differential',
    'share',
    [0, 0.8, 0, 0.05],
    'How much less the down-going aileron moves.',
  );

  book.group = 'Mixer';
  book.choice(
    'craft.kind',
    'Craft',
    kinds.map((k) => [k, kindNames[k]] as const),
    'conventional',
    'What is to be flown: which surfaces and motors answer which command.',
    'restart',
  );
  const share = (key: string, label: string, fallback: number, meaning: string) =>
    book.number(key, label, 'share', [0, 1, fallback, 0.05], meaning);
  share('mix.elevonRoll', 'Elevon for roll', usualShares.elevonRoll, 'How much of an elevon full roll uses.');
  share(
    'mix.elevonPitch',
    'Elevon for pitch',
    usualShares.elevonPitch,
    'How much of an elevon full pitch uses.',
  );
  share(
    'mix.ruddervatorPitch',
    'V-tail for pitch',
    usualShares.ruddervatorPitch,
    'How much of a ruddervator full pitch uses.',
  );
  share(
    'mix.ruddervatorYaw',
    'V-tail for yaw',
    usualShares.ruddervatorYaw,
    'How much of a ruddervator full yaw uses.',
  );
  share(
    'mix.flaperonFlap',
    'Flaperon as flap',
    usualShares.flaperonFlap,
    'How much of a flaperon full flap uses.',
  );
  book.flag(
    'mix.spinFlipped',
    'Rotors turn the other way',
    false,
    'Every rotor turns against the usual way round: the front right one clockwise.',
  );
  book.choice(
    'mix.rotors',
    'Rotors answer',
    [
      ['usual', 'by the usual shape of the frame'],
      ['arms', 'by where each one stands'],
    ],
    'usual',
    'A frame of another shape than the usual one answers cleanly only by its own arms.',
  );
  book.number('flap.time', 'Flap time', 's', [0, 10, 2, 0.5], 'Time from up to fully down.');
  book.number(
    'flap.pitch',
    'Pitch with flap',
    'share',
    [-0.5, 0.5, 0, 0.01],
    'Pitch command added with full flap, against the nose rising or falling.',
  );

  addHoverSettings(book);
  addDialSettings(book);
  addTuneSettings(book);
}

/** Gains that the board finds in flight. */
function addTuneSettings(book: EntryBook): void {
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
    [0.05, 1, 0.35, 0.05],
    'Of the most P that leaves 55° and three times until it rings: so much is taken. Less is softer.',
  );
  book.flag('tune.flies', 'Flies what it found', true, 'Until it is disarmed; nothing is written.');
}

/** What is moved in flight by a dial or a switch of the transmitter. */
function addDialSettings(book: EntryBook): void {
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

/** Rates, gains and limits that may differ from one control set to the next. */
function addControlSet(book: EntryBook, prefix: string, title: string): void {
  for (const [axis, name] of [
    ['roll', 'Roll'],
    ['pitch', 'Pitch'],
    ['yaw', 'Yaw'],
  ] as const) {
    const at = `${prefix}rate.${axis}`;
    const label = (text: string) => `${title}${name} ${text}`;
    book.number(
      `${at}.max`,
      label('rate at full stick'),
      'deg/s',
      [10, 720, axis === 'yaw' ? 60 : 150, 5],
      'Turn rate that a full stick asks for in Rate.',
    );
    book.number(
      `${at}.forward`,
      label('feed-forward'),
      'share',
      [0, 2, 0.15, 0.005],
      'Surface per rad/s asked for, at the reference speed.',
    );
    book.number(
      `${at}.p`,
      label('P'),
      'share',
      [0, 2, 0.06, 0.001],
      'Command per rad/s of error, at the reference speed.',
    );
    book.number(
      `${at}.i`,
      label('I'),
      'share',
      [0, 4, 0.08, 0.001],
      'Command per rad of summed error, at the reference speed.',
    );
    book.number(
      `${at}.d`,
      label('D'),
      'share',
      [0, 0.2, 0, 0.0001],
      'Command per rad/s^2, against the turn.',
    );
  }
  const level = (key: string) => `${prefix}level.${key}`;
  book.number(
    level('time'),
    `${title}Levelling time`,
    's',
    [0.05, 2, 0.35, 0.01],
    'Angle error divided by this is the rate asked for.',
  );
  book.number(
    level('bank'),
    `${title}Bank limit`,
    'deg',
    [10, 75, 45, 1],
    'Greatest bank in Level and in all navigation.',
  );
  book.number(
    level('up'),
    `${title}Nose-up limit`,
    'deg',
    [5, 60, 22, 1],
    'Greatest nose-up angle in Level and navigation.',
  );
  book.number(
    level('down'),
    `${title}Nose-down limit`,
    'deg',
    [5, 60, 18, 1],
    'Greatest nose-down angle in Level and navigation.',
  );
}

/** For a craft that hovers on its rotors. */
function addHoverSettings(book: EntryBook): void {
  book.group = 'Hover';
  book.number(
    'hover.throttle',
    'Hover throttle',
    'share',
    [0.1, 0.9, 0.45, 0.01],
    'Throttle that carries the weight without climb.',
  );
  book.number('hover.tilt', 'Tilt limit', 'deg', [5, 60, 32, 1], 'Greatest tilt in hover and navigation.');
  book.number(
    'hover.velocityP',
    'Velocity P',
    'share',
    [0.1, 5, 1, 0.05],
    'Acceleration in m/s^2 per m/s of velocity error.',
  );
  book.number(
    'hover.velocityI',
    'Velocity I',
    'share',
    [0, 3, 0.25, 0.05],
    'Acceleration per m of summed velocity error: leans into the wind.',
  );
  book.number(
    'hover.positionP',
    'Position P',
    'share',
    [0.05, 3, 0.4, 0.05],
    'Velocity in m/s per m from where it should be.',
  );
  book.number(
    'hover.climbP',
    'Climb P',
    'share',
    [0.005, 1, 0.06, 0.005],
    'Throttle per m/s of climb error.',
  );
  book.number(
    'hover.climbI',
    'Climb I',
    'share',
    [0, 1, 0.03, 0.005],
    'Throttle per m of summed climb error.',
  );
  book.number(
    'hover.heightP',
    'Height P',
    'share',
    [0.1, 3, 0.6, 0.05],
    'Climb in m/s per m of height error.',
  );
  book.number('hover.speed', 'Speed at full stick', 'm/s', [1, 25, 8, 0.5], 'In Position hold.');
  book.number('hover.land', 'Landing speed', 'm/s', [0.2, 3, 0.7, 0.1], 'Sink near the ground.');
  book.number('hover.yawRate', 'Turn to home', 'deg/s', [10, 180, 60, 5], 'Yaw rate in navigation.');
  book.number(
    'hover.drag',
    'Drag',
    'share',
    [0.01, 2, 0.2, 0.01],
    'Deceleration in m/s^2 per m/s through the air: tells wind without an airspeed sensor.',
  );
}
