import * as z from 'zod';
import {
  type ActuatorId,
  actuatorIds,
  actuatorNames,
  isFitting,
  motorIds,
  surfaceIds,
} from '../airframe/actuators.ts';
import { type Airframe, actuatorsOf, isRotorcraft } from '../airframe/airframe.ts';
import type { Assignment } from '../board/solve.ts';
import { kolkTargets } from '../controllers/kolk.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';

const three = z.tuple([z.number(), z.number(), z.number()]);
const channel = z.number().int().min(1).max(16);
const lean = z.number().min(-60).max(60);
const trim = z.number().min(-200).max(200);

/**
 * How a craft is really built: what hangs on which pad, which way each pushrod goes, how the transmitter
 * orders its channels. Only the bench and rehearsals read it; the settings have to match it.
 */
export const benchTruthSchema = z.object({
  pads: z
    .array(
      z.object({
        output: z.number().int().min(1).max(32),
        actuator: z.enum(actuatorIds),
        /** 1: a longer pulse moves the trailing edge down (rudder: left); -1: the other way. */
        direction: z.union([z.literal(1), z.literal(-1)]),
      }),
    )
    .max(32),
  /** Motor controllers with what stands in their own memory; those that are not named stand as they come. */
  controllers: z
    .array(
      z.object({
        motor: z.enum(motorIds),
        /** A model that understands pulses only answers nobody. */
        pulsesOnly: z.boolean(),
        /** Model that firmware is built for, and the firmware that runs; empty while it waits in its loader for a whole one. */
        target: z.enum(kolkTargets).default('kolk-30'),
        version: z.string().max(20).default('16.2'),
        /** Pulses that it takes for standing still and for full, us. */
        ends: z
          .object({ lowUs: z.number().min(700).max(1500), highUs: z.number().min(1500).max(2300) })
          .default({ lowUs: 1000, highUs: 2000 }),
        settings: z.record(z.string().max(20), z.union([z.number(), z.boolean(), z.string().max(20)])),
      }),
    )
    .max(8)
    .default([]),
  /** Rods that were measured or turned; the others are long, and leave their surface flush with the servo at its middle. */
  linkages: z
    .array(
      z.object({
        surface: z.enum(surfaceIds),
        armMm: z.number().min(2).max(100),
        hornMm: z.number().min(2).max(100),
        rodMm: z.number().min(2).max(1000),
        /** The servo's shaft from the hinge; negative is ahead of it. */
        shaftAftMm: z.number().min(-1000).max(1000),
        shaftUpMm: z.number().min(-200).max(200),
        /** How far they lean aft of square with the servo at its middle and the surface flush. */
        armLeanDeg: lean,
        hornLeanDeg: lean,
        /** Play at the surface. */
        playDeg: z.number().min(0).max(8),
      }),
    )
    .max(12)
    .default([]),
  /** Receiver channel of each stick and switch. */
  channels: z.object({
    roll: channel,
    pitch: channel,
    throttle: channel,
    yaw: channel,
    arm: channel,
    attitude: channel,
    navigation: channel,
  }),
  /** Port that the receiver and the GNSS receiver are soldered to. */
  ports: z
    .object({ receiver: z.number().int().min(1).max(16), gnss: z.number().int().min(1).max(16) })
    .default({ receiver: 2, gnss: 3 }),
  gnssBaud: z.number().int().min(1200).max(1_000_000),
  gnss: z
    .object({
      /** What the receiver remembers of the sky when it is switched on. */
      start: z.enum(['cold', 'warm', 'hot']),
      /** Its RX and TX are on the wrong pads. */
      swapped: z.boolean(),
      hz: z.number().min(1).max(10),
    })
    .default({ start: 'warm', swapped: false, hz: 5 }),
  receiver: z
    .object({
      protocol: z.enum(['crsf', 'sbus', 'pulse-train']),
      /** What it does when it hears its transmitter no more: `flag` says so in its frames, where its protocol can. */
      onLoss: z.enum(['stop', 'hold', 'preset', 'flag']),
      /** For how long it says the last values again before it does so, s. */
      afterS: z.number().min(0).max(3).optional(),
      /** Its levels are turned round from what its protocol has; it speaks and listens on one wire. */
      turned: z.boolean().optional(),
      oneWire: z.boolean().optional(),
      /** It was never taught its transmitter. */
      unbound: z.boolean().optional(),
      /** A channel on which it puts how well it hears, and its pulses for not at all and for all. */
      quality: z
        .object({
          channel: z.number().int().min(5).max(16),
          noneUs: z.number().min(800).max(2200),
          fullUs: z.number().min(800).max(2200),
        })
        .optional(),
    })
    .default({ protocol: 'crsf', onLoss: 'stop' }),
  /** How the transmitter was set up, and how its sticks are worn. */
  transmitter: z
    .object({
      /** Of the full travel, at either end. */
      travel: z.number().min(0.3).max(1.3),
      /** Of the travel that the sticks but the throttle have with the rates switch low; left out, there is no such switch. */
      lowRate: z.number().min(0.2).max(1).optional(),
      /** Channels that the transmitter sends the wrong way round. */
      reversed: z
        .array(z.enum(['roll', 'pitch', 'throttle', 'yaw']))
        .max(4)
        .optional(),
      /** Channel of a dial. */
      dial: z.number().int().min(5).max(16).optional(),
      /** The attitude switch and that of the way home are mixed on the former’s channel. */
      mixed: z.boolean().optional(),
      /** Noise of its switches, one sigma, us. */
      switchNoiseUs: z.number().min(0).max(40).optional(),
      /** Trims that were left on, us. */
      trimUs: z.object({ roll: trim, pitch: trim, yaw: trim }),
      /** Noise of a stick, one sigma, us. */
      noiseUs: z.number().min(0).max(40),
    })
    .default({ travel: 1, trimUs: { roll: 0, pitch: 0, yaw: 0 }, noiseUs: 0 }),
  fitted: z
    .object({
      airspeed: z.boolean(),
      compass: z.boolean(),
      rangefinder: z.boolean(),
      flow: z.boolean().default(false),
    })
    .default({ airspeed: true, compass: false, rangefinder: false, flow: false }),
  /** How the board sits in the craft, degrees. */
  mount: z
    .object({ rollDeg: z.number(), pitchDeg: z.number(), yawDeg: z.number() })
    .default({ rollDeg: 0, pitchDeg: 0, yawDeg: 0 }),
  /** True voltage over what the board's converter says. */
  voltageScale: z.number().min(0.5).max(2).default(1),
  /** True current is scale x (what the converter says - offset), A. */
  currentSense: z
    .object({ scale: z.number().min(0.5).max(2), offset: z.number().min(-5).max(5) })
    .default({ scale: 1, offset: 0 }),
  /** Each accelerometer's own error: force is scale x (what it says - offset), m/s^2, chip axes. */
  accels: z
    .array(z.object({ offset: three, scale: three }))
    .max(2)
    .default([]),
  /** How the compass is turned against the board, degrees. */
  compassMount: z
    .object({ rollDeg: z.number(), pitchDeg: z.number(), yawDeg: z.number() })
    .default({ rollDeg: 0, pitchDeg: 0, yawDeg: 0 }),
  /** True airspeed over what the tube's pressure says. */
  pitotScale: z.number().min(0.7).max(1.4).default(1),
  /** Angular rate of the ground over what the optical flow sensor says of it. */
  flowScale: z.number().min(0.7).max(1.4).default(1),
  /** The bus for sensors outside the board has the resistors that pull it up. */
  pullUps: z.boolean().default(true),
  /** How the tube of the airspeed is: some leak, some are blocked by an insect. */
  pitotTube: z.enum(['whole', 'leaks', 'blocked']).default('whole'),
  /** What its pressure sensor says in still air, Pa. */
  pitotZero: z.number().min(-100).max(100).default(0),
  /** The barometer is kept from the airflow. */
  baroShielded: z.boolean().default(true),
  /** Field of the craft itself at the compass, uT, board axes; and per ampere. */
  iron: z
    .object({ x: z.number(), y: z.number(), z: z.number(), perAmp: z.number() })
    .default({ x: 0, y: 0, z: 0, perAmp: 0.02 }),
});
export type BenchTruth = z.infer<typeof benchTruthSchema>;
export type BuiltLinkage = BenchTruth['linkages'][number];

