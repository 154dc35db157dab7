import { descriptorOf, type ImageInfo, imageCrc, sameImage } from '#core/formats/firmwareImage.ts';

/** Bytes of a block: the loader takes, notes and repeats whole blocks. */
export const BLOCK_BYTES = 1024;

/**
 * The part of a board's flash that holds its firmware, with the loader's notes about it. All of it outlives the
 * power, at whatever byte that goes.
 */
export class ImageRegion {
  /** Erased flash is all ones. */
  readonly bytes: Uint8Array;
  /** What is being put here, or is here; null for nothing. */
  plan: ImageInfo | null = null;
  /** Blocks that are written whole: 1 each. */
  whole: Uint8Array<ArrayBuffer> = new Uint8Array(0);
  /** Bytes of the old image that are still to be erased. */
  toErase = 0;
  /** The loader has found the image to be what its plan says. */
  verified = false;
  /** Counts up with every change, for those who keep it over a power cut. */
  changes = 0;

  constructor(readonly size: number) {
    this.bytes = new Uint8Array(size).fill(0xff);
  }

  /** A region that holds an image, as it leaves the works. */
  static holding(size: number, image: Uint8Array, info: ImageInfo): ImageRegion {
    const region = new ImageRegion(size);
    region.begin(info);
    region.bytes.set(image);
    region.toErase = 0;
    region.whole.fill(1);
    region.verified = region.correct;
    return region;
  }

  /** Takes a new plan; everything before it is to be erased. */
  begin(plan: ImageInfo): void {
    this.verified = false;
    this.plan = plan;
    this.whole = new Uint8Array(Math.ceil(plan.size / BLOCK_BYTES));
    this.toErase = this.size;
    this.changes++;
  }

  /** Erases some bytes more. */
  erase(count: number): void {
    const from = Math.max(0, this.toErase - count);
    this.bytes.fill(0xff, from, this.toErase);
    this.toErase = from;
    this.changes++;
  }

  /** What the bytes in the flash say that they are, whatever was planned; null where they say nothing. */
  get described(): ImageInfo | null {
    return this.plan && descriptorOf(this.bytes.subarray(0, this.plan.size));
  }

  /** The bytes are those of the plan: their checksum is, and they say so themselves. */
  get correct(): boolean {
    const { plan } = this;
    if (plan === null || this.toErase > 0) return false;
    const { described } = this;
    return (
      described !== null &&
      sameImage(described, plan) &&
      imageCrc(this.bytes.subarray(0, plan.size)) === plan.crc
    );
  }

  /** Firmware that may be started: looked at anew at each start, since flash can go bad. */
  get startable(): boolean {
    return this.verified && this.correct;
  }
}
