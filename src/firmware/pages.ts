import { crc32 } from '#core/wire/crc32.ts';
import { decodeCbor, encodeCbor } from '#core/wire/frames.ts';

/** Flash memory for what has to outlive the power, as the board's chip offers it: two pages, erased whole, written byte by byte. */
export interface FlashDevice {
  readonly pageBytes: number;
  read(page: 0 | 1): Uint8Array;
  erase(page: 0 | 1): void;
  write(page: 0 | 1, at: number, byte: number): void;
}

const MAGIC = 0x50464431;
const HEADER_BYTES = 12;

/** Sequence numbers of 32 bits go round: the one that is less than half a turn ahead is the later one (RFC 1982). */
const following = (sequence: number) => (sequence + 1) >>> 0;
const isAfter = (a: number, b: number) => a !== b && (a - b) >>> 0 < 0x80000000;

/** A page's content when it is whole, otherwise null. */
function readPage(bytes: Uint8Array): { sequence: number; content: object } | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEADER_BYTES + 4 || view.getUint32(0, true) !== MAGIC) return null;
  const sequence = view.getUint32(4, true);
  const length = view.getUint32(8, true);
  if (length > bytes.length - HEADER_BYTES - 4) return null;
  const end = HEADER_BYTES + length;
  if (view.getUint32(end, true) !== crc32(bytes, 0, end)) return null;
  const content = decodeCbor(bytes.subarray(HEADER_BYTES, end));
  if (typeof content !== 'object' || content === null || Array.isArray(content)) return null;
  return { sequence, content };
}

/**
 * Settings, or a plan, kept on two pages. A write goes to the spare page; it counts only once its checksum, written last,
 * fits. Power lost at any byte therefore leaves the page before.
 */
export class FlashPages<T extends object> {
  private active: 0 | 1 | null = null;
  private sequence = 0;
  private pending: { page: 0 | 1; bytes: Uint8Array; at: number } | null = null;

  constructor(private readonly flash: FlashDevice) {}

  /** The newest whole page's content, or null when neither is whole. */
  load(): T | null {
    const found = ([0, 1] as const)
      .map((page) => ({ page, content: readPage(this.flash.read(page)) }))
      .filter((p) => p.content !== null)
      .sort((a, b) => (isAfter(a.content!.sequence, b.content!.sequence) ? -1 : 1))[0];
    if (!found) return null;
    this.active = found.page;
    this.sequence = found.content!.sequence;
    return found.content!.content as T;
  }

  /** Something was stored once, and neither page of it can be read any more. */
  get rotten(): boolean {
    const blank = ([0, 1] as const).every((page) => this.flash.read(page).every((b) => b === 0xff));
    return !blank && ([0, 1] as const).every((page) => readPage(this.flash.read(page)) === null);
  }

  /** Starts a write to the spare page. @throws RangeError when it does not fit on a page */
  begin(content: T): void {
    const body = encodeCbor(content);
    const bytes = new Uint8Array(HEADER_BYTES + body.length + 4);
    if (bytes.length > this.flash.pageBytes) throw new RangeError('it does not fit on a page');
    const view = new DataView(bytes.buffer);
    view.setUint32(0, MAGIC, true);
    view.setUint32(4, following(this.sequence), true);
    view.setUint32(8, body.length, true);
    bytes.set(body, HEADER_BYTES);
    view.setUint32(HEADER_BYTES + body.length, crc32(bytes, 0, HEADER_BYTES + body.length), true);
    const page = this.active === 0 ? 1 : 0;
    this.flash.erase(page);
    this.pending = { page, bytes, at: 0 };
  }

  /** Writes up to `count` bytes more. True once the page is whole and has been read back. */
  step(count: number): boolean {
    const p = this.pending;
    if (!p) return false;
    for (let k = 0; k < count && p.at < p.bytes.length; k++) this.flash.write(p.page, p.at, p.bytes[p.at++]!);
    if (p.at < p.bytes.length) return false;
    this.pending = null;
    const written = readPage(this.flash.read(p.page));
    if (written?.sequence !== following(this.sequence)) return false;
    this.active = p.page;
    this.sequence = written.sequence;
    return true;
  }

  get writing(): boolean {
    return this.pending !== null;
  }
}
