import type { MigrationRule, MigrationStep } from './rules.ts';

const RAD = 180 / Math.PI;

/** 2.8 kept gains as microseconds of servo pulse per degree a second; full deflection is 500 us. */
const gain = (part: string): MigrationRule => ({
  kind: 'scale',
  old: `gain.{}.${part}`,
  new: `rate.{}.${part}`,
  factor: RAD / 500,
  formula: 'us per °/s × (180/π) / 500',
  why: 'Gains are shares of full deflection per rad/s since 3.0, no longer microseconds per degree a second.',
  kept: { unit: 'none', step: 0.001 },
});

const kilometresAnHour = (old: string, now: string): MigrationRule => ({
  kind: 'scale',
  old,
  new: now,
  factor: 1 / 3.6,
  formula: 'km/h / 3.6',
  why: 'Speeds are in metres a second since 3.0.',
  kept: { unit: 'none', step: 0.1 },
});

const percent = (old: string, now: string): MigrationRule => ({
  kind: 'scale',
  old,
  new: now,
  factor: 0.01,
  formula: '% / 100',
  why: 'Shares go from 0 to 1 since 3.0.',
  kept: { unit: 'percent', step: 1, integer: true },
});

const tenths = (old: string, now: string): MigrationRule => ({
  kind: 'scale',
  old,
  new: now,
  factor: 0.1,
  formula: 'tenths of a second / 10',
  why: 'Times are in seconds since 3.0.',
  kept: { unit: 'none', step: 1, integer: true },
});

const renamed = (...pairs: readonly (readonly [string, string])[]): MigrationRule[] =>
  pairs.map(([old, now]) => ({ kind: 'rename', old, new: now }));

