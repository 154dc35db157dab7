import { type ImageInfo, LEAST_IMAGE_BYTES, sameImage } from '#core/formats/firmwareImage.ts';
import { crc32 } from '#core/wire/crc32.ts';
import type { Answer, Request } from '#core/wire/messages.ts';
import { Refused } from '#core/wire/refusals.ts';
import { BLOCK_BYTES, type ImageRegion } from './imageRegion.ts';

/** Bytes that flash takes in a step of 1 ms, and that it erases. */
const WRITE_BYTES = 64;
const ERASE_BYTES = 512;
/** Blocks that wait to be written. */
const MOST_WAITING = 8;

interface Waiting {
  readonly id: number;
  readonly at: number;
  readonly bytes: Uint8Array;
  done: number;
}

/**
 * How a flash takes an image, of the board or of a part that hangs on it: block by block, in any order, each as often as it comes;
 * what is written stays written when the power goes, so that it goes on where it was.
 */
export class ImageTaking {
  /** Told the request of a block once that is written. */
  onWritten: (id: number) => void = () => {};
  private readonly waiting: Waiting[] = [];

  /** @param who what takes it, in a sentence: "this board" */
  constructor(
    readonly region: ImageRegion,
    private readonly target: string,
    private readonly who: string,
  ) {}

  /** A millisecond of its flash's work. */
  step(): void {
    const r = this.region;
    if (r.toErase > 0) {
      r.erase(ERASE_BYTES);
      return;
    }
    const w = this.waiting[0];
    if (!w) return;
    const upTo = Math.min(w.bytes.length, w.done + WRITE_BYTES);
    r.bytes.set(w.bytes.subarray(w.done, upTo), w.at + w.done);
    w.done = upTo;
    if (upTo < w.bytes.length) return;
    this.waiting.shift();
    r.whole[w.at / BLOCK_BYTES] = 1;
    r.changes++;
    this.onWritten(w.id);
  }

  /** The power went: what waited is gone. */
  cut(): void {
    this.waiting.length = 0;
  }

  state(): Answer<'loader-state'> {
    const r = this.region;
    return {
      target: this.target,
      flashBytes: r.size,
      blockBytes: BLOCK_BYTES,
      plan: r.plan,
      whole: r.whole,
      erasing: r.toErase,
      verified: r.verified,
    };
  }

  /** @returns whether it goes on with an image that was begun before, or why it takes none */
  begin(plan: ImageInfo): { readonly goesOn: boolean } | Refused {
    const r = this.region;
    if (plan.target !== this.target)
      return new Refused(
        'other-target',
        `The image is for ${plan.target}; ${this.who} is ${this.target}. Nothing was erased.`,
      );
    if (plan.size < LEAST_IMAGE_BYTES)
      return new Refused(
        'no-image',
        `An image of ${plan.size} bytes is none: it has no room to say what it is. Nothing was erased.`,
      );
    if (plan.size > r.size)
      return new Refused(
        'too-large',
        `The image has ${plan.size} bytes; the flash has ${r.size}. Nothing was erased.`,
      );
    const same = r.plan?.crc === plan.crc && r.plan.size === plan.size && r.plan.version === plan.version;
    // An image whose checksum did not come out is begun from the start.
    const spoilt = same && !r.verified && !r.whole.includes(0) && !r.correct;
    if (!same || spoilt) {
      this.waiting.length = 0;
      r.begin(plan);
    }
    return { goesOn: same && !spoilt && !r.verified };
  }

  /** The answer, or null when it comes once the block is written. */
  block(q: Extract<Request, { t: 'loader-block' }>): object | Refused | null {
    const r = this.region;
    if (!r.plan || r.verified) return new Refused('no-image', 'No image is being written.');
    if (r.toErase > 0) return new Refused('erasing', 'The flash is still being erased.');
    const index = q.at / BLOCK_BYTES;
    const wanted = Math.min(BLOCK_BYTES, r.plan.size - q.at);
    if (!Number.isInteger(index) || index >= r.whole.length || q.bytes.length !== wanted)
      return new Refused('no-block', 'There is no such block in the image.');
    if (crc32(q.bytes) !== q.crc) return new Refused('damaged', 'The block was damaged on the way.');
    if (r.whole[index] === 1) return {};
    const known = this.waiting.findIndex((w) => w.at === q.at);
    if (known >= 0) {
      // Said again before it was written: one answer to the newest is enough.
      if (this.waiting[known]!.id === q.id) return null;
      this.waiting[known] = { ...this.waiting[known]!, id: q.id };
      return null;
    }
    if (this.waiting.length >= MOST_WAITING) return new Refused('busy', 'The loader is busy.');
    this.waiting.push({ id: q.id, at: q.at, bytes: q.bytes, done: 0 });
    return null;
  }

  verify(): object | Refused {
    const r = this.region;
    if (!r.plan || r.whole.includes(0)) return new Refused('no-image', 'Not all blocks are written yet.');
    if (r.described && r.described.target !== this.target)
      return new Refused(
        'other-target',
        `What is in the flash says that it is for ${r.described.target}; ${this.who} is ${this.target}. It is not started.`,
      );
    r.verified = r.correct;
    r.changes++;
    return r.verified
      ? {}
      : new Refused(
          'wrong-checksum',
          `The image in the flash is not what it should be: ${r.described && r.plan && sameImage(r.described, r.plan) ? 'its checksum differs' : 'it says other things of itself than were announced, or its checksum differs'}. Write it once more.`,
        );
  }

  /** Looked at anew: what is started is for this board or part, whatever the plan said. */
  get startable(): boolean {
    return this.region.startable && this.region.described?.target === this.target;
  }
}
