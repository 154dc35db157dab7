import type { FlashDevice } from '#firmware/pages.ts';

/** Two flash pages in memory, all ones when new, as a chip has them. */
export class MemoryFlash implements FlashDevice {
  readonly pageBytes = 8192;
  readonly pages: readonly [Uint8Array, Uint8Array];

  constructor(saved?: readonly [Uint8Array, Uint8Array]) {
    this.pages = saved ?? [
      new Uint8Array(this.pageBytes).fill(0xff),
      new Uint8Array(this.pageBytes).fill(0xff),
    ];
  }

  read(page: 0 | 1): Uint8Array {
    return this.pages[page];
  }

  erase(page: 0 | 1): void {
    this.pages[page].fill(0xff);
  }

  write(page: 0 | 1, at: number, byte: number): void {
    this.pages[page][at] = byte;
  }
}
