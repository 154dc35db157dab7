import * as z from 'zod';

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

/** What each device asks of a port, when the wish does not say otherwise. */
export const serialDevices = {
  gnss: { baud: 38400, sends: true, listens: true, inverted: false, halfDuplex: false, single: false },
  'receiver-crsf': {
    baud: 420000,
    sends: true,
    listens: true,
    inverted: false,
    halfDuplex: false,
    single: true,
  },
  'receiver-sbus': {
    baud: 100000,
    sends: true,
    listens: false,
    inverted: true,
    halfDuplex: false,
    single: true,
  },
  'receiver-pulse-train': {
    baud: 0,
    sends: true,
    listens: false,
    inverted: false,
    halfDuplex: false,
    single: true,
  },
  telemetry: { baud: 57600, sends: true, listens: true, inverted: false, halfDuplex: false, single: false },
  'video-control': {
    baud: 9600,
    sends: true,
    listens: true,
    inverted: false,
    halfDuplex: true,
    single: true,
  },
  overlay: { baud: 115200, sends: true, listens: true, inverted: false, halfDuplex: false, single: true },
  'motor-telemetry': {
    baud: 115200,
    sends: true,
    listens: false,
    inverted: false,
    halfDuplex: false,
    single: true,
  },
  rangefinder: {
    baud: 115200,
    sends: true,
    listens: true,
    inverted: false,
    halfDuplex: false,
    single: false,
  },
  flow: { baud: 115200, sends: true, listens: true, inverted: false, halfDuplex: false, single: true },
  camera: { baud: 115200, sends: true, listens: true, inverted: false, halfDuplex: false, single: false },
} as const satisfies Record<string, SerialNeeds>;
export interface SerialNeeds {
  readonly baud: number;
  /** Bytes come from it, go to it. */
  readonly sends: boolean;
  readonly listens: boolean;
  readonly inverted: boolean;
  readonly halfDuplex: boolean;
  /** A board takes only one of these. */
  readonly single: boolean;
}
export type SerialDevice = keyof typeof serialDevices;

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

/** Addresses on I2C; on CAN each device has a number of its own. */
export const busDevices = {
  compass: 0x0d,
  airspeed: 0x28,
  barometer: 0x76,
  rangefinder: 0x29,
  flow: 0x42,
  'battery-monitor': 0x40,
  temperature: 0x48,
} as const;
export type BusDevice = keyof typeof busDevices;

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

/** What a device is called when spoken to a person. */
export const deviceNames: Readonly<Record<SerialDevice | BusDevice, string>> = {
  gnss: 'GNSS receiver',
  'receiver-crsf': 'CRSF receiver',
  'receiver-sbus': 'SBUS receiver',
  'receiver-pulse-train': 'pulse-train receiver',
  telemetry: 'telemetry radio',
  'video-control': 'video transmitter control',
  overlay: 'overlay',
  'motor-telemetry': 'motor telemetry',
  rangefinder: 'rangefinder',
  flow: 'optical flow sensor',
  camera: 'camera',
  compass: 'compass',
  airspeed: 'airspeed sensor',
  barometer: 'barometer',
  'battery-monitor': 'battery monitor',
  temperature: 'temperature sensor',
};

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
