import type { FlashDevice } from '#firmware/pages.ts';

/** Two flash pages in memory, all ones when new, as a chip has them. */
export class MemoryFlash implements FlashDevice {
  readonly pageBytes = 32768;
  /** Counts up with every change, for those who keep it over a power cut. */
  changes = 0;
  readonly pages: readonly [Uint8Array, Uint8Array];

  constructor(saved?: readonly [Uint8Array, Uint8Array]) {
    // A smaller chip's pages are carried over; what is beyond them is empty.
    const kept = saved && saved[0].length < this.pageBytes ? grown(saved, this.pageBytes) : saved;
    this.pages = kept ?? [
      new Uint8Array(this.pageBytes).fill(0xff),
      new Uint8Array(this.pageBytes).fill(0xff),
    ];
  }

  read(page: 0 | 1): Uint8Array {
    return this.pages[page];
  }

  erase(page: 0 | 1): void {
    this.pages[page].fill(0xff);
    this.changes++;
  }

  write(page: 0 | 1, at: number, byte: number): void {
    this.pages[page][at] = byte;
    this.changes++;
  }
}

function grown(pages: readonly [Uint8Array, Uint8Array], bytes: number): [Uint8Array, Uint8Array] {
  const grow = (page: Uint8Array) => {
    const out = new Uint8Array(bytes).fill(0xff);
    out.set(page);
    return out;
  };
  return [grow(pages[0]), grow(pages[1])];
}
