import type { StreamBlock } from './client.ts';

/** Whoever takes the blocks of a raw stream. */
export interface StreamSink {
  push(block: StreamBlock): void;
  /** The link went: blocks and the board's time begin anew. */
  clear(): void;
}

/**
 * The newest samples of one raw stream. What was lost on the cable is known by the blocks' numbers: a run holds only samples
 * without a gap between them, as spectra need them.
 */
export class StreamRing implements StreamSink {
  private readonly values: Float32Array;
  private next = 0;
  private run = 0;
  private lastBlock = -1;
  /** Blocks that never came, or came too late. */
  lost = 0;
  /** Board's time of the newest sample and between samples, s. */
  newestS = 0;
  dtS = 0;

  /** @param width fields of a sample @param capacity samples that are kept */
  constructor(
    readonly width: number,
    readonly capacity: number,
  ) {
    this.values = new Float32Array(width * capacity);
  }

  push(block: StreamBlock): void {
    const count = block.values.length / this.width;
    if (block.n <= this.lastBlock || !Number.isInteger(count)) return;
    const missing = this.lastBlock < 0 ? 0 : block.n - this.lastBlock - 1;
    this.lost += missing;
    if (missing > 0) this.run = 0;
    this.lastBlock = block.n;
    for (let i = 0; i < count; i++) {
      const to = (this.next % this.capacity) * this.width;
      for (let k = 0; k < this.width; k++) this.values[to + k] = block.values[i * this.width + k]!;
      this.next++;
    }
    this.run = Math.min(this.capacity, this.run + count);
    this.dtS = block.dtS;
    this.newestS = block.atS + (count - 1) * block.dtS;
  }

  clear(): void {
    this.next = 0;
    this.run = 0;
    this.lastBlock = -1;
    this.lost = 0;
  }

  /** Samples without a gap, up to the newest. */
  get unbroken(): number {
    return this.run;
  }

  /** One field of the newest samples without a gap, oldest first; fewer than asked for where there are not so many. */
  newest(field: number, most: number): Float32Array {
    const count = Math.min(most, this.run);
    const out = new Float32Array(count);
    for (let i = 0; i < count; i++)
      out[i] = this.values[((this.next - count + i) % this.capacity) * this.width + field]!;
    return out;
  }
}
