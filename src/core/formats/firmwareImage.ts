import { boardOf } from '../board/boards.ts';
import { kolkModels } from '../controllers/kolk.ts';
import { crc32 } from '../wire/crc32.ts';
import { type HexFault, hex, readHex, writeHex } from './intelHex.ts';

/**
 * A firmware image: flash from its first byte, with a descriptor at a fixed place that says what it is, for which
 * board, how large, and by a checksum whether it is whole.
 */

/** Where firmware begins in a board's memory; below it lies the loader. */
export const IMAGE_BASE = 0x0010_0000;
/** The descriptor, from the beginning of the image. */
const DESCRIPTOR_AT = 0x100;
const MAGIC = 'WWIMAGE1';
const FIELDS = { product: [8, 16], target: [24, 24], version: [48, 16] } as const;
const SIZE_AT = 64;
const CRC_AT = 68;
const DESCRIPTOR_BYTES = 72;

export interface ImageInfo {
  readonly product: string;
  /** Board it is built for: "massif-h7-b". */
  readonly target: string;
  readonly version: string;
  readonly size: number;
  /** CRC-32 of the whole image with these four bytes as zero. */
  readonly crc: number;
}

export type Inspected =
  | { readonly ok: true; readonly info: ImageInfo; readonly bytes: Uint8Array }
  | ({ readonly ok: false } & HexFault);

/**
 * Looks at a HEX file as at an image for a board; any fault is refused before anything is erased.
 * @param target board that it is meant for; left out, any board will do
 */
export function inspectImage(file: Uint8Array, target?: string): Inspected {
  const read = readHex(file);
  if (!read.ok) return read;
  const { base, bytes, lineAt } = read.data;
  const fail = (line: number, why: string): Inspected => ({ ok: false, line, why });
  if (base < IMAGE_BASE)
    return fail(
      lineAt(base),
      `Line ${lineAt(base)} writes to ${hex(base, 8)}, into the loader, which lies below ${hex(IMAGE_BASE, 8)}.`,
    );
  const info = base === IMAGE_BASE ? descriptorOf(bytes) : null;
  if (!info)
    return fail(
      0,
      'The file has no descriptor where our images have one: it is no firmware for these boards.',
    );
  const board = takerOf(info.target);
  if (!board)
    return fail(
      lineAt(IMAGE_BASE + DESCRIPTOR_AT),
      `It is built for a board "${info.target}", which is not known here.`,
    );
  if (target !== undefined && info.target !== target)
    return fail(
      lineAt(IMAGE_BASE + DESCRIPTOR_AT + 24),
      `It is built for ${nameOf(info.target)}; this is ${nameOf(target)}. The wrong image would leave it dead.`,
    );
  if (bytes.length > board.flashBytes) {
    const first = IMAGE_BASE + board.flashBytes;
    const line = lineAt(first) || lineAt(IMAGE_BASE + bytes.length - 1);
    return fail(
      line,
      `Line ${line} writes beyond ${hex(first, 8)}, where the flash of ${nameOf(info.target)} ends.`,
    );
  }
  if (bytes.length !== info.size)
    return fail(
      0,
      `The image should have ${info.size} bytes and has ${bytes.length}: lines are missing from it.`,
    );
  const crc = imageCrc(bytes);
  if (crc !== info.crc)
    return fail(
      0,
      `The checksum over the image is ${hex(crc, 8)} and should be ${hex(info.crc, 8)}: it was changed.`,
    );
  return { ok: true, info, bytes };
}

/** Bytes that an image has at least: those up to the end of its descriptor. */
export const LEAST_IMAGE_BYTES = DESCRIPTOR_AT + DESCRIPTOR_BYTES;

/** What an image says of itself, by its descriptor; null for bytes that have none. */
export function descriptorOf(image: Uint8Array): ImageInfo | null {
  if (image.length < LEAST_IMAGE_BYTES) return null;
  const text = new TextDecoder('latin1');
  const field = (from: number, length: number) =>
    text.decode(image.subarray(DESCRIPTOR_AT + from, DESCRIPTOR_AT + from + length)).replace(/\0+$/, '');
  if (field(0, 8) !== MAGIC) return null;
  const view = new DataView(image.buffer, image.byteOffset + DESCRIPTOR_AT, DESCRIPTOR_BYTES);
  return {
    product: field(...FIELDS.product),
    target: field(...FIELDS.target),
    version: field(...FIELDS.version),
    size: view.getUint32(SIZE_AT, true),
    crc: view.getUint32(CRC_AT, true),
  };
}

/** Whether two say the same of an image. */
export const sameImage = (a: ImageInfo, b: ImageInfo): boolean =>
  a.product === b.product &&
  a.target === b.target &&
  a.version === b.version &&
  a.size === b.size &&
  a.crc === b.crc;

/** CRC-32 of an image as its descriptor counts it: its own four bytes as zero. */
export function imageCrc(image: Uint8Array): number {
  const copy = image.slice();
  copy.fill(0, DESCRIPTOR_AT + CRC_AT, DESCRIPTOR_AT + CRC_AT + 4);
  return crc32(copy);
}

/** An image with its descriptor set in, as HEX. @throws RangeError when there is no room for the descriptor */
export function writeImage(
  code: Uint8Array,
  what: Pick<ImageInfo, 'product' | 'target' | 'version'>,
): string {
  if (code.length < DESCRIPTOR_AT + DESCRIPTOR_BYTES) throw new RangeError('no room for a descriptor');
  const image = code.slice();
  image.fill(0, DESCRIPTOR_AT, DESCRIPTOR_AT + DESCRIPTOR_BYTES);
  const put = (from: number, value: string) =>
    image.set(new TextEncoder().encode(value), DESCRIPTOR_AT + from);
  put(0, MAGIC);
  for (const [name, [from, length]] of Object.entries(FIELDS))
    put(from, what[name as keyof typeof FIELDS].slice(0, length));
  const view = new DataView(image.buffer, DESCRIPTOR_AT, DESCRIPTOR_BYTES);
  view.setUint32(SIZE_AT, image.length, true);
  view.setUint32(CRC_AT, imageCrc(image), true);
  return writeHex(IMAGE_BASE, image);
}

/** Who takes images of a target: a board, or a motor controller. */
function takerOf(target: string): { readonly name: string; readonly flashBytes: number } | undefined {
  const board = boardOf(target);
  return board
    ? { name: `${board.name} revision ${board.revision}`, flashBytes: board.flashBytes }
    : kolkModels.find((m) => m.target === target);
}

const nameOf = (target: string): string => takerOf(target)?.name ?? target;
