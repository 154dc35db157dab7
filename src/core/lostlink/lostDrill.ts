import type { LostLinkState } from './lostLink.ts';

/**
 * A transmitter that is switched off and on again on the bench, watched through what the board says: how long each state of
 * the lost link truly takes. The board is not asked for anything.
 */

/** What a board told of the link at one moment, by its own clock, s. */
export interface LinkNow {
  readonly atS: number;
  readonly lost: string;
}

/** What it took, s from the last frame that was heard; the last from the first frame that was heard again. */
export interface DrillTimes {
  readonly noticedS: number;
  readonly actsS: number;
  readonly backS: number;
}

/** How far a drill is; times that are known by now. */
export interface DrillState {
  readonly state: LostLinkState | 'unknown';
  readonly silentS: number;
  readonly noticedS: number | null;
  readonly actsS: number | null;
  /** Heard again for so long, s. */
  readonly steadyS: number | null;
}

const order: readonly string[] = ['fine', 'noticed', 'guarding', 'acting', 'recovering'];
/** A link that lives has a frame younger than this, s. */
const FRESH_S = 0.15;

/** Feed it all that the board tells of frames and of the link, in the order it is told. */
export class LostDrill {
  private lastFrameS = Number.NaN;
  private state = 'unknown';
  private stateAtS = Number.NaN;
  private silentFromS = Number.NaN;
  private noticedS: number | null = null;
  private actsS: number | null = null;
  private heardFromS: number | null = null;
  private nowS = 0;

  /** A receiver's word: age of the last frame, s. */
  heard(atS: number, frameAge: number): void {
    if (atS < this.nowS - 1) this.reset();
    this.nowS = Math.max(this.nowS, atS);
    if (frameAge > FRESH_S) {
      this.heardFromS = null;
      return;
    }
    this.lastFrameS = atS - frameAge;
    this.heardFromS ??= this.lastFrameS;
  }

  /** The board's word. @returns the times once a drill has come to its end; null before */
  look({ atS, lost }: LinkNow): DrillTimes | null {
    if (atS < this.nowS - 1) this.reset();
    this.nowS = Math.max(this.nowS, atS);
    const before = this.state;
    // Between two words it changed: the middle of them is within half a word of it.
    const changedS = Number.isNaN(this.stateAtS) ? atS : (this.stateAtS + atS) / 2;
    this.state = lost;
    this.stateAtS = atS;
    if (lost === before || before === 'unknown') return null;
    if (lost === 'fine') {
      const done =
        before === 'recovering' && this.noticedS !== null && this.actsS !== null && this.heardFromS !== null
          ? { noticedS: this.noticedS, actsS: this.actsS, backS: changedS - this.heardFromS }
          : null;
      this.noticedS = null;
      this.actsS = null;
      return done;
    }
    if (before === 'fine') {
      this.silentFromS = this.lastFrameS;
      this.noticedS = changedS - this.silentFromS;
      this.actsS = null;
    }
    if (lost === 'acting' && order.indexOf(before) < order.indexOf('acting'))
      this.actsS = changedS - this.silentFromS;
    return null;
  }

  get now(): DrillState {
    return {
      state: order.includes(this.state) ? (this.state as LostLinkState) : 'unknown',
      silentS: Number.isNaN(this.lastFrameS) ? 0 : Math.max(0, this.nowS - this.lastFrameS),
      noticedS: this.noticedS,
      actsS: this.actsS,
      steadyS: this.heardFromS === null ? null : this.nowS - this.heardFromS,
    };
  }

  private reset(): void {
    this.state = 'unknown';
    this.stateAtS = Number.NaN;
    this.lastFrameS = Number.NaN;
    this.noticedS = null;
    this.actsS = null;
    this.heardFromS = null;
    this.nowS = 0;
  }
}

/** A measured time agrees with the drawn one within a word of the board and a frame of the receiver, s. */
export const DRILL_WITHIN_S = 0.2;

/** What of a drill is not as it is drawn; empty where all is. Coming back may take longer: a stick has to be moved as well. */
export function drillOff(
  t: DrillTimes,
  drawn: { readonly noticeS: number; readonly actsS: number; readonly steadyS: number },
): readonly ('noticed' | 'acts' | 'back')[] {
  const off: ('noticed' | 'acts' | 'back')[] = [];
  if (Math.abs(t.noticedS - drawn.noticeS) > DRILL_WITHIN_S) off.push('noticed');
  if (Math.abs(t.actsS - drawn.actsS) > DRILL_WITHIN_S) off.push('acts');
  if (t.backS < drawn.steadyS - DRILL_WITHIN_S) off.push('back');
  return off;
}
