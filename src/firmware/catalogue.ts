import { actuatorNames, motorIds, surfaceIds } from '#core/airframe/airframe.ts';
import { Catalogue, type CrossRule, type SettingEntry } from '#core/settings/catalogue.ts';
import type { UnitId } from '#core/units/units.ts';

/** The settings of Pfad 3.1 on a board with this many outputs and timers. */
export const OUTPUT_COUNT = 9;
export const TIMER_COUNT = 5;
export const CHANNEL_COUNT = 16;

const entries: SettingEntry[] = [];
let group = '';

function number(
  key: string,
  label: string,
  unit: UnitId,
  range: readonly [min: number, max: number, fallback: number, step: number],
  meaning: string,
  effect: SettingEntry['effect'] = 'now',
  type: 'number' | 'integer' = 'number',
): void {
  const [min, max, fallback, step] = range;
  entries.push({ key, group, label, meaning, type, unit, min, max, step, default: fallback, effect });
}

function flag(
  key: string,
  label: string,
  fallback: boolean,
  meaning: string,
  effect: SettingEntry['effect'] = 'now',
) {
  entries.push({ key, group, label, meaning, type: 'flag', unit: 'none', default: fallback, effect });
}

function choice(
  key: string,
  label: string,
  options: readonly (readonly [value: string, label: string])[],
  fallback: string,
  meaning: string,
  effect: SettingEntry['effect'] = 'now',
): void {
  const choices = options.map(([value, name]) => ({ value, label: name }));
  entries.push({
    key,
    group,
    label,
    meaning,
    type: 'choice',
    unit: 'none',
    choices,
    default: fallback,
    effect,
  });
}

const channel = (key: string, label: string, fallback: number, meaning: string) =>
  number(key, label, 'none', [0, CHANNEL_COUNT, fallback, 1], meaning, 'now', 'integer');

group = 'Outputs';
const drives = [
  ['nothing', 'nothing'] as const,
  ...[...motorIds, ...surfaceIds].map((id) => [id, actuatorNames[id]] as const),
];
for (let n = 1; n <= OUTPUT_COUNT; n++) {
  choice(`out.${n}.drives`, `Output ${n} drives`, drives, 'nothing', 'What is connected to this output.');
  flag(
    `out.${n}.reversed`,
    `Output ${n} reversed`,
    false,
    'Turns the servo the other way. Correct a surface here, never in the radio.',
  );
  number(
    `out.${n}.low`,
    `Output ${n} low end`,
    'us',
    [800, 1500, 1000, 1],
    'Pulse at one end of the travel; a motor stands still here.',
    'now',
    'integer',
  );
  number(
    `out.${n}.centre`,
    `Output ${n} centre`,
    'us',
    [900, 2100, 1500, 1],
    'Pulse with the surface in its middle.',
    'now',
    'integer',
  );
  number(
    `out.${n}.high`,
    `Output ${n} high end`,
    'us',
    [1500, 2200, 2000, 1],
    'Pulse at the other end of the travel; a motor runs fully here.',
    'now',
    'integer',
  );
  number(
    `out.${n}.speed`,
    `Output ${n} speed`,
    'us/s',
    [0, 10000, 0, 100],
    'Fastest change of the pulse. 0 leaves it to the servo.',
  );
}
for (let n = 1; n <= TIMER_COUNT; n++) {
  choice(
    `timer.${n}.rate`,
    `Timer ${n} rate`,
    [
      ['50', '50 Hz'],
      ['100', '100 Hz'],
      ['200', '200 Hz'],
      ['400', '400 Hz'],
    ],
    '50',
    'How often every output on this timer gets a pulse. Many servos stand only 50 Hz.',
    'restart',
  );
}

group = 'Receiver';
channel('rx.roll.channel', 'Roll channel', 1, 'Which receiver channel carries the roll stick.');
channel('rx.pitch.channel', 'Pitch channel', 2, 'Which receiver channel carries the pitch stick.');
channel('rx.throttle.channel', 'Throttle channel', 3, 'Which receiver channel carries the throttle stick.');
channel('rx.yaw.channel', 'Yaw channel', 4, 'Which receiver channel carries the yaw stick.');
flag(
  'rx.pitch.pullHigh',
  'Pull gives a long pulse',
  true,
  'Whether pulling the pitch stick back lengthens the pulse.',
);
number(
  'rx.low',
  'Stick low end',
  'us',
  [800, 1300, 1000, 1],
  'Pulse of a stick at its lower end.',
  'now',
  'integer',
);
number(
  'rx.middle',
  'Stick middle',
  'us',
  [1300, 1700, 1500, 1],
  'Pulse of a stick at rest.',
  'now',
  'integer',
);
number(
  'rx.high',
  'Stick high end',
  'us',
  [1700, 2200, 2000, 1],
  'Pulse of a stick at its upper end.',
  'now',
  'integer',
);
number(
  'rx.deadband',
  'Stick deadband',
  'us',
  [0, 50, 4, 1],
  'Movement about the middle that is taken as rest.',
  'now',
  'integer',
);
number(
  'rx.expo',
  'Stick expo',
  'share',
  [0, 0.9, 0.2, 0.05],
  'Softens the sticks about the middle; the ends stay.',
);

