/** Devices that hang on a board's ports and buses, what each asks of them, and what they are called. */

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
