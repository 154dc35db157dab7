import { NmeaReader } from './nmea.ts';
import { CrsfReader, type ReceiverReader, SbusReader } from './receiverFrames.ts';

/** What a recorded port carries. Speed cannot be told from bytes; what they are, can. */
export type HeardBytes =
  | {
      readonly kind: 'sentences';
      readonly says: string;
      readonly sentences: number;
      readonly faults: number;
      readonly byKind: Readonly<Record<string, number>>;
      readonly bytes: number;
      /** Speeds at which so many bytes a second fit the wire, where a solution a second is taken for the least. */
      readonly leastBaud: number;
    }
  | { readonly kind: 'frames' | 'garbage' | 'silent'; readonly says: string; readonly bytes: number };

/** Speeds that ports have. */
const BAUDS = [4800, 9600, 19200, 38400, 57600, 115200, 230400, 460800] as const;
/** Bytes on a wire have ten bits. */
const BITS = 10;
/** Of the bytes that have to belong to frames. */
const LEAST_SHARE = 0.5;

/** Bytes of a frame of channels. */
const receivers = () => [
  { name: 'CRSF', length: 26, reader: new CrsfReader() },
  { name: 'SBUS', length: 25, reader: new SbusReader() },
];

export function hearBytes(bytes: Uint8Array): HeardBytes {
  if (bytes.length < 4) return { kind: 'silent', says: 'Nothing was recorded.', bytes: bytes.length };
  const reader = new NmeaReader();
  for (const b of bytes) reader.push(b);
  const text = new TextDecoder('latin1').decode(bytes);
  const kinds = [...text.matchAll(/\$([A-Z]{5}),[^*$]*\*[0-9A-F]{2}/g)].map((m) => m[1]!);
  const byKind: Record<string, number> = {};
  for (const k of kinds) byKind[k] = (byKind[k] ?? 0) + 1;
  if (reader.sentences >= 2) {
    // A receiver says its time in every solution: bytes between the first two tell how many there are in one.
    const solutions = Math.max(1, byKind.GNGGA ?? byKind.GPGGA ?? byKind.GNRMC ?? byKind.GPRMC ?? 1);
    const each = bytes.length / solutions;
    const least = BAUDS.find((b) => b / BITS >= each) ?? BAUDS.at(-1)!;
    return {
      kind: 'sentences',
      says: `NMEA sentences of a GNSS receiver: ${reader.sentences} whole${reader.faults > 0 ? `, ${reader.faults} broken` : ''}. About ${Math.round(each)} bytes a solution: one a second fits ${least} baud, five a second ${BAUDS.find((b) => b / BITS >= 5 * each) ?? 'no usual speed'}.`,
      sentences: reader.sentences,
      faults: reader.faults,
      byKind,
      bytes: bytes.length,
      leastBaud: least,
    };
  }
  for (const { name, length, reader } of receivers()) {
    const frames = framesIn(bytes, reader);
    if (frames >= 3 && frames * length > LEAST_SHARE * bytes.length)
      return {
        kind: 'frames',
        says: `Frames of ${name}, ${frames} of them: a radio receiver.`,
        bytes: bytes.length,
      };
  }
  const letters = bytes.filter((b) => b === 10 || b === 13 || (b >= 32 && b < 127)).length / bytes.length;
  return {
    kind: 'garbage',
    says:
      letters > 0.9
        ? 'Text that makes no sentence with a right checksum: bytes were lost on the wire, or it is no GNSS receiver.'
        : 'Bytes that make neither a sentence nor a frame: the port listened at another speed than the sender has, or the line is inverted.',
    bytes: bytes.length,
  };
}

/** How many frames of channels a reader finds. */
function framesIn(bytes: Uint8Array, reader: ReceiverReader): number {
  let found = 0;
  for (const b of bytes) if (reader.push(b)) found++;
  return found;
}