group = 'Switches';
channel(
  'arm.channel',
  'Arming channel',
  0,
  'Receiver channel that arms. 0 is none: the craft cannot be armed.',
);
number('arm.from', 'Arming from', 'us', [800, 2200, 1700, 10], 'Arming band begins here.', 'now', 'integer');
number('arm.to', 'Arming to', 'us', [800, 2200, 2200, 10], 'Arming band ends here.', 'now', 'integer');
for (const [id, name] of [
  ['rate', 'Rate'],
  ['level', 'Level'],
  ['return', 'Return home'],
] as const) {
  channel(
    `mode.${id}.channel`,
    `${name} channel`,
    0,
    `Receiver channel that asks for the mode ${name}. 0 is none.`,
  );
  number(
    `mode.${id}.from`,
    `${name} from`,
    'us',
    [800, 2200, 1700, 10],
    'The switch asks for the mode from here.',
    'now',
    'integer',
  );
  number(
    `mode.${id}.to`,
    `${name} to`,
    'us',
    [800, 2200, 2200, 10],
    'The switch asks for the mode up to here.',
    'now',
    'integer',
  );
}

group = 'Arming';
number(
  'arm.tilt',
  'Greatest tilt to arm',
  'deg',
  [5, 90, 45, 1],
  'A craft tilted more than this does not arm.',
);
flag('arm.needFix', 'Arm only with a fix', true, 'Without a fix no home is stored, and no return can work.');
number(
  'arm.satellites',
  'Satellites to arm',
  'count',
  [4, 20, 8, 1],
  'Satellites used before home is trusted.',
  'now',
  'integer',
);
number(
  'arm.throttle',
  'Throttle low below',
  'share',
  [0.01, 0.2, 0.05, 0.01],
  'Throttle stick has to be below this to arm.',
);

group = 'Rate loops';
for (const [axis, name] of [
  ['roll', 'Roll'],
  ['pitch', 'Pitch'],
  ['yaw', 'Yaw'],
] as const) {
  number(
    `rate.${axis}.max`,
    `${name} rate at full stick`,
    'deg/s',
    [10, 720, axis === 'yaw' ? 60 : 150, 5],
    'Turn rate that a full stick asks for in Rate.',
  );
  number(
    `rate.${axis}.forward`,
    `${name} feed-forward`,
    'share',
    [0, 2, 0.15, 0.005],
    'Surface per rad/s asked for, at the reference speed.',
  );
  number(
    `rate.${axis}.p`,
    `${name} P`,
    'share',
    [0, 2, 0.06, 0.005],
    'Surface per rad/s of error, at the reference speed.',
  );
  number(
    `rate.${axis}.i`,
    `${name} I`,
    'share',
    [0, 4, 0.08, 0.005],
    'Surface per rad of summed error, at the reference speed.',
  );
  number(
    `rate.${axis}.d`,
    `${name} D`,
    'share',
    [0, 0.2, 0, 0.001],
    'Surface per rad/s^2, against the turn.',
  );
}
number(
  'rate.reference',
  'Reference speed',
  'm/s',
  [5, 60, 15, 0.5],
  'Airspeed at which the gains hold as written.',
);
number(
  'rate.sumLimit',
  'Greatest summed correction',
  'share',
  [0, 1, 0.3, 0.05],
  'How much surface the I part may use.',
);
number(
  'gyro.cutoff',
  'Gyro low-pass',
  'hz',
  [10, 400, 80, 5],
  'Cut-off of the gyro filter. Lower is smoother and slower.',
  'restart',
);
number(
  'rate.dCutoff',
  'D low-pass',
  'hz',
  [5, 200, 30, 5],
  'Cut-off of the filter before the D part.',
  'restart',
);

