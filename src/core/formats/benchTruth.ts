import * as z from 'zod';
import { type Airframe, actuatorsOf, motorIds, surfaceIds } from '../airframe/airframe.ts';
import type { Values } from '../settings/catalogue.ts';

const channel = z.number().int().min(1).max(16);

/**
 * How a craft is really built: what hangs on which pad, which way each pushrod goes, how the transmitter
 * orders its channels. Only the bench and rehearsals read it; the settings have to match it.
 */
export const benchTruthSchema = z.object({
  pads: z
    .array(
      z.object({
        output: z.number().int().min(1).max(32),
        actuator: z.enum([...motorIds, ...surfaceIds]),
        /** 1: a longer pulse moves the trailing edge down (rudder: left); -1: the other way. */
        direction: z.union([z.literal(1), z.literal(-1)]),
      }),
    )
    .max(32),
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
  gnssBaud: z.number().int().min(1200).max(1_000_000),
});
export type BenchTruth = z.infer<typeof benchTruthSchema>;

export const usualChannels: BenchTruth['channels'] = {
  roll: 1,
  pitch: 2,
  throttle: 3,
  yaw: 4,
  arm: 5,
  attitude: 6,
  navigation: 7,
};

/** A truth for a craft of which none is known: everything built just as the settings say. */
export function truthFromSettings(airframe: Airframe, values: Values): BenchTruth {
  const fitted = new Set<string>(actuatorsOf(airframe));
  const pads: BenchTruth['pads'] = [];
  for (let n = 1; n <= 32; n++) {
    const drives = values[`out.${n}.drives`];
    if (typeof drives !== 'string' || !fitted.has(drives)) continue;
    const actuator = drives as BenchTruth['pads'][number]['actuator'];
    pads.push({ output: n, actuator, direction: values[`out.${n}.reversed`] === true ? -1 : 1 });
  }
  const at = (key: string, usual: number) => {
    const v = values[key];
    return typeof v === 'number' && v >= 1 && v <= 16 ? v : usual;
  };
  return {
    pads,
    channels: {
      roll: at('rx.roll.channel', 1),
      pitch: at('rx.pitch.channel', 2),
      throttle: at('rx.throttle.channel', 3),
      yaw: at('rx.yaw.channel', 4),
      arm: at('arm.channel', 5),
      attitude: at('mode.level.channel', 6),
      navigation: at('mode.return.channel', 7),
    },
    gnssBaud: Number(values['gnss.baud'] ?? 38400),
  };
}
