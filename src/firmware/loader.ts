import type { ImageInfo } from '#core/formats/firmwareImage.ts';
import { parsed } from '#core/parsed.ts';
import { type Act, ActOrder, freshKey, isActing } from '#core/wire/acts.ts';
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
import type { ImageRegion } from './imageRegion.ts';
import { ImageTaking } from './imageTaking.ts';
import type { FlashDevice } from './pages.ts';

const ABILITIES: Abilities = {
  requests: requestKinds.filter((k) => k === 'hello' || k.startsWith('loader-')),
  telemetry: [],
  procedures: [],
  streams: [],
};

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
 * it was. Touches settings, route and fences only when it is told to wipe them.
 */
export class Loader {
  readonly reader: FrameReader;
  startWanted = false;
  private readonly acts = new ActOrder(freshKey());
  private uptimeS = 0;
  private readonly taking: ImageTaking;

  constructor(
    region: ImageRegion,
    private readonly wiped: readonly FlashDevice[],
    private readonly board: LoaderBoard,
    private readonly send: (bytes: Uint8Array) => void,
  ) {
    this.reader = new FrameReader((message) => this.receive(message));
    this.taking = new ImageTaking(region, board.target, 'this board');
    this.taking.onWritten = (id) => this.send(encodeFrame({ t: 'ok', id, a: {} }));
  }

  step(dt: number): void {
    this.uptimeS += dt;
    this.taking.step();
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
    // The loader passes nothing on to what hangs on the board.
    if ('to' in q && q.to !== undefined && q.t !== 'bench-move')
      return new Refused(
        'in-loader',
        'The loader is running: it reaches no motor controller. Start the firmware first.',
      );
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
        return this.taking.state();
      case 'loader-begin':
        return this.begin(q.plan, q.wipe);
      case 'loader-block':
        return this.taking.block(q);
      case 'loader-verify':
        return this.taking.verify();
      case 'loader-start':
        if (!this.taking.startable)
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
    const begun = this.taking.begin(plan);
    if (begun instanceof Refused) return begun;
    // Going on after an interruption erases nothing again: what was to go is gone since the beginning.
    if (wipe && !begun.goesOn) {
      for (const flash of this.wiped) {
        flash.erase(0);
        flash.erase(1);
      }
    }
    return {};
  }
}
