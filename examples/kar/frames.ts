import { crc32 } from 'node:zlib';
import { Encoder } from 'cbor-x';

/** The bytes of docs/link.md, written from that page alone. */

const MOST_BYTES = 16_384;
const cbor = new Encoder({ useRecords: false, mapsAsObjects: true, tagUint8Array: false });

/** CBOR, its CRC-32, stuffed, and a zero behind it. */
export function frameOf(message: unknown): Uint8Array {
  const body = cbor.encode(message);
  const plain = Buffer.concat([body, Buffer.alloc(4)]);
  plain.writeUInt32LE(crc32(body), body.length);
  const parts: Uint8Array[] = [];
  for (let from = 0; from <= plain.length; ) {
    const zero = plain.indexOf(0, from);
    const end = Math.min(from + 254, zero < 0 ? plain.length : zero);
    parts.push(Uint8Array.of(end - from + 1), plain.subarray(from, end));
    // A full run of 254 has no zero behind it; any other has, but for the last.
    from = end - from === 254 ? (end === plain.length ? end + 1 : end) : end + 1;
  }
  return Buffer.concat([...parts, Uint8Array.of(0)]);
}

/** The message of a frame without its closing zero, or undefined where it came damaged. */
function messageOf(stuffed: Uint8Array): unknown {
  const parts: Uint8Array[] = [];
  for (let at = 0; at < stuffed.length; ) {
    const code = stuffed[at]!;
    const run = stuffed.subarray(at + 1, at + code);
    if (run.length !== code - 1) return undefined;
    at += code;
    parts.push(run, code < 255 && at < stuffed.length ? Uint8Array.of(0) : new Uint8Array());
  }
  const plain = Buffer.concat(parts);
  if (plain.length < 5) return undefined;
  const body = plain.subarray(0, -4);
  if (crc32(body) !== plain.readUInt32LE(body.length)) return undefined;
  try {
    return cbor.decode(body);
  } catch {
    return undefined;
  }
}

/** Takes bytes as they come and tells of each whole message. */
export function reader(tell: (message: unknown) => void): (bytes: Uint8Array) => void {
  let held: number[] = [];
  return (bytes) => {
    for (const b of bytes) {
      if (b !== 0) {
        if (held.length <= MOST_BYTES) held.push(b);
        continue;
      }
      const message = held.length > MOST_BYTES ? undefined : messageOf(Uint8Array.from(held));
      held = [];
      if (message !== undefined) tell(message);
    }
  };
}