group = 'Level';
number(
  'level.time',
  'Levelling time',
  's',
  [0.1, 2, 0.35, 0.05],
  'Angle error divided by this is the rate asked for.',
);
number('level.bank', 'Bank limit', 'deg', [10, 75, 45, 1], 'Greatest bank in Level and in all navigation.');
number('level.up', 'Nose-up limit', 'deg', [5, 60, 22, 1], 'Greatest nose-up angle in Level and navigation.');
number(
  'level.down',
  'Nose-down limit',
  'deg',
  [5, 60, 18, 1],
  'Greatest nose-down angle in Level and navigation.',
);
number(
  'level.pitch',
  'Cruise pitch',
  'deg',
  [-10, 15, 2, 0.1],
  'Attitude in which the craft flies level at its cruise speed.',
);

group = 'Motors';
number(
  'motor.idle',
  'Motor idle',
  'share',
  [0, 0.3, 0, 0.01],
  'Lowest duty while armed. 0 lets the motors stand.',
);
number(
  'motor.cruise',
  'Cruise throttle',
  'share',
  [0.1, 0.9, 0.5, 0.01],
  'Throttle that holds height at cruise speed.',
);
number('motor.max', 'Highest throttle', 'share', [0.3, 1, 1, 0.01], 'Throttle is never more than this.');
number(
  'motor.perClimb',
  'Throttle per climb',
  'share',
  [0.01, 0.5, 0.08, 0.005],
  'More throttle for each m/s of climb.',
);
number('motor.ramp', 'Throttle ramp', 's', [0, 2, 0.2, 0.05], 'Time from stop to full throttle.');
number(
  'mix.differential',
  'Differential thrust',
  'share',
  [0, 1, 0, 0.05],
  'How much yaw commands go to the motors.',
);
number(
  'mix.turnRudder',
  'Rudder with aileron',
  'share',
  [-0.5, 1, 0, 0.05],
  'Rudder added for each share of aileron.',
);
number(
  'mix.aileronUp',
  'Aileron differential',
  'share',
  [0, 0.8, 0, 0.05],
  'How much less the down-going aileron moves.',
);

group = 'Navigation';
number('nav.speed', 'Cruise speed', 'm/s', [5, 60, 15, 0.5], 'Airspeed in navigation.');
number(
  'nav.speedFloor',
  'Least airspeed',
  'm/s',
  [4, 50, 10, 0.5],
  'Below this, height is given up for speed.',
);
number(
  'nav.period',
  'Path period',
  's',
  [6, 40, 16, 1],
  'How quickly it turns onto a path. Lower is sharper.',
);
number('nav.damping', 'Path damping', 'share', [0.5, 1.2, 0.75, 0.05], 'Damping of the approach to a path.');
number('nav.climb', 'Climb rate', 'm/s', [0.5, 10, 2.5, 0.1], 'Greatest climb asked for.');
number('nav.sink', 'Sink rate', 'm/s', [0.5, 10, 2, 0.1], 'Greatest sink asked for.');
number(
  'nav.heightTime',
  'Height time',
  's',
  [1, 20, 5, 0.5],
  'Height error divided by this is the climb asked for.',
);
number(
  'nav.speedTime',
  'Speed time',
  's',
  [1, 20, 4, 0.5],
  'Speed error divided by this is the acceleration asked for.',
);
number('loiter.radius', 'Loiter radius', 'm', [15, 500, 60, 5], 'Radius of every circle flown by itself.');
choice(
  'loiter.sense',
  'Loiter sense',
  [
    ['clockwise', 'clockwise'],
    ['anticlockwise', 'anticlockwise'],
  ],
  'clockwise',
  'Which way round circles are flown, seen from above.',
);

