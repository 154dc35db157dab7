import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import type { BusDevice } from './deviceKinds.ts';
import type { BusWish } from './wishes.ts';

/** How much of a wire's time what is asked of it takes. */

/** Bits on a serial wire for a byte: start, eight, stop. */
const BITS = 10;
/** A wire fuller than this falls behind with the first hiccup. */
export const MOST_SHARE = 0.85;

/** Longest sentences of NMEA 0183 as receivers send them, bytes with `$` and line end. */
const RMC = 76;
const GGA = 80;
const VTG = 44;
const GSA = 66;
const GSV = 72;
const SATELLITES_A_GSV = 4;
/** Satellites in view under an open sky, at most: of one system, of two, of all. */
const IN_VIEW = { one: [8], two: [8, 6], all: [8, 6, 6] } as const;
export type Systems = keyof typeof IN_VIEW;

export interface WireLoad {
  /** Bytes a second. */
  readonly wanted: number;
  readonly room: number;
}

/** What a GNSS receiver sends: position and speed with each solution, satellites in view once a second. */
export function gnssLoad(rateHz: number, view: boolean, baud: number, systems: Systems = 'all'): WireLoad {
  const solution = RMC + GGA + VTG;
  const ofSystem = (n: number) => GSA + GSV * Math.ceil(n / SATELLITES_A_GSV);
  const sky = view ? IN_VIEW[systems].reduce((sum, n) => sum + ofSystem(n), 0) : 0;
  return { wanted: rateHz * solution + sky, room: baud / BITS };
}

/** The same from settings. */
export function gnssLoadOf(values: Values): WireLoad {
  return gnssLoad(
    Number(settingOf(values, 'gnss.rate') ?? 5),
    settingOf(values, 'gnss.view') !== false,
    Number(settingOf(values, 'gnss.baud')),
    settingOf(values, 'gnss.systems') ?? 'all',
  );
}

/** Clock of I2C here, Hz; nine bits of it carry a byte. */
const I2C_HZ = 400_000;
const I2C_BITS = 9;
/** Start, address, register, repeated start and address of a reading, bytes. */
const I2C_OVERHEAD = 4;

/** Readings a second of each device on a bus, and the bytes of one. */
const readings: Readonly<Record<BusDevice, readonly [hz: number, bytes: number]>> = {
  compass: [100, 7],
  airspeed: [100, 4],
  barometer: [50, 6],
  rangefinder: [50, 4],
  flow: [100, 22],
  'battery-monitor': [20, 6],
  temperature: [5, 2],
};

/**
 * Share of an I2C bus's time that its devices take, 0..1 and more.
 * @param onBoard soldered there, by name @param clockHz of the bus
 */
export function i2cShare(devices: readonly BusWish[], onBoard: readonly string[], clockHz = I2C_HZ): number {
  const names = [...devices.map((d) => d.device), ...onBoard.filter((d) => d in readings)] as BusDevice[];
  const bits = names.reduce((sum, name) => {
    const [hz, bytes] = readings[name];
    return sum + hz * (bytes + I2C_OVERHEAD) * I2C_BITS;
  }, 0);
  return bits / clockHz;
}
