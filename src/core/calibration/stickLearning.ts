/** What came of watching the channels for a while. */
export type StickOutcome =
  | { readonly kind: 'waiting'; readonly progress: number; readonly says: string }
  | {
      readonly kind: 'learnt';
      /** 1-based. */
      readonly channel: number;
      readonly fromUs: number;
      readonly toUs: number;
    }
  | { readonly kind: 'unclear'; readonly says: string };

/** A stick has moved when its channel went at least this far, and every other stayed within a third of it. */
const LEAST_MOVE_US = 350;
/** Noise of a channel at rest, us. */
const NOISE_US = 3;
/** Sticks rest when no channel leaves so narrow a band, us, for so long, s. */
const REST_BAND_US = 3 * NOISE_US;
const REST_S = 0.3;
/** A stick that ends within so much of the middle of its way has not come to an end, us: it was let go of. */
const MIDDLE_US = 1500;
const NEAR_MIDDLE_US = 200;
/** It has reached its end when it goes no farther for so long, s. */
const SETTLED_S = 0.2;
/** Two that moved alike for so long will not become one, s. */
const UNCLEAR_S = 1;
/** Of the progress, what the way is worth; the rest is resting at the end of it. */
const WAY_SHARE = 0.8;

/**
 * Finds the channel that a stick moves, from frames as they come: time is that of the frames, not of a display.
 * It waits until all of them rest first, so that one which is only just being let go of is not taken for the one that is asked for.
 */
export class StickLearning {
  private start: readonly number[] = [];
  private farthest: number[] = [];
  private rested = false;
  private restS = 0;
  /** 1-based, while sticks are still moving. */
  private restless: number | null = null;

  /** The channel that keeps the sticks from resting, 1-based; null when they have rested. */
  get stillMoving(): number | null {
    return this.rested ? null : this.restless;
  }

  /** Looks at one more frame. @param channels us @param dt since the frame before, s */
  look(channels: ArrayLike<number>, dt: number): StickOutcome {
    if (!this.rested) return this.awaitRest(channels, dt);
    const { start } = this;
    let grew = false;
    for (let i = 0; i < start.length; i++) {
      const now = channels[i] ?? start[i]!;
      if (Math.abs(now - start[i]!) > this.move(i) + NOISE_US) {
        this.farthest[i] = now;
        grew = true;
      }
    }
    this.restS = grew ? 0 : this.restS + dt;
    const moves = start.map((_, i) => this.move(i));
    const most = Math.max(...moves);
    const at = moves.indexOf(most);
    const second = moves.reduce((next, m, i) => (i !== at && m > moves[next]! ? i : next), at === 0 ? 1 : 0);
    const way = Math.min(1, most / LEAST_MOVE_US);
    if (way < 1)
      return {
        kind: 'waiting',
        progress: WAY_SHARE * way,
        says: most > 10 * NOISE_US ? 'Farther, to its very end.' : 'No stick has moved yet.',
      };
    if (moves[second]! > most / 3) {
      const both = [at + 1, second + 1].sort((a, b) => a - b).join(' and ');
      const says = `Channels ${both} moved both; move one stick, one way.`;
      return this.restS < UNCLEAR_S
        ? { kind: 'waiting', progress: WAY_SHARE, says }
        : { kind: 'unclear', says };
    }
    if (Math.abs(this.farthest[at]! - MIDDLE_US) < NEAR_MIDDLE_US)
      return { kind: 'waiting', progress: WAY_SHARE, says: 'Farther, to its very end.' };
    if (this.restS < SETTLED_S)
      return {
        kind: 'waiting',
        progress: WAY_SHARE + (1 - WAY_SHARE) * (this.restS / SETTLED_S),
        says: `Channel ${at + 1} moves.`,
      };
    return { kind: 'learnt', channel: at + 1, fromUs: start[at]!, toUs: this.farthest[at]! };
  }

  private awaitRest(channels: ArrayLike<number>, dt: number): StickOutcome {
    const now = Array.from(channels);
    const moved = now.findIndex((us, i) => Math.abs(us - (this.start[i] ?? us)) > REST_BAND_US);
    if (this.start.length === 0 || moved >= 0) {
      this.start = now;
      this.restS = 0;
      this.restless = moved < 0 ? this.restless : moved + 1;
    } else this.restS += dt;
    this.rested = this.restS >= REST_S;
    if (this.rested) {
      this.restS = 0;
      this.farthest = [...this.start];
      return { kind: 'waiting', progress: 0, says: 'No stick has moved yet.' };
    }
    const says = this.restless === null ? '' : ` Channel ${this.restless} still moves.`;
    return { kind: 'waiting', progress: 0, says: `Let all sticks rest first.${says}` };
  }

  private move(i: number): number {
    return Math.abs(this.farthest[i]! - this.start[i]!);
  }
}
