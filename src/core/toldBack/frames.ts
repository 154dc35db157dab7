import { crc8 } from '../sensors/receiverFrames.ts';
import { FRAME_AROUND, MODE_LETTERS, sensorOf, type ToldId, toldSensors } from './sensors.ts';

/** Frames of CRSF as they go back to the transmitter, and read again. Numbers travel with the high byte first. */

/** What is told; SI, radians, degrees of latitude and longitude. A number that is not known travels as nought. */
export interface Told {
  readonly lat: number;
  readonly lon: number;
  readonly groundMps: number;
  readonly courseRad: number;
  readonly heightM: number;
  readonly satellites: number;
  readonly volts: number;
  readonly amps: number;
  readonly usedMah: number;
  /** 0..1 */
  readonly leftShare: number;
  readonly mode: string;
  readonly climbMps: number;
  readonly airspeedMps: number;
  readonly rollRad: number;
  readonly pitchRad: number;
  readonly yawRad: number;
}

const SYNC = 0xc8;
/** Heights travel so much higher, so that none is below nought, m. */
const HEIGHT_UP_M = 1000;
const KMH = 3.6;

const within = (v: number, low: number, high: number) =>
  Number.isFinite(v) ? Math.min(high, Math.max(low, Math.round(v))) : Math.min(high, Math.max(low, 0));

/** Each writes one number at a place, the high byte first, and gives the place behind it. */
function u8(into: Uint8Array, at: number, v: number): number {
  into[at] = within(v, 0, 0xff);
  return at + 1;
}
function u16(into: Uint8Array, at: number, v: number): number {
  const n = within(v, 0, 0xffff);
  into[at] = n >> 8;
  into[at + 1] = n & 0xff;
  return at + 2;
}
function i16(into: Uint8Array, at: number, v: number): number {
  return u16(into, at, within(v, -0x8000, 0x7fff) & 0xffff);
}
function i32(into: Uint8Array, at: number, v: number): number {
  const n = within(v, -0x80000000, 0x7fffffff);
  return u16(into, u16(into, at, (n >> 16) & 0xffff), n & 0xffff);
}

/**
 * Writes one frame. Allocates nothing.
 * @param into room for `FRAME_AROUND` bytes and what the frame carries at most
 * @returns its length in bytes
 */
export function writeTold(id: ToldId, t: Told, into: Uint8Array): number {
  let at = 3;
  switch (id) {
    case 'place':
      at = i32(into, at, t.lat * 1e7);
      at = i32(into, at, t.lon * 1e7);
      at = u16(into, at, t.groundMps * KMH * 10);
      at = u16(into, at, (((t.courseRad * 180) / Math.PI + 360) % 360) * 100);
      at = u16(into, at, t.heightM + HEIGHT_UP_M);
      at = u8(into, at, t.satellites);
      break;
    case 'battery': {
      at = u16(into, at, t.volts * 10);
      at = u16(into, at, t.amps * 10);
      const used = within(t.usedMah, 0, 0xffffff);
      at = u8(into, at, used >> 16);
      at = u16(into, at, used & 0xffff);
      at = u8(into, at, 100 * t.leftShare);
      break;
    }
    case 'mode':
      for (let i = 0; i < Math.min(MODE_LETTERS, t.mode.length); i++)
        into[at++] = t.mode.charCodeAt(i) & 0x7f;
      into[at++] = 0;
      break;
    case 'climb':
      at = i16(into, at, t.climbMps * 100);
      break;
    case 'air':
      at = u16(into, at, t.airspeedMps * KMH * 10);
      break;
    case 'attitude':
      // Ten thousandths of a radian, each folded into what fits.
      at = i16(into, at, t.pitchRad * 1e4);
      at = i16(into, at, t.rollRad * 1e4);
      at = i16(into, at, t.yawRad * 1e4);
  }
  into[0] = SYNC;
  into[1] = at - 1;
  into[2] = sensorOf(id).type;
  into[at] = crc8(into, 2, at);
  return at + 1;
}

export type Heard = { readonly id: ToldId } & Partial<Told>;

/** What a whole frame says; null where its sum is wrong, or it is of a kind that nobody tells here. */
export function readTold(frame: Uint8Array): Heard | null {
  const n = frame.length;
  if (n < FRAME_AROUND || frame[0] !== SYNC || frame[1] !== n - 2 || crc8(frame, 2, n - 1) !== frame[n - 1])
    return null;
  const sensor = toldSensors.find((s) => s.type === frame[2]);
  const carried = n - FRAME_AROUND;
  if (
    !sensor ||
    (sensor.id === 'mode' ? carried < 1 || carried > sensor.payload : carried !== sensor.payload)
  )
    return null;
  const view = new DataView(frame.buffer, frame.byteOffset + 3, carried);
  const { id } = sensor;
  switch (id) {
    case 'place':
      return {
        ...{
          id,
          lat: view.getInt32(0) / 1e7,
          lon: view.getInt32(4) / 1e7,
          groundMps: view.getUint16(8) / 10 / KMH,
        },
        courseRad: (view.getUint16(10) / 100 / 180) * Math.PI,
        ...{ heightM: view.getUint16(12) - HEIGHT_UP_M, satellites: view.getUint8(14) },
      };
    case 'battery':
      return {
        ...{ id, volts: view.getUint16(0) / 10, amps: view.getUint16(2) / 10 },
        ...{ usedMah: (view.getUint8(4) << 16) | view.getUint16(5), leftShare: view.getUint8(7) / 100 },
      };
    case 'mode':
      return { id, mode: String.fromCharCode(...frame.subarray(3, n - 2)) };
    case 'climb':
      return { id, climbMps: view.getInt16(0) / 100 };
    case 'air':
      return { id, airspeedMps: view.getUint16(0) / 10 / KMH };
    case 'attitude':
      return {
        id,
        pitchRad: view.getInt16(0) / 1e4,
        rollRad: view.getInt16(2) / 1e4,
        yawRad: view.getInt16(4) / 1e4,
      };
  }
}

const MOST_FRAME = 64;

/** Cuts bytes of a wire into frames and tells each that is whole. */
export class ToldReader {
  faults = 0;
  private readonly frame = new Uint8Array(MOST_FRAME);
  private length = 0;

  constructor(private readonly onHeard: (heard: Heard) => void) {}

  push(byte: number): void {
    if (this.length === 0 && byte !== SYNC) return;
    if (this.length === 1 && (byte < 2 || byte > MOST_FRAME - 2)) {
      this.faults++;
      this.length = byte === SYNC ? 1 : 0;
      return;
    }
    this.frame[this.length++] = byte;
    if (this.length < 2 || this.length < this.frame[1]! + 2) return;
    const heard = readTold(this.frame.subarray(0, this.length));
    this.length = 0;
    if (heard) this.onHeard(heard);
    else this.faults++;
  }
}
