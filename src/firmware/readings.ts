import { ByteQueue } from '#core/sensors/byteQueue.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import type { ImageTaking } from './imageTaking.ts';

/** What one gyro and accelerometer chip tells: rad/s and m/s^2 specific force, board axes. */
export interface ImuReading {
  readonly gyro: Float64Array;
  readonly accel: Float64Array;
  /** Samples so far; stands still when the chip is dead. */
  samples: number;
}

const imu = (): ImuReading => ({ gyro: new Float64Array(3), accel: new Float64Array(3), samples: 0 });

/** What a part with firmware of its own says it is. */
export interface PartSays {
  readonly on: string;
  readonly what: string;
  readonly product: string;
  readonly version: string;
}

/** What a motor controller says of itself with its frames. */
export interface ControllerTells {
  rpm: number;
  degC: number;
  amps: number;
}

/** A motor controller on the wire of an output, as far as it answers. */
export interface ControllerOnWire {
  /** Output that it hangs on, from 1. */
  readonly output: number;
  readonly product: string;
  readonly version: string;
  /** Model that its firmware is built for. */
  readonly target: string;
  /** It has power and understands digital frames. */
  readonly answers: boolean;
  /** It has power and a loader that can be reached, whether its firmware runs or not. */
  readonly loads: boolean;
  /** It tells of itself what `told` says. */
  readonly tells: boolean;
  readonly told: Readonly<ControllerTells>;
  /** What takes firmware for it. */
  readonly loader: ImageTaking;
  /** Has its motor turn the other way from now on, or as before; what stands in its memory stays. */
  turnRound(on: boolean): void;
  /** Has its motor give a tone without turning, until it is told otherwise. */
  sing(on: boolean): void;
  /** Leaves its firmware for its loader; its motor stands still from then on. */
  enterLoader(): void;
  /** Starts what is in its flash. @returns whether that is whole and for it */
  start(): boolean;
  /** What it says stands in its memory. */
  read(): Values;
  /** Asks it to keep a value; what it does not take it ignores. */
  write(key: string, value: SettingValue): void;
}

/** A slow sensor's newest value and how many came so far. */
export interface Sample {
  value: number;
  samples: number;
}

/**
 * Everything the board's chips and ports tell it, refilled in place each step: registers of chips on its buses,
 * voltages at its converters, bytes and edges at its serial ports.
 */
export class Readings {
  readonly imus: readonly [ImuReading, ImuReading] = [imu(), imu()];
  /** Pa */
  readonly baro: Sample = { value: 101325, samples: 0 };
  /** Pa of dynamic pressure */
  readonly pitot: Sample = { value: 0, samples: 0 };
  /** m */
  readonly range: Sample = { value: 0, samples: 0 };
  /** How fast the ground turns under the craft about its length and span, rad/s as a gyro would say it, and how well it is seen, 0 to 1. */
  readonly flow = { x: 0, y: 0, quality: 0, value: 0, samples: 0 };
  /** uT, board axes */
  readonly compass = { field: new Float64Array(3), samples: 0 };
  /** Bytes at the ports of the GNSS receiver and the radio receiver. */
  readonly gnss = new ByteQueue(1024);
  readonly receiver = new ByteQueue(256);
  /** us between the edges of a pulse train, oldest first; `edges` of them wait. */
  readonly train = new Float64Array(32);
  edges = 0;
  /** Protocol that the receiver's port is listened to for, while it is tried; empty otherwise. */
  listens: string = '';
  /** With levels turned round, on one wire, and at which port (0 the one set for it), while that is tried. */
  listensTurned = false;
  listensOneWire = false;
  listensPort = 0;
  /** Bytes heard at the pad of the GNSS port that the board sends on, and the newest of them. */
  gnssOnTx = 0;
  readonly gnssTx = new ByteQueue(256);
  /** Speed at which the GNSS port listens: set by the firmware, and by nobody else while it is above nought. */
  gnssPortBaud = 0;
  /** Bytes at the GNSS port whose stop bit was none. */
  gnssFraming = 0;
  /** Readings of the bus for sensors outside the board, and those that failed. */
  busReads = 0;
  busErrors = 0;
  /** Motor controllers, wherever one is soldered. */
  controllers: readonly ControllerOnWire[] = [];
  /** Parts that answered when they were asked for their firmware. */
  parts: readonly PartSays[] = [];
  /** Where flights are logged. */
  card: 'chip' | 'in' | 'missing' | 'full' = 'chip';
  /** Conversions of voltage and current so far. */
  powerSamples = 0;
  supplyV = 0;
  currentA = 0;
  servoRailV = 0;
}
