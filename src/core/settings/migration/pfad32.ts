import { motorIds, surfaceIds } from '../../airframe/actuators.ts';
import type { SettingEntry } from '../catalogueSchema.ts';
import type { MigrationStep } from './rules.ts';

/** What the ends and the middle of all sticks were called. */
const sticksWere = {
  low: { label: 'Stick low end', meaning: 'Pulse of a stick at its lower end.' },
  middle: { label: 'Stick middle', meaning: 'Pulse of a stick at rest.' },
  high: { label: 'Stick high end', meaning: 'Pulse of a stick at its upper end.' },
} as const;

/** Settings of Pfad 3.1 as 3.2 has them. */
export const pfad31to32: MigrationStep = {
  from: '3.1',
  to: '3.2',
  rules: [
    {
      kind: 'added',
      keys: ['accel.{}.offset.{}', 'accel.{}.scale.{}'],
      why: 'From 3.2 each accelerometer is taught its own offsets and scales.',
    },
    {
      kind: 'added',
      keys: ['mount.levelRoll', 'mount.levelPitch'],
      why: 'From 3.2 what level means is kept apart from how the board is mounted.',
    },
    {
      kind: 'added',
      keys: ['compass.xx', 'compass.yy', 'compass.zz', 'compass.xy', 'compass.xz', 'compass.yz'],
      why: 'From 3.2 a compass is put right for iron that bends the field, not only for iron that adds to it.',
    },
    {
      kind: 'added',
      keys: ['compass.perAmp.{}'],
      why: 'From 3.2 what the motors’ current does to the compass is taken out.',
    },
    {
      kind: 'added',
      keys: ['compass.roll', 'compass.pitch', 'compass.yaw'],
      why: 'From 3.2 a compass on a mast may lie in another way than the board does.',
    },
    {
      kind: 'added',
      keys: [
        'battery.watch',
        'battery.emptyAction',
        'battery.reserve',
        'battery.chemistry',
        'battery.homeCurrent',
        'battery.climbCharge',
      ],
      why: 'From 3.2 the battery may be watched by its charge, or by what the way home takes.',
    },
    ...routeWas().map((entry, i, all) => ({
      kind: 'dropped' as const,
      entry,
      behind: i === 0 ? 'fence.action' : all[i - 1]!.key,
      why: 'From 3.2 a route is no part of the settings: it lies in places on earth and is kept apart from them. Lay it anew at Routes and fence.',
    })),
    {
      kind: 'added',
      keys: ['land.along', 'land.strip'],
      why: 'From 3.2 a wing may land along a strip.',
    },
    {
      kind: 'added',
      keys: ['mode.as-armed.{}', 'mode.from-home.{}'],
      why: 'From 3.2 a craft with rotors may be steered by the map.',
    },
    {
      kind: 'added',
      keys: ['gnss.systems'],
      why: 'From 3.2 the receiver is told which satellites to use.',
    },
    {
      kind: 'added',
      keys: ['flow.fitted', 'flow.scale'],
      why: 'From 3.2 an optical flow sensor keeps a craft over its place when it is low and has no fix.',
    },
    {
      kind: 'added',
      keys: ['bus.speed'],
      why: 'From 3.2 the bus for sensors outside the board may run slower.',
    },
    {
      kind: 'added',
      keys: ['pitot.zero'],
      why: 'From 3.2 what the airspeed sensor says under a cover is taken off.',
    },
    {
      kind: 'added',
      keys: ['mix.row.{}.{}'],
      why: 'From 3.2 outputs may follow anything, by rows of a mix of one’s own.',
    },
    {
      kind: 'choices',
      old: 'out.{}.drives',
      new: 'out.{}.drives',
      map: ['nothing', ...motorIds, ...surfaceIds].map((id) => [id, id] as const),
      why: 'From 3.2 an output may move a gimbal, a pan or tilt, lights or a release.',
    },
    {
      kind: 'added',
      keys: ['mix.rotors', 'out.{}.armRight', 'out.{}.armAhead', 'out.{}.turns'],
      why: 'From 3.2 a frame of any shape flies by where its rotors stand.',
    },
    ...(['low', 'middle', 'high'] as const).map((part) => ({
      kind: 'split' as const,
      old: `rx.${part}`,
      new: ['roll', 'pitch', 'throttle', 'yaw']
        .filter((stick) => part !== 'middle' || stick !== 'throttle')
        .map((stick) => `rx.${stick}.${part}`),
      was: sticksWere[part],
      why: 'From 3.2 each stick has ends and a middle of its own.',
    })),
    {
      kind: 'added',
      keys: ['flip.channel', 'flip.from', 'flip.to', 'flip.power'],
      why: 'From 3.2 rotors that lie on their back turn themselves over.',
    },
    {
      kind: 'added',
      keys: ['rx.levels', 'rx.wires'],
      why: 'From 3.2 a receiver may turn its levels round, or speak on one wire.',
    },
    {
      kind: 'added',
      keys: ['rx.quality.channel', 'rx.quality.none', 'rx.quality.full'],
      why: 'From 3.2 the link’s quality may come on a channel of the receiver, and a loss with it.',
    },
    {
      kind: 'added',
      keys: ['gyro.notchPower', 'gyro.notchHarmonics', 'gyro.poles'],
      why: 'From 3.2 a notch may follow the throttle in other ways than by its root, and have others at its multiples; the low-pass may be steeper.',
    },
    {
      kind: 'split',
      old: 'gyro.notchFollows',
      new: ['gyro.notchFollows'],
      was: {
        label: 'Notch follows the throttle',
        meaning:
          'Moves the notch with the square root of the throttle; its centre is then that at cruise or hover.',
      },
      why: 'From 3.2 by which power of the throttle is a setting of its own.',
    },
    {
      kind: 'added',
      keys: ['rate.by', 'rate.power', 'rate.forwardPower', 'rate.lowest', 'rate.highest', 'rate.throttleLag'],
      why: 'From 3.2 how gains go with speed is a law of its own, and they may go by the throttle.',
    },
    {
      kind: 'added',
      keys: ['rate.voltPower', 'rate.volts'],
      why: 'From 3.2 gains of rotors may make up for a battery that falls.',
    },
    {
      kind: 'added',
      keys: [
        'gyro.kind',
        'gyro.cutoff2',
        'gyro.yawCutoff',
        'gyro.notchTold',
        'gyro.track',
        'gyro.trackFrom',
        'gyro.trackTo',
        'gyro.trackQ',
      ],
      why: 'From 3.2 the gyro’s low-pass may be of the second order, another may stand behind it, yaw may have one of its own, and notches go by what motor controllers tell or look for lines themselves.',
    },
    {
      kind: 'added',
      keys: ['tune.channel', 'tune.axes', 'tune.share', 'tune.servo', 'tune.flies'],
      why: 'From 3.2 the board finds gains in flight.',
    },
    {
      kind: 'added',
      keys: ['rate.dPoles', 'rate.forwardLag', 'rate.forwardLead'],
      why: 'From 3.2 the low-pass of D may have two poles, and what is asked may be smoothed or brought forward for the feed-forward.',
    },
    {
      kind: 'added',
      keys: ['loop.rate'],
      why: 'From 3.2 the loops may run less often.',
    },
    {
      kind: 'added',
      keys: ['log.gyro'],
      why: 'From 3.2 the flight log may hold the raw gyro.',
    },
    {
      kind: 'added',
      keys: ['dial.{}.channel', 'dial.{}.moves', 'dial.{}.by', 'dial.{}.span', 'dial.{}.step'],
      why: 'From 3.2 a dial or a switch may move a setting in flight.',
    },
    {
      kind: 'added',
      keys: [
        'overlay.system',
        'overlay.channel',
        'overlay.units',
        'overlay.outgrown',
        'overlay.decimals.{}',
        'overlay.alarm.{}.{}',
        'overlay.words.{}',
        'overlay.a.{}',
        'overlay.b.{}',
        'overlay.c.{}',
        'light.{}',
        'video.{}',
        'hand.{}',
        'sound.{}',
        'find.{}',
        'tell.{}',
        'tell.{}.{}',
      ],
      why: 'From 3.2 the board writes over the pilot’s picture.',
    },
    {
      kind: 'added',
      keys: ['range.offset', 'range.scale'],
      why: 'From 3.2 a rangefinder is put right by a measured lift.',
    },
  ],
};

