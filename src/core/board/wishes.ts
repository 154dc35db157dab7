import * as z from 'zod';
import {
  type BusDevice,
  busDevices,
  type SerialDevice,
  type SerialNeeds,
  serialDevices,
} from './deviceKinds.ts';

/** What a person wants to connect. What is soldered already names its place and is left there if that can be. */

export const outputKinds = ['servo-pwm', 'motor-pwm', 'dshot300', 'dshot600', 'led'] as const;
export type OutputKind = (typeof outputKinds)[number];

/** So many of each kind can be wished for. */
const MOST_WISHES = { outputs: 32, serial: 16, buses: 16 } as const;

const name = z.string().min(1).max(60);
const outputWishSchema = z.object({
  name,
  kind: z.enum(outputKinds),
  /** Pulses a second; only for pulses. */
  rateHz: z.number().int().min(50).max(500).optional(),
  /** Output it is soldered to. */
  output: z.number().int().min(1).max(32).optional(),
});
export type OutputWish = z.infer<typeof outputWishSchema>;

const serialWishSchema = z.object({
  device: z.enum(Object.keys(serialDevices) as [SerialDevice, ...SerialDevice[]]),
  baud: z.number().int().min(1200).max(2_000_000).optional(),
  /** Its levels are turned round from what such a device usually has; it has one wire both ways. */
  turned: z.boolean().optional(),
  oneWire: z.boolean().optional(),
  /** Port it is soldered to. */
  port: z.string().max(20).optional(),
});
export type SerialWish = z.infer<typeof serialWishSchema>;

const busWishSchema = z.object({
  device: z.enum(Object.keys(busDevices) as [BusDevice, ...BusDevice[]]),
  kind: z.enum(['i2c', 'can']),
  address: z.number().int().min(1).max(127).optional(),
  /** Bus it is soldered to. */
  bus: z.string().max(20).optional(),
});
export type BusWish = z.infer<typeof busWishSchema>;

export const wishesSchema = z.object({
  outputs: z.array(outputWishSchema).max(MOST_WISHES.outputs).default([]),
  serial: z.array(serialWishSchema).max(MOST_WISHES.serial).default([]),
  buses: z.array(busWishSchema).max(MOST_WISHES.buses).default([]),
  /** Port that carries the link to this application; nothing else is put there. */
  linkPort: z.string().max(20).optional(),
});
export type Wishes = z.infer<typeof wishesSchema>;

export function needsOf(wish: SerialWish): SerialNeeds {
  const usual = serialDevices[wish.device];
  return {
    ...usual,
    baud: wish.baud ?? usual.baud,
    inverted: usual.inverted !== (wish.turned === true),
    halfDuplex: usual.halfDuplex || wish.oneWire === true,
  };
}

export function addressOf(wish: BusWish): number {
  return wish.address ?? busDevices[wish.device];
}

/** What all outputs of a timer have to have in common. */
export function protocolOf(wish: OutputWish): string {
  if (wish.kind === 'led') return 'LED colours';
  if (needsFrames(wish.kind)) return wish.kind.replace('dshot', 'DShot ');
  return `pulses at ${wish.rateHz ?? (wish.kind === 'servo-pwm' ? 50 : 400)} Hz`;
}

/** Digital frames, which not every timer can send. */
export function needsFrames(kind: OutputKind): boolean {
  return kind === 'led' || kind.startsWith('dshot');
}
