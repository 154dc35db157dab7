import { crc32 } from '../wire/crc32.ts';

/**
 * What a board sends to the chip or the link that brings its overlay over the picture. Runs of cells that changed, then an end:
 *
 *     0xA5  row  column  count  then for each cell its code, and 1 where it blinks
 *     0xA6  columns  rows  CRC-32 of the whole picture's codes and marks, four bytes, low first: show it
 *
 * The picture is shown at its end only, so that nobody sees half of it; one whose sum does not agree stays as it was.
 */
const RUN = 0xa5;
const SHOW = 0xa6;
const LONGEST_RUN = 60;

const bytesOf = (cells: Uint16Array): Uint8Array => {
  const bytes = new Uint8Array(2 * cells.length);
  cells.forEach((cell, i) => {
    bytes[2 * i] = cell & 0xff;
    bytes[2 * i + 1] = cell >> 8;
  });
  return bytes;
};

/** @param before the picture that the chip has; null to send all of it */
export function chipBytes(
  before: Uint16Array | null,
  now: Uint16Array,
  columns: number,
  rows: number,
): Uint8Array {
  const out: number[] = [];
  for (let row = 0; row < rows; row++) {
    let column = 0;
    while (column < columns) {
      const at = row * columns + column;
      if (before && before[at] === now[at]) {
        column++;
        continue;
      }
      let count = 1;
      while (
        column + count < columns &&
        count < LONGEST_RUN &&
        (!before || before[at + count] !== now[at + count])
      )
        count++;
      out.push(RUN, row, column, count);
      for (let i = 0; i < count; i++) out.push(now[at + i]! & 0xff, now[at + i]! >> 8);
      column += count;
    }
  }
  const sum = crc32(bytesOf(now));
  out.push(SHOW, columns, rows, sum & 0xff, (sum >>> 8) & 0xff, (sum >>> 16) & 0xff, sum >>> 24);
  return Uint8Array.from(out);
}

/** The chip's end of it: bytes in whatever pieces, the picture that it shows. */
export class ChipPicture {
  columns = 0;
  rows = 0;
  /** What is shown, row by row. */
  shown = new Uint16Array(0);
  /** Pictures that were shown, and those that did not agree with their sum. */
  pictures = 0;
  faults = 0;
  private readonly waiting: number[] = [];
  private runs: { row: number; column: number; cells: number[] }[] = [];

  receive(bytes: Uint8Array): void {
    for (const b of bytes) this.waiting.push(b);
    while (this.take());
  }

  /** Takes one run or end off what waits. False where there is not enough of it yet. */
  private take(): boolean {
    const w = this.waiting;
    if (w.length === 0) return false;
    if (w[0] === RUN) {
      if (w.length < 4 || w.length < 4 + 2 * w[3]!) return false;
      const [, row, column, count] = w.splice(0, 4);
      const cells = Array.from({ length: count! }, () => {
        const [code, mark] = w.splice(0, 2);
        return code! | (mark! << 8);
      });
      this.runs.push({ row: row!, column: column!, cells });
      return true;
    }
    if (w[0] === SHOW) {
      if (w.length < 7) return false;
      const [, columns, rows, a, b, c, d] = w.splice(0, 7);
      this.show(columns!, rows!, (a! | (b! << 8) | (c! << 16) | (d! << 24)) >>> 0);
      return true;
    }
    // Noise: on to what may begin a run.
    w.shift();
    return true;
  }

  private show(columns: number, rows: number, sum: number): void {
    const size = columns * rows;
    const next = this.shown.length === size ? this.shown.slice() : new Uint16Array(size).fill(0x20);
    for (const { row, column, cells } of this.runs)
      if (row < rows && column + cells.length <= columns) next.set(cells, row * columns + column);
    this.runs = [];
    if (crc32(bytesOf(next)) !== sum) {
      this.faults++;
      return;
    }
    this.columns = columns;
    this.rows = rows;
    this.shown = next;
    this.pictures++;
  }
}
