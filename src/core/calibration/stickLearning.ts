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
/** It has reached its end when it goes no farther for so long, s. */
const SETTLED_S = 0.2;
/** Two that moved alike for so long will not become one, s. */
const UNCLEAR_S = 1;
/** Of the progress, what the way is worth; the rest is resting at the end of it. */
const WAY_SHARE = 0.8;

/** Finds the channel that a stick moves, from frames as they come: time is that of the frames, not of a display. */
export class StickLearning {
  private readonly start: readonly number[];
  private readonly farthest: number[];
  private restS = 0;

  /** @param channels us, with all sticks at rest */
  constructor(channels: ArrayLike<number>) {
    this.start = Array.from(channels);
    this.farthest = [...this.start];
  }

  /** Looks at one more frame. @param channels us @param dt since the frame before, s */
  look(channels: ArrayLike<number>, dt: number): StickOutcome {
    let grew = false;
    for (let i = 0; i < this.start.length; i++) {
      const now = channels[i] ?? this.start[i]!;
      if (Math.abs(now - this.start[i]!) > this.move(i) + NOISE_US) {
        this.farthest[i] = now;
        grew = true;
      }
    }
    this.restS = grew ? 0 : this.restS + dt;
    const moves = this.start.map((_, i) => this.move(i));
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
    if (this.restS < SETTLED_S)
      return {
        kind: 'waiting',
        progress: WAY_SHARE + (1 - WAY_SHARE) * (this.restS / SETTLED_S),
        says: `Channel ${at + 1} moves.`,
      };
    return { kind: 'learnt', channel: at + 1, fromUs: this.start[at]!, toUs: this.farthest[at]! };
  }

  private move(i: number): number {
    return Math.abs(this.farthest[i]! - this.start[i]!);
  }
}