/** Points of a route as they were among the settings, in metres from home. */
function routeWas(): SettingEntry[] {
  const common = { group: 'Route', effect: 'now' } as const;
  const number = (
    key: string,
    label: string,
    unit: 'm' | 's',
    [min, max, usual, step]: readonly [number, number, number, number],
    meaning: string,
  ): SettingEntry => ({
    ...common,
    key,
    label,
    meaning,
    type: 'number',
    unit,
    min,
    max,
    step,
    default: usual,
  });
  const choice = (
    key: string,
    label: string,
    choices: readonly (readonly [string, string])[],
    usual: string,
    meaning: string,
  ): SettingEntry => ({
    ...common,
    ...{ key, label, meaning, type: 'choice', unit: 'none', default: usual },
    choices: choices.map(([value, name]) => ({ value, label: name })),
  });
  const points = Array.from({ length: 12 }, (_, i) => {
    const [at, name] = [`route.${i + 1}`, `Point ${i + 1}`];
    return [
      choice(
        `${at}.do`,
        name,
        [
          ['none', 'not used'],
          ['pass', 'fly over'],
          ['loiter', 'loiter for a time'],
          ['land', 'land'],
        ],
        'none',
        'What happens at this point of the route.',
      ),
      number(`${at}.north`, `${name} north`, 'm', [-20000, 20000, 0, 1], 'North of home.'),
      number(`${at}.east`, `${name} east`, 'm', [-20000, 20000, 0, 1], 'East of home.'),
      number(
        `${at}.height`,
        `${name} height`,
        'm',
        [15, 1500, 100, 5],
        'Above home; reached on the way to the point.',
      ),
      number(`${at}.time`, `${name} loiter time`, 's', [0, 3600, 30, 5], 'How long it loiters there.'),
    ];
  });
  return [
    ...points.flat(),
    choice(
      'route.end',
      'After the last point',
      [
        ['loiter', 'loiter there'],
        ['return', 'return home'],
      ],
      'return',
      'What follows the last point of the route.',
    ),
  ];
}
