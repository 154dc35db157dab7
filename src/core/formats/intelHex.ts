/**
 * Intel HEX (Intel, Hexadecimal Object File Format Specification, Revision A, 1988), read so that a person learns
 * which line is wrong and why, before anything is erased.
 */

/** More text than any image has. */
export const MAX_HEX_BYTES = 40_000_000;
const MOST_RECORDS = 1_000_000;

/** Data of a HEX file: bytes from the lowest to the highest address, gaps as erased flash is. */
export interface HexData {
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

/** Reads a HEX file. Any line end, either case of letters; nothing may follow the end record. */
export function readHex(file: Uint8Array): ReadHex {
  const fail = (line: number, why: string): ReadHex => ({ ok: false, line, why });
  if (file.length > MAX_HEX_BYTES)
    return fail(0, `The file has ${(file.length / 1e6).toFixed(0)} MB; no image is that large.`);
  // Address, length, place in the file and line of each data record.
  const records: number[] = [];
  const record = new Uint8Array(260);
  let upper = 0;
  let start: number | null = null;
  let ended = 0;
  let line = 0;
  for (let at = 0; at < file.length; ) {
    line++;
    let end = at;
    while (end < file.length && file[end] !== 10 && file[end] !== 13) end++;
    const next = file[end] === 13 && file[end + 1] === 10 ? end + 2 : end + 1;
    const from = at;
    at = next;
    while (end > from && (file[end - 1] === 32 || file[end - 1] === 9)) end--;
    if (end === from) continue;
    if (ended > 0) return fail(line, `Line ${line} comes after the end record in line ${ended}.`);
    if (file[from] !== 58)
      return fail(line, `Line ${line} does not begin with a colon, so it is no HEX record.`);
    const digits = end - from - 1;
    const count = digits >> 1;
    if (digits % 2 === 1 || count < 5 || count > 260)
      return fail(line, `Line ${line} is cut short or torn: it has ${digits} digits.`);
    let sum = 0;
    for (let k = 0; k < count; k++) {
      const high = digit[file[from + 1 + 2 * k]!]!;
      const low = digit[file[from + 2 + 2 * k]!]!;
      if (high < 0 || low < 0)
        return fail(line, `Line ${line} holds something else than hexadecimal digits.`);
      record[k] = (high << 4) | low;
      sum += record[k]!;
    }
    const length = record[0]!;
    if (count !== length + 5)
      return fail(line, `Line ${line} says it has ${length} bytes of data and has ${count - 5}.`);
    if ((sum & 255) !== 0) {
      const right = (record[count - 1]! - sum) & 255;
      return fail(
        line,
        `The checksum of line ${line} is ${hex(record[count - 1]!, 2)} and should be ${hex(right, 2)}: the line is damaged.`,
      );
    }
    const offset = (record[1]! << 8) | record[2]!;
    const type = record[3]!;
    const value = () => {
      let v = 0;
      for (let k = 0; k < length; k++) v = v * 256 + record[4 + k]!;
      return v;
    };
    const wrongSize = (wanted: number) =>
      length === wanted
        ? null
        : fail(line, `Line ${line} should have ${wanted} bytes of data and has ${length}.`);
    switch (type) {
      case 0:
        if (records.length >= 4 * MOST_RECORDS)
          return fail(line, 'The file has too many lines for an image.');
        if (length > 0) records.push(upper + offset, length, from + 9, line);
        break;
      case 1: {
        const wrong = wrongSize(0);
        if (wrong) return wrong;
        ended = line;
        break;
      }
      case 2:
      case 4: {
        const wrong = wrongSize(2);
        if (wrong) return wrong;
        upper = value() * (type === 2 ? 16 : 65536);
        break;
      }
      case 3:
      case 5: {
        const wrong = wrongSize(4);
        if (wrong) return wrong;
        const v = value();
        start = type === 5 ? v : Math.floor(v / 65536) * 16 + (v % 65536);
        break;
      }
      default:
        return fail(line, `Line ${line} is a record of type ${type}, which HEX does not have.`);
    }
  }
  if (ended === 0)
    return fail(line, 'The file ends without an end record: it was not downloaded or copied whole.');
  if (records.length === 0) return fail(0, 'The file holds no data.');
  return joined(file, records, start);
}

/** Puts the records in the order of their addresses, and looks for places that two of them claim. */
function joined(file: Uint8Array, records: readonly number[], start: number | null): ReadHex {
  const count = records.length / 4;
  const order = Array.from({ length: count }, (_, i) => i);
  const rising = order.every((i) => i === 0 || records[4 * i]! >= records[4 * (i - 1)]!);
  if (!rising) order.sort((a, b) => records[4 * a]! - records[4 * b]!);
  const base = records[4 * order[0]!]!;
  let end = base;
  let endLine = 0;
  for (const i of order) {
    const address = records[4 * i]!;
    if (address < end) {
      const [a, b] = [endLine, records[4 * i + 3]!].sort((x, y) => x - y);
      return {
        ok: false,
        line: b!,
        why: `Line ${b} writes to ${hex(address, 8)}, where line ${a} wrote before.`,
      };
    }
    end = address + records[4 * i + 1]!;
    endLine = records[4 * i + 3]!;
    if (end - base > WIDEST)
      return {
        ok: false,
        line: endLine,
        why: `Line ${endLine} writes to ${hex(address, 8)}, far from the rest of the image at ${hex(base, 8)}.`,
      };
  }
  const bytes = new Uint8Array(end - base).fill(0xff);
  for (const i of order) {
    const to = records[4 * i]! - base;
    const length = records[4 * i + 1]!;
    const from = records[4 * i + 2]!;
    for (let k = 0; k < length; k++)
      bytes[to + k] = (digit[file[from + 2 * k]!]! << 4) | digit[file[from + 2 * k + 1]!]!;
  }
  const lineAt = (address: number): number => {
    let low = 0;
    let high = count - 1;
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if (records[4 * order[mid]!]! <= address) low = mid;
      else high = mid - 1;
    }
    const i = 4 * order[low]!;
    return address >= records[i]! && address < records[i]! + records[i + 1]! ? records[i + 3]! : 0;
  };
  return { ok: true, data: { base, bytes, start, lineAt } };
}

const hex = (n: number, digits: number) => `0x${n.toString(16).toUpperCase().padStart(digits, '0')}`;

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