export const usualChannels: BenchTruth['channels'] = {
  roll: 1,
  pitch: 2,
  throttle: 3,
  yaw: 4,
  arm: 5,
  attitude: 6,
  navigation: 7,
};

/** Devices as a careful builder fits them; the rest of a truth is how the craft is wired. */
export const usualDevices: Omit<BenchTruth, 'pads' | 'channels' | 'fitted'> = {
  linkages: [],
  controllers: [],
  ports: { receiver: 2, gnss: 3 },
  gnssBaud: 38400,
  gnss: { start: 'warm', swapped: false, hz: 5 },
  receiver: { protocol: 'crsf', onLoss: 'stop' },
  transmitter: { travel: 1, trimUs: { roll: 0, pitch: 0, yaw: 0 }, noiseUs: 0 },
  mount: { rollDeg: 0, pitchDeg: 0, yawDeg: 0 },
  voltageScale: 1,
  currentSense: { scale: 1, offset: 0 },
  accels: [],
  compassMount: { rollDeg: 0, pitchDeg: 0, yawDeg: 0 },
  pitotScale: 1,
  flowScale: 1,
  pullUps: true,
  pitotTube: 'whole',
  pitotZero: 0,
  baroShielded: true,
  iron: { x: 0, y: 0, z: 0, perAmp: 0.02 },
};

