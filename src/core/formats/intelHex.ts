/**
 * Intel HEX (Intel, Hexadecimal Object File Format Specification, Revision A, 1988), read so that a person learns
 * which line is wrong and why, before anything is erased.
 */

/** More text than any image has. */
export const MAX_HEX_BYTES = 40_000_000;

/** Data of a HEX file: bytes from the lowest to the highest address, gaps as erased flash is. */
interface HexData {
  readonly base: number;
  readonly bytes: Uint8Array;
  /** Where the program begins, when a start record says so. */
  readonly start: number | null;
  /** Line that the byte at an address came from, 1-based; 0 in a gap. */
  lineAt(address: number): number;
}

export interface HexFault {
  /** 1-based; 0 for the file as a whole. */
  readonly line: number;
  readonly why: string;
}

export type ReadHex = { readonly ok: true; readonly data: HexData } | ({ readonly ok: false } & HexFault);

/** Gaps beyond this are two images in one file, or nonsense; bytes. */
const WIDEST = 16 * 1024 * 1024;

const digit = new Int8Array(256).fill(-1);
for (let d = 0; d < 10; d++) digit[48 + d] = d;
for (let d = 0; d < 6; d++) {
  digit[65 + d] = 10 + d;
  digit[97 + d] = 10 + d;
}

const refuse = (line: number, why: string): ReadHex => ({ ok: false, line, why });

/** Data records in the order of the file: where each goes, how long it is, where its bytes are kept, its line. */
class Records {
  count = 0;
  readonly address: Uint32Array;
  readonly length: Uint8Array;
  readonly at: Uint32Array;
  readonly line: Uint32Array;
  /** The bytes of all of them, one after the other. */
  readonly data: Uint8Array;
  private used = 0;

  constructor(fileBytes: number) {
    // The shortest record has eleven characters and a line end.
    const most = Math.ceil(fileBytes / 12) + 1;
    this.address = new Uint32Array(most);
    this.length = new Uint8Array(most);
    this.at = new Uint32Array(most);
    this.line = new Uint32Array(most);
    this.data = new Uint8Array(fileBytes >> 1);
  }

  add(address: number, record: Uint8Array, length: number, line: number): void {
    const i = this.count++;
    this.address[i] = address;
    this.length[i] = length;
    this.at[i] = this.used;
    this.line[i] = line;
    for (let k = 0; k < length; k++) this.data[this.used + k] = record[4 + k]!;
    this.used += length;
  }
}

/** Bytes of data that each type of record has; -1 for any. Undefined for types there are not. */
const DATA_BYTES = [-1, 0, 2, 4, 2, 4] as const;

/** Reads a HEX file. Any line end, either case of letters; nothing may follow the end record. */
export function readHex(file: Uint8Array): ReadHex {
  if (file.length > MAX_HEX_BYTES)
    return refuse(0, `The file has ${(file.length / 1e6).toFixed(0)} MB; no image is that large.`);
  const records = new Records(file.length);
  const record = new Uint8Array(260);
  let upper = 0;
  let start: number | null = null;
  let ended = 0;
  let line = 0;
  for (let at = 0; at < file.length; ) {
    line++;
    const from = at;
    let end = at;
    while (end < file.length && file[end] !== 10 && file[end] !== 13) end++;
    at = file[end] === 13 && file[end + 1] === 10 ? end + 2 : end + 1;
    while (end > from && (file[end - 1] === 32 || file[end - 1] === 9)) end--;
    if (end === from) continue;
    if (ended > 0) return refuse(line, `Line ${line} comes after the end record in line ${ended}.`);
    if (file[from] !== 58)
      return refuse(line, `Line ${line} does not begin with a colon, so it is no HEX record.`);
    const digits = end - from - 1;
    const count = digits >> 1;
    if (digits % 2 === 1 || count < 5 || count > 260)
      return refuse(line, `Line ${line} is cut short or torn: it has ${digits} digits.`);
    let sum = 0;
    let worst = 0;
    for (let k = 0, c = from + 1; k < count; k++, c += 2) {
      const high = digit[file[c]!]!;
      const low = digit[file[c + 1]!]!;
      worst |= high | low;
      const byte = (high << 4) | low;
      record[k] = byte;
      sum += byte;
    }
    if (worst < 0) return refuse(line, `Line ${line} holds something else than hexadecimal digits.`);
    const length = record[0]!;
    if (count !== length + 5)
      return refuse(line, `Line ${line} says it has ${length} bytes of data and has ${count - 5}.`);
    if ((sum & 255) !== 0) {
      const right = (record[count - 1]! - sum) & 255;
      return refuse(
        line,
        `The checksum of line ${line} is ${hex(record[count - 1]!, 2)} and should be ${hex(right, 2)}: the line is damaged.`,
      );
    }
    const type = record[3]!;
    const size = DATA_BYTES[type];
    if (size === undefined)
      return refuse(line, `Line ${line} is a record of type ${type}, which HEX does not have.`);
    if (size >= 0 && length !== size)
      return refuse(line, `Line ${line} should have ${size} bytes of data and has ${length}.`);
    if (type === 0) {
      if (length > 0) records.add(upper + ((record[1]! << 8) | record[2]!), record, length, line);
    } else if (type === 1) {
      ended = line;
    } else {
      const high = (record[4]! << 8) | record[5]!;
      const low = (record[6]! << 8) | record[7]!;
      if (type === 2) upper = high * 16;
      else if (type === 4) upper = high * 65536;
      else start = type === 5 ? high * 65536 + low : high * 16 + low;
    }
  }
  if (ended === 0)
    return refuse(line, 'The file ends without an end record: it was not downloaded or copied whole.');
  if (records.count === 0) return refuse(0, 'The file holds no data.');
  return joined(records, start);
}

