import { motorIds, surfaceIds } from '../../airframe/airframe.ts';
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
        'battery.reserve',
        'battery.chemistry',
        'battery.homeCurrent',
        'battery.climbCharge',
      ],
      why: 'From 3.2 the battery may be watched by its charge, or by what the way home takes.',
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
      keys: ['range.offset', 'range.scale'],
      why: 'From 3.2 a rangefinder is put right by a measured lift.',
    },
  ],
};
