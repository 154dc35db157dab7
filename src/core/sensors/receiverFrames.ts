import type { ByteQueue } from './byteQueue.ts';

/** How receivers speak, by the value of their setting, as it is said in a sentence. */
export const protocolNames = { crsf: 'CRSF', sbus: 'SBUS', 'pulse-train': 'a pulse train' } as const;

/** Channels both serial protocols carry: sixteen of eleven bits, least bit first. */
const CHANNELS = 16;
const PACKED = 22;

/** Ticks of a channel for a pulse, and back: 992 is 1500 us, 8 ticks are 5 us. */
export function ticksOf(us: number): number {
  return Math.max(0, Math.min(2047, Math.round(((us - 1500) * 8) / 5 + 992)));
}
export function pulseOf(ticks: number): number {
  return ((ticks - 992) * 5) / 8 + 1500;
}

/** Packs sixteen pulses as eleven-bit ticks into 22 bytes. */
export function packChannels(pulses: ArrayLike<number>, out: Uint8Array, at: number): void {
  let bits = 0;
  let have = 0;
  let o = at;
  for (let i = 0; i < CHANNELS; i++) {
    bits |= ticksOf(pulses[i]!) << have;
    have += 11;
    while (have >= 8) {
      out[o++] = bits & 0xff;
      bits >>>= 8;
      have -= 8;
    }
  }
}

export function unpackChannels(bytes: Uint8Array, at: number, out: Float64Array): void {
  let bits = 0;
  let have = 0;
  let o = at;
  for (let i = 0; i < CHANNELS; i++) {
    while (have < 11) {
      bits |= bytes[o++]! << have;
      have += 8;
    }
    out[i] = pulseOf(bits & 0x7ff);
    bits >>>= 11;
    have -= 11;
  }
}

/** CRC-8 with polynomial 0xD5, as CRSF uses it, over bytes from..to. */
export function crc8(bytes: Uint8Array, from: number, to: number): number {
  let crc = 0;
  for (let i = from; i < to; i++) crc = CRC_TABLE[crc ^ bytes[i]!]!;
  return crc;
}

const CRC_TABLE = Uint8Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 0x80 ? ((c << 1) ^ 0xd5) & 0xff : (c << 1) & 0xff;
  return c;
});

const CRSF_SYNC = 0xc8;
const CRSF_CHANNELS = 0x16;
const CRSF_LINK = 0x14;
const CRSF_MAX = 64;

const work = new Uint8Array(CRSF_MAX);

/** A CRSF frame with sixteen channels: address, length, type, payload, CRC. */
export function writeCrsfChannels(out: ByteQueue, pulses: ArrayLike<number>): void {
  work[0] = CRSF_SYNC;
  work[1] = PACKED + 2;
  work[2] = CRSF_CHANNELS;
  packChannels(pulses, work, 3);
  work[3 + PACKED] = crc8(work, 2, 3 + PACKED);
  for (let i = 0; i < 4 + PACKED; i++) out.push(work[i]!);
}

/** A CRSF frame with link statistics. @param quality 0..1 @param dbm signal, negative */
export function writeCrsfLink(out: ByteQueue, quality: number, dbm: number): void {
  work.fill(0, 0, 14);
  work[0] = CRSF_SYNC;
  work[1] = 12;
  work[2] = CRSF_LINK;
  work[3] = -dbm;
  work[4] = -dbm;
  work[5] = Math.round(100 * quality);
  work[13] = crc8(work, 2, 13);
  for (let i = 0; i < 14; i++) out.push(work[i]!);
}

const SBUS_HEADER = 0x0f;
const SBUS_LENGTH = 25;
const SBUS_LOST_FRAME = 0x04;
const SBUS_FAILSAFE = 0x08;

/** An SBUS frame: header, sixteen channels, flags, footer. */
export function writeSbus(
  out: ByteQueue,
  pulses: ArrayLike<number>,
  lostFrame: boolean,
  failsafe: boolean,
): void {
  work[0] = SBUS_HEADER;
  packChannels(pulses, work, 1);
  work[23] = (lostFrame ? SBUS_LOST_FRAME : 0) | (failsafe ? SBUS_FAILSAFE : 0);
  work[24] = 0;
  for (let i = 0; i < SBUS_LENGTH; i++) out.push(work[i]!);
}