group = 'Lost link';
choice(
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
number('lost.notice', 'Loss noticed after', 's', [0.2, 10, 0.8, 0.1], 'Silence that counts as a lost link.');
number(
  'lost.guard',
  'Guard for',
  's',
  [0, 30, 1.5, 0.5],
  'Level flight in the hope that the link comes back.',
);
number(
  'lost.steady',
  'Link steady for',
  's',
  [0.5, 20, 3, 0.5],
  'How long the link must hold before sticks count again.',
);
number(
  'lost.stick',
  'Stick moved by',
  'share',
  [0.05, 0.5, 0.15, 0.05],
  'Stick movement that takes control back.',
);
number('lost.glideBank', 'Glide bank', 'deg', [0, 40, 15, 1], 'Bank of the glide after a lost link.');
number(
  'lost.near',
  'Near home within',
  'm',
  [0, 500, 0, 10],
  'Closer than this the craft circles instead of climbing away. 0 turns it off.',
);

group = 'Way home';
choice(
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
number('return.height', 'Return height', 'm', [15, 1000, 60, 5], 'Height above home to fly home at.');
number('return.speed', 'Return speed', 'm/s', [5, 60, 14, 0.5], 'Airspeed on the way home.');
choice(
  'return.arrival',
  'On arrival',
  [
    ['circle', 'circle up there'],
    ['circle-low', 'sink, then circle'],
  ],
  'circle',
  'What the craft does above home.',
);
number(
  'return.arrivalHeight',
  'Arrival height',
  'm',
  [15, 500, 60, 5],
  'Height above home of the circle on arrival.',
);
number(
  'return.satellites',
  'Satellites to return',
  'count',
  [4, 20, 6, 1],
  'With fewer, the board glides instead of navigating.',
  'now',
  'integer',
);
number(
  'return.watch',
  'Progress watched over',
  's',
  [10, 300, 45, 5],
  'If home is no nearer after this time, the board flies faster.',
);
number(
  'return.faster',
  'Faster when held up',
  'm/s',
  [0, 20, 3, 0.5],
  'Airspeed added while no progress is made.',
);

group = 'Sensors';
choice(
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
number('battery.cells', 'Battery cells', 'count', [1, 14, 4, 1], 'Cells in series.', 'restart', 'integer');
number(
  'battery.scale',
  'Voltage scale',
  'share',
  [0.8, 1.25, 1, 0.001],
  'Corrects the voltage measured by the board.',
);
number(
  'battery.low',
  'Low cell voltage',
  'v',
  [2.5, 4, 3.55, 0.01],
  'A cell under load below this is a warning.',
);
number(
  'battery.empty',
  'Empty cell voltage',
  'v',
  [2.4, 3.9, 3.3, 0.01],
  'A cell under load below this is empty.',
);
number(
  'battery.capacity',
  'Battery capacity',
  'mah',
  [50, 100000, 5000, 50],
  'Charge that can be used from full to empty.',
);
number(
  'mount.roll',
  'Board turned, roll',
  'deg',
  [-180, 180, 0, 1],
  'How the board is turned in the craft about its length.',
  'restart',
);
number(
  'mount.pitch',
  'Board turned, pitch',
  'deg',
  [-180, 180, 0, 1],
  'How the board is turned in the craft, nose up.',
  'restart',
);
number(
  'mount.yaw',
  'Board turned, yaw',
  'deg',
  [-180, 180, 0, 1],
  'How the board is turned in the craft, seen from above.',
  'restart',
);

const rules: CrossRule[] = [
  {
    kind: 'different',
    keys: ['rx.roll.channel', 'rx.pitch.channel', 'rx.throttle.channel', 'rx.yaw.channel'],
    except: '',
    why: 'Two sticks cannot be on one receiver channel',
  },
  {
    kind: 'below',
    a: 'rx.low',
    b: 'rx.middle',
    gap: 100,
    why: 'The stick’s low end has to lie at least 100 us below its middle.',
  },
  {
    kind: 'below',
    a: 'rx.middle',
    b: 'rx.high',
    gap: 100,
    why: 'The stick’s middle has to lie at least 100 us below its high end.',
  },
  {
    kind: 'below',
    a: 'battery.empty',
    b: 'battery.low',
    gap: 0.05,
    why: 'The empty cell voltage has to lie below the low one.',
  },
  {
    kind: 'below',
    a: 'arm.from',
    b: 'arm.to',
    gap: 20,
    why: 'The arming band has to begin at least 20 us before it ends.',
  },
  {
    kind: 'below',
    a: 'nav.speedFloor',
    b: 'nav.speed',
    gap: 1,
    why: 'The least airspeed has to lie at least 1 m/s below the cruise speed.',
  },
  {
    kind: 'below',
    a: 'nav.speedFloor',
    b: 'return.speed',
    gap: 1,
    why: 'The least airspeed has to lie at least 1 m/s below the return speed.',
  },
];
for (let n = 1; n <= OUTPUT_COUNT; n++) {
  rules.push({
    kind: 'below',
    a: `out.${n}.low`,
    b: `out.${n}.centre`,
    gap: 50,
    why: `Output ${n}: the low end has to lie at least 50 us below the centre.`,
  });
  rules.push({
    kind: 'below',
    a: `out.${n}.centre`,
    b: `out.${n}.high`,
    gap: 50,
    why: `Output ${n}: the centre has to lie at least 50 us below the high end.`,
  });
}
for (const id of ['rate', 'level', 'return']) {
  rules.push({
    kind: 'below',
    a: `mode.${id}.from`,
    b: `mode.${id}.to`,
    gap: 20,
    why: 'A switch band has to begin at least 20 us before it ends.',
  });
}

/** Everything Pfad 3.1 can be told. */
export const pfadCatalogue = new Catalogue(entries, rules);