/**
 * The craft soldered anew as an assignment has it: servos and motors it names go to their pads, receivers to their
 * ports; what the craft carries since then is soldered on, and what it carries no more comes off. Which way a pushrod goes does
 * not change by that.
 */
export function solderedAs(airframe: Airframe, truth: BenchTruth, assignment: Assignment): BenchTruth {
  const outputOf = (id: ActuatorId) =>
    assignment.outputs.find((a) => a.wish.name === actuatorNames[id])?.output;
  const { fittings = [] } = airframe;
  const kept = truth.pads.filter((p) => !isFitting(p.actuator) || fittings.includes(p.actuator));
  const added = fittings.flatMap((actuator) => {
    const output = outputOf(actuator);
    return output === undefined || kept.some((p) => p.actuator === actuator)
      ? []
      : [{ output, actuator, direction: 1 as const }];
  });
  const pads = [...kept.map((p) => ({ ...p, output: outputOf(p.actuator) ?? p.output })), ...added];
  const portOf = (device: RegExp, usual: number) => {
    const n = assignment.serial.find((s) => device.test(s.wish.device))?.port?.match(/\d+$/)?.[0];
    return n ? Number(n) : usual;
  };
  const ports = {
    receiver: portOf(/^receiver-/, truth.ports.receiver),
    gnss: portOf(/^gnss$/, truth.ports.gnss),
  };
  return { ...truth, pads, ports };
}

const axes = (of: (axis: 'x' | 'y' | 'z') => number): [number, number, number] => [of('x'), of('y'), of('z')];

/** A truth for a craft of which none is known: everything built just as the settings say. */
export function truthFromSettings(airframe: Airframe, values: Values): BenchTruth {
  const fitted = new Set<string>(actuatorsOf(airframe));
  const pads: BenchTruth['pads'] = [];
  for (let n = 1; n <= 32; n++) {
    const drives = settingOf(values, `out.${n}.drives`);
    if (typeof drives !== 'string' || !fitted.has(drives)) continue;
    const actuator = drives as BenchTruth['pads'][number]['actuator'];
    pads.push({ output: n, actuator, direction: settingOf(values, `out.${n}.reversed`) === true ? -1 : 1 });
  }
  const at = (key: string, usual: number) => {
    const v = values[key];
    return typeof v === 'number' && v >= 1 && v <= 16 ? v : usual;
  };
  const number = (key: string, usual: number) =>
    typeof values[key] === 'number' ? (values[key] as number) : usual;
  const portOf = (use: string, usual: number) => {
    for (let n = 1; n <= 16; n++) if (settingOf(values, `port.${n}.use`) === use) return n;
    return usual;
  };
  return {
    ...usualDevices,
    pads,
    ports: { receiver: portOf('receiver', 2), gnss: portOf('gnss', 3) },
    channels: {
      roll: at('rx.roll.channel', 1),
      pitch: at('rx.pitch.channel', 2),
      throttle: at('rx.throttle.channel', 3),
      yaw: at('rx.yaw.channel', 4),
      arm: at('arm.channel', 5),
      attitude: at('mode.level.channel', 6),
      navigation: at('mode.return.channel', 7),
    },
    gnssBaud: Number(settingOf(values, 'gnss.baud') ?? 38400),
    receiver: {
      protocol: settingOf(values, 'rx.protocol') ?? 'crsf',
      ...(settingOf(values, 'rx.levels') === 'turned' ? { turned: true } : {}),
      ...(settingOf(values, 'rx.wires') === 'one' ? { oneWire: true } : {}),
      onLoss: 'stop',
    },
    fitted: {
      airspeed: settingOf(values, 'pitot.fitted') !== false && !isRotorcraft(airframe),
      compass: settingOf(values, 'compass.fitted') === true,
      rangefinder: settingOf(values, 'range.fitted') === true,
      flow: settingOf(values, 'flow.fitted') === true,
    },
    mount: {
      rollDeg: number('mount.roll', 0),
      pitchDeg: number('mount.pitch', 0),
      yawDeg: number('mount.yaw', 0),
    },
    accels: ([1, 2] as const).map((chip) => ({
      offset: axes((a) => number(`accel.${chip}.offset.${a}`, 0)),
      scale: axes((a) => number(`accel.${chip}.scale.${a}`, 1)),
    })),
    compassMount: {
      rollDeg: number('compass.roll', 0),
      pitchDeg: number('compass.pitch', 0),
      yawDeg: number('compass.yaw', 0),
    },
    iron: {
      x: number('compass.x', 0),
      y: number('compass.y', 0),
      z: number('compass.z', 0),
      perAmp: usualDevices.iron.perAmp,
    },
  };
}
