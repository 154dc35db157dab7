import { type ImageInfo, LEAST_IMAGE_BYTES, sameImage } from '#core/formats/firmwareImage.ts';
import { parsed } from '#core/parsed.ts';
import { type Act, ActOrder, freshKey, isActing } from '#core/wire/acts.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { encodeFrame, FrameReader } from '#core/wire/frames.ts';
import {
  type Abilities,
  LINK_VERSION,
  type Request,
  requestKinds,
  requestSchema,
} from '#core/wire/messages.ts';
import { Refused } from '#core/wire/refusals.ts';
import { LATE } from './boardLink.ts';
import { BLOCK_BYTES, type ImageRegion } from './imageRegion.ts';
import type { FlashDevice } from './pages.ts';

/** Bytes that flash takes in a step of 1 ms, and that it erases. */
const WRITE_BYTES = 64;
const ERASE_BYTES = 512;
/** Blocks that wait to be written. */
const MOST_WAITING = 8;

const ABILITIES: Abilities = {
  requests: requestKinds.filter((k) => k === 'hello' || k.startsWith('loader-')),
  telemetry: [],
  procedures: [],
  streams: [],
};

interface Waiting {
  readonly id: number;
  readonly at: number;
  readonly bytes: Uint8Array;
  done: number;
}

/** Who the loader says it is. */
export interface LoaderBoard {
  readonly board: string;
  readonly revision: string;
  readonly target: string;
  readonly serial: string;
  readonly restartCause: string;
}

/**
 * The loader: runs when there is no firmware to start, or when it is asked for. Takes an image block by block, in
 * any order, each as often as it comes; what is written stays written when the power goes, so that it goes on where
 * it was. Touches the settings only when it is told to wipe them.
 */
export class Loader {
  readonly reader: FrameReader;
  startWanted = false;
  private readonly acts = new ActOrder(freshKey());
  private uptimeS = 0;
  private readonly waiting: Waiting[] = [];

  constructor(
    private readonly region: ImageRegion,
    private readonly settings: FlashDevice,
    private readonly board: LoaderBoard,
    private readonly send: (bytes: Uint8Array) => void,
  ) {
    this.reader = new FrameReader((message) => this.receive(message));
  }

  step(dt: number): void {
    this.uptimeS += dt;
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
    this.send(encodeFrame({ t: 'ok', id: w.id, a: {} }));
  }

  private receive(message: unknown): void {
    const result = parsed(requestSchema, message);
    if (!result.success) return;
    const q = result.data;
    const late = isActing(q.t) && !this.acts.take((q as { act?: Act }).act);
    const answer = late ? LATE : this.answer(q);
    if (answer === null) return;
    if (answer instanceof Refused)
      this.send(encodeFrame({ t: 'no', id: q.id, code: answer.code, why: answer.why }));
    else this.send(encodeFrame({ t: 'ok', id: q.id, a: answer }));
  }

  /** The answer, or null when it comes once the block is written. */
  private answer(q: Request): object | Refused | null {
    const r = this.region;
    switch (q.t) {
      case 'hello':
        return {
          board: this.board.board,
          revision: this.board.revision,
          target: this.board.target,
          firmware: 'Loader',
          version: '1',
          serial: this.board.serial,
          link: LINK_VERSION,
          settings: 0,
          fingerprint: '',
          uptimeS: this.uptimeS,
          restartCause: this.board.restartCause,
          acts: { key: this.acts.key, after: this.acts.after },
          can: ABILITIES,
        };
      case 'loader-state':
        return {
          target: this.board.target,
          flashBytes: r.size,
          blockBytes: BLOCK_BYTES,
          plan: r.plan,
          whole: r.whole,
          erasing: r.toErase,
          verified: r.verified,
        };
      case 'loader-begin':
        return this.begin(q.plan, q.wipe);
      case 'loader-block':
        return this.block(q);
      case 'loader-verify':
        if (!r.plan || r.whole.includes(0)) return new Refused('no-image', 'Not all blocks are written yet.');
        if (r.described && r.described.target !== this.board.target)
          return new Refused(
            'other-target',
            `What is in the flash says that it is for ${r.described.target}; this board is ${this.board.target}. It is not started.`,
          );
        r.verified = r.correct;
        r.changes++;
        return r.verified
          ? {}
          : new Refused(
              'wrong-checksum',
              `The image in the flash is not what it should be: ${r.described && r.plan && sameImage(r.described, r.plan) ? 'its checksum differs' : 'it says other things of itself than were announced, or its checksum differs'}. Write it once more.`,
            );
      case 'loader-start':
        // Looked at anew: what is started is for this board, whatever the plan said.
        if (!r.startable || r.described?.target !== this.board.target)
          return new Refused('not-verified', 'There is no verified firmware to start.');
        this.startWanted = true;
        return {};
      default:
        return new Refused(
          'in-loader',
          'The loader is running: there are no settings to ask for. Write a firmware or start the one there is.',
        );
    }
  }

  private begin(plan: ImageInfo, wipe: boolean): object | Refused {
    const r = this.region;
    if (plan.target !== this.board.target)
      return new Refused(
        'other-target',
        `The image is for ${plan.target}; this board is ${this.board.target}. Nothing was erased.`,
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
    const goesOn = same && !spoilt && !r.verified;
    // Going on after an interruption erases nothing again: what was to go is gone since the beginning.
    if (wipe && !goesOn) {
      this.settings.erase(0);
      this.settings.erase(1);
    }
    if (!same || spoilt) {
      this.waiting.length = 0;
      r.begin(plan);
    }
    return {};
  }

  private block(q: Extract<Request, { t: 'loader-block' }>): object | Refused | null {
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
}
