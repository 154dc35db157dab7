import { kindNames, kinds } from '#core/airframe/actuators.ts';
import { usualShares } from '#core/mixer/roles.ts';
import type { EntryBook } from './entryBook.ts';
import { addFilterSettings } from './filters.ts';
import { addDialSettings, addTuneSettings } from './tuning.ts';

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
    'rate.forwardLag',
    'Feed-forward smoothing',
    's',
    [0, 0.3, 0, 0.005],
    'What is asked comes in steps, as the receiver hears it: the feed-forward takes it smoothed by so much.',
  );
  book.number(
    'rate.forwardLead',
    'Feed-forward lead',
    's',
    [0, 0.3, 0, 0.005],
    'The feed-forward is ahead of what is asked by so much: for what is slow to follow. Smooth it as well.',
  );
  book.choice(
    'loop.rate',
    'Loops run',
    [
      ['1000', '1000 times a second'],
      ['500', '500 times a second'],
      ['250', '250 times a second'],
    ],
    '1000',
    'How often the rate loops are worked out. Less often leaves the processor more room and is later.',
    'restart',
  );
  addFilterSettings(book);

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