/** Puts the records in the order of their addresses, and looks for places that two of them claim. */
function joined(r: Records, start: number | null): ReadHex {
  const order = new Uint32Array(r.count).map((_, i) => i);
  if (!order.every((i) => i === 0 || r.address[i]! >= r.address[i - 1]!))
    order.sort((a, b) => r.address[a]! - r.address[b]! || a - b);
  const base = r.address[order[0]!]!;
  let end = base;
  let endLine = 0;
  for (const i of order) {
    const address = r.address[i]!;
    const line = r.line[i]!;
    if (address < end) {
      const [first, second] = line < endLine ? [line, endLine] : [endLine, line];
      return refuse(second, `Line ${second} writes to ${hex(address, 8)}, where line ${first} wrote before.`);
    }
    end = address + r.length[i]!;
    endLine = line;
    if (end - base > WIDEST)
      return refuse(
        line,
        `Line ${line} writes to ${hex(address, 8)}, far from the rest of the image at ${hex(base, 8)}.`,
      );
  }
  const bytes = new Uint8Array(end - base).fill(0xff);
  for (const i of order) bytes.set(r.data.subarray(r.at[i]!, r.at[i]! + r.length[i]!), r.address[i]! - base);
  const lineAt = (address: number): number => {
    let low = 0;
    let high = r.count - 1;
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if (r.address[order[mid]!]! <= address) low = mid;
      else high = mid - 1;
    }
    const i = order[low]!;
    const inside = address >= r.address[i]! && address < r.address[i]! + r.length[i]!;
    return inside ? r.line[i]! : 0;
  };
  return { ok: true, data: { base, bytes, start, lineAt } };
}

/** A number in hexadecimal as people write it: "0x0800". */
export function hex(n: number, digits: number): string {
  return `0x${n.toString(16).toUpperCase().padStart(digits, '0')}`;
}

/** Writes bytes from an address as HEX, sixteen to a line. */
export function writeHex(base: number, bytes: Uint8Array): string {
  const lines: string[] = [];
  const put = (type: number, offset: number, data: ArrayLike<number>) => {
    const all = [data.length, (offset >> 8) & 255, offset & 255, type, ...Array.from(data)];
    const sum = all.reduce((s, b) => s + b, 0);
    lines.push(`:${[...all, -sum & 255].map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join('')}`);
  };
  let upper = -1;
  for (let at = 0; at < bytes.length; ) {
    const address = base + at;
    const high = Math.floor(address / 65536);
    if (high !== upper) {
      put(4, 0, [(high >> 8) & 255, high & 255]);
      upper = high;
    }
    const room = Math.min(16, bytes.length - at, 65536 - (address % 65536));
    put(0, address % 65536, bytes.subarray(at, at + room));
    at += room;
  }
  put(1, 0, []);
  return `${lines.join('\n')}\n`;
}
