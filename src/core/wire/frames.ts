import { Encoder } from 'cbor-x';
import { cobsDecode, cobsEncode } from './cobs.ts';
import { crc32 } from './crc32.ts';

/** The longest frame either end sends or keeps, stuffed, without its closing zero. */
export const MAX_FRAME_BYTES = 16_384;

const cbor = new Encoder({ useRecords: false, mapsAsObjects: true, tagUint8Array: false });

/** One message as bytes on the wire: COBS(CBOR, CRC-32 little-endian), then a zero. */
export function encodeFrame(message: unknown): Uint8Array {
  const body = cbor.encode(message);
  const plain = new Uint8Array(body.length + 4);
  plain.set(body);
  new DataView(plain.buffer).setUint32(body.length, crc32(body), true);
  const stuffed = cobsEncode(plain);
  if (stuffed.length > MAX_FRAME_BYTES) throw new RangeError(`frame of ${stuffed.length} bytes is too long`);
  const out = new Uint8Array(stuffed.length + 1);
  out.set(stuffed);
  return out;
}

/** Plain CBOR of a value (RFC 8949), for pages and files. */
export function encodeCbor(value: unknown): Uint8Array {
  return new Uint8Array(cbor.encode(value));
}

/** The value of plain CBOR, or undefined where the bytes are broken. */
export function decodeCbor(bytes: Uint8Array): unknown {
  try {
    return cbor.decode(bytes);
  } catch {
    return undefined;
  }
}

export interface FrameCounts {
  good: number;
  /** Broken stuffing, wrong checksum, too short or not CBOR. */
  damaged: number;
  /** Longer than MAX_FRAME_BYTES; skipped up to the next zero. */
  tooLong: number;
}

/**
 * Cuts a byte stream into messages. Damage costs the frame it is in and no more; memory is bounded whatever
 * arrives.
 */
export class FrameReader {
  readonly counts: FrameCounts = { good: 0, damaged: 0, tooLong: 0 };
  private readonly buffer = new Uint8Array(MAX_FRAME_BYTES);
  private length = 0;
  private skipping = false;

  constructor(private readonly onMessage: (message: unknown) => void) {}

  push(bytes: Uint8Array): void {
    for (let i = 0; i < bytes.length; i++) {
      const b = bytes[i]!;
      if (b === 0) this.finish();
      else if (this.skipping) continue;
      else if (this.length === MAX_FRAME_BYTES) {
        this.counts.tooLong++;
        this.skipping = true;
      } else this.buffer[this.length++] = b;
    }
  }

  private finish(): void {
    const length = this.length;
    this.length = 0;
    if (this.skipping) {
      this.skipping = false;
      return;
    }
    if (length === 0) return;
    const plain = cobsDecode(this.buffer.subarray(0, length));
    if (!plain || plain.length < 5) {
      this.counts.damaged++;
      return;
    }
    const end = plain.length - 4;
    const sum = new DataView(plain.buffer, plain.byteOffset + end, 4).getUint32(0, true);
    const message = sum === crc32(plain, 0, end) ? decodeCbor(plain.subarray(0, end)) : undefined;
    if (message === undefined) {
      this.counts.damaged++;
      return;
    }
    this.counts.good++;
    this.onMessage(message);
  }
}