/** What a receiver's bytes said so far. */
export interface ReceiverNews {
  /** us */
  readonly channels: Float64Array;
  /** The receiver itself says that it has lost its transmitter. */
  failsafe: boolean;
  /** 0..1; below zero while none was told. */
  quality: number;
}

export interface ReceiverReader {
  readonly news: ReceiverNews;
  faults: number;
  /** True when this byte completed a frame of channels. */
  push(byte: number): boolean;
}

const news = (): ReceiverNews => ({
  channels: new Float64Array(CHANNELS).fill(1500),
  failsafe: false,
  quality: -1,
});

/** Reads CRSF frames from bytes; frames whose CRC fails are counted and dropped. */
export class CrsfReader implements ReceiverReader {
  readonly news = news();
  faults = 0;
  private readonly frame = new Uint8Array(CRSF_MAX);
  private length = 0;

  push(byte: number): boolean {
    const f = this.frame;
    if (this.length === 0) {
      if (byte === CRSF_SYNC) f[this.length++] = byte;
      return false;
    }
    if (this.length === 1 && (byte < 2 || byte > CRSF_MAX - 2)) {
      this.faults++;
      this.length = byte === CRSF_SYNC ? 1 : 0;
      return false;
    }
    f[this.length++] = byte;
    const whole = f[1]! + 2;
    if (this.length < 2 || this.length < whole) return false;
    this.length = 0;
    if (crc8(f, 2, whole - 1) !== f[whole - 1]) {
      this.faults++;
      return false;
    }
    if (f[2] === CRSF_LINK && whole >= 14) {
      this.news.quality = f[5]! / 100;
      this.news.failsafe = f[5] === 0;
      return false;
    }
    if (f[2] !== CRSF_CHANNELS || whole !== PACKED + 4) return false;
    unpackChannels(f, 3, this.news.channels);
    return true;
  }
}

/** Reads SBUS frames from bytes. It has no checksum: header, footer and length have to fit. */
export class SbusReader implements ReceiverReader {
  readonly news = news();
  faults = 0;
  private readonly frame = new Uint8Array(SBUS_LENGTH);
  private length = 0;
  private lost = 0;

  push(byte: number): boolean {
    const f = this.frame;
    if (this.length === 0 && byte !== SBUS_HEADER) {
      this.faults++;
      return false;
    }
    f[this.length++] = byte;
    if (this.length < SBUS_LENGTH) return false;
    if (f[24] !== 0) {
      this.faults++;
      // It began in the middle of a frame: the true header may be among what came since.
      const next = f.indexOf(SBUS_HEADER, 1);
      this.length = next < 0 ? 0 : SBUS_LENGTH - next;
      if (next > 0) f.copyWithin(0, next);
      return false;
    }
    this.length = 0;
    const flags = f[23]!;
    this.lost += 0.05 * ((flags & SBUS_LOST_FRAME ? 1 : 0) - this.lost);
    this.news.quality = 1 - this.lost;
    this.news.failsafe = (flags & SBUS_FAILSAFE) !== 0;
    unpackChannels(f, 1, this.news.channels);
    return true;
  }
}

/** Least gap that ends a pulse train, us, and the pulses it may carry. */
const TRAIN_GAP_US = 3000;

/**
 * Reads a pulse train (PPM): the times between rising edges are the channels, a long one ends the frame.
 */
export class PulseTrainReader {
  readonly news = news();
  faults = 0;
  private at = 0;
  private broken = true;

  /** @param us since the edge before. True when a frame is complete. */
  edge(us: number): boolean {
    if (us >= TRAIN_GAP_US) {
      const whole = !this.broken && this.at >= 4;
      if (!whole && this.at > 0) this.faults++;
      this.at = 0;
      this.broken = false;
      return whole;
    }
    if (us < 750 || us > 2250 || this.at >= CHANNELS) this.broken = true;
    else if (!this.broken) this.news.channels[this.at++] = us;
    return false;
  }
}