/** Settings of Pfad 2.8 as 3.0 has them. */
export const pfad28to30: MigrationStep = {
  from: '2.8',
  to: '3.0',
  rules: [
    ...renamed(
      ['servo.{}.job', 'out.{}.drives'],
      ['servo.{}.flip', 'out.{}.reversed'],
      ['servo.{}.short', 'out.{}.low'],
      ['servo.{}.rest', 'out.{}.centre'],
      ['servo.{}.long', 'out.{}.high'],
      ['stick.short', 'rx.low'],
      ['stick.rest', 'rx.middle'],
      ['stick.long', 'rx.high'],
      ['stick.dead', 'rx.deadband'],
      ['start.channel', 'arm.channel'],
      ['start.from', 'arm.from'],
      ['start.to', 'arm.to'],
      ['limit.bank', 'level.bank'],
      ['limit.climb', 'level.up'],
      ['limit.dive', 'level.down'],
      ['home.height', 'return.height'],
      ['home.circle', 'loiter.radius'],
      ['pack.cells', 'battery.cells'],
      ['pack.capacity', 'battery.capacity'],
      ['board.roll', 'mount.roll'],
      ['board.pitch', 'mount.pitch'],
      ['board.yaw', 'mount.yaw'],
    ),
    {
      kind: 'split',
      old: 'servo.rate',
      new: ['timer.1.rate', 'timer.2.rate', 'timer.3.rate', 'timer.4.rate', 'timer.5.rate'],
      why: 'Each timer has a rate of its own since 3.0.',
    },
    gain('p'),
    gain('i'),
    gain('forward'),
    kilometresAnHour('speed.cruise', 'nav.speed'),
    kilometresAnHour('speed.least', 'nav.speedFloor'),
    kilometresAnHour('speed.home', 'return.speed'),
    percent('throttle.cruise', 'motor.cruise'),
    percent('throttle.most', 'motor.max'),
    percent('throttle.idle', 'motor.idle'),
    percent('twin.share', 'mix.differential'),
    percent('stick.soft', 'rx.expo'),
    tenths('lost.wait', 'lost.notice'),
    tenths('lost.level', 'lost.guard'),
    {
      kind: 'inverse',
      old: 'filter.gyro',
      new: 'gyro.cutoff',
      product: 500 / Math.PI,
      formula: '1000 / (2π × ms)',
      why: 'Filters are set by their cut-off in Hz since 3.0, no longer by a time constant in ms.',
      kept: { unit: 'none', step: 0.01 },
    },
    {
      kind: 'share',
      old: 'pack.low',
      new: 'battery.low',
      by: 'battery.cells',
      formula: 'V of the pack / cells',
      why: 'Voltage marks are for one cell since 3.0.',
      kept: { unit: 'v', step: 0.01 },
    },
    {
      kind: 'share',
      old: 'pack.empty',
      new: 'battery.empty',
      by: 'battery.cells',
      formula: 'V of the pack / cells',
      why: 'Voltage marks are for one cell since 3.0.',
      kept: { unit: 'v', step: 0.01 },
    },
    {
      kind: 'choices',
      old: 'lost.do',
      new: 'lost.action',
      map: [
        ['on', 'nothing'],
        ['off', 'cut'],
        ['sink', 'glide'],
        ['home', 'return'],
      ],
    },
    {
      kind: 'choices',
      old: 'home.climb',
      new: 'return.climb',
      map: [
        ['first', 'climb-first'],
        ['under-way', 'climb-on-the-way'],
        ['never', 'keep-height'],
      ],
      why: '2.8 knows no "at least".',
    },
    {
      kind: 'choices',
      old: 'craft.kind',
      new: 'craft.kind',
      map: [
        ['conventional', 'conventional'],
        ['v-tail', 'v-tail'],
        ['wing', 'wing'],
        ['delta', 'delta'],
      ],
      why: '2.8 flies wings only.',
    },
    {
      kind: 'choices',
      old: 'log.on',
      new: 'log.rate',
      map: [
        [false, '0'],
        [true, '10'],
      ],
      why: '2.8 logs ten times a second or not at all.',
    },
    {
      kind: 'unfold',
      entry: {
        key: 'stick.order',
        group: 'Receiver',
        label: 'Order of the sticks',
        meaning: 'Which stick comes on which of the first four channels.',
        type: 'choice',
        unit: 'none',
        choices: [
          { value: 'roll-pitch-throttle-yaw', label: 'roll, pitch, throttle, yaw' },
          { value: 'throttle-roll-pitch-yaw', label: 'throttle, roll, pitch, yaw' },
          { value: 'roll-pitch-yaw-throttle', label: 'roll, pitch, yaw, throttle' },
        ],
        default: 'roll-pitch-throttle-yaw',
        effect: 'now',
      },
      map: {
        'roll-pitch-throttle-yaw': order(1, 2, 3, 4),
        'throttle-roll-pitch-yaw': order(2, 3, 1, 4),
        'roll-pitch-yaw-throttle': order(1, 2, 4, 3),
      },
      why: 'Each stick has a channel of its own since 3.0.',
    },
    {
      kind: 'dropped',
      entry: {
        key: 'loop.rate',
        group: 'Rate loops',
        label: 'Loop rate',
        meaning: 'How often the loops run.',
        type: 'choice',
        unit: 'none',
        choices: [
          { value: '250', label: '250 Hz' },
          { value: '500', label: '500 Hz' },
        ],
        default: '500',
        effect: 'restart',
      },
      why: 'Pfad 3 always runs its loops a thousand times a second.',
    },
    {
      kind: 'dropped',
      entry: {
        key: 'pack.beep',
        group: 'Sensors',
        label: 'Beep when low',
        meaning: 'Sounds the buzzer below the low mark.',
        type: 'flag',
        unit: 'none',
        default: true,
        effect: 'now',
      },
      why: 'The warning is always sounded since 3.0.',
    },
    {
      kind: 'added',
      keys: [
        'hover.{}',
        'mode.hover.{}',
        'mode.position.{}',
        'mode.course.{}',
        'mode.route.{}',
        'mode.launch.{}',
        'mix.spinFlipped',
        'mix.flaperonFlap',
        'route.{}.{}',
        'route.end',
        'launch.{}',
        'fence.{}',
        'out.{}.speed',
        'rate.{}.d',
        'rate.dCutoff',
      ],
      why: 'Came with 3.0.',
    },
    {
      kind: 'redefault',
      key: 'return.satellites',
      was: 5,
      now: 6,
      why: 'With five satellites the place may be wrong by far; the return needs it right.',
    },
  ],
};

function order(roll: number, pitch: number, throttle: number, yaw: number) {
  return {
    'rx.roll.channel': roll,
    'rx.pitch.channel': pitch,
    'rx.throttle.channel': throttle,
    'rx.yaw.channel': yaw,
  };
}
