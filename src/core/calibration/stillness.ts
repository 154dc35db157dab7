import type { Triple } from '../math/triple.ts';

/** A time in which a craft was held still: means over it, and how still it was. */
export interface StillTime {
  /** Board's time of its first and last sample, s. */
  readonly fromS: number;
  readonly toS: number;
  readonly samples: number;
  /** Mean specific force, m/s^2, board axes, as the chip says it. */
  readonly force: Triple;
  /** Mean turn rate, rad/s, board axes; null where no gyro was heard. */
  readonly rate: Triple | null;
  /** Standard deviation of the force about its mean, the largest of three axes, m/s^2. */
  readonly spread: number;
}

export interface StillRules {
  /** How long it has to be still, s. */
  readonly forS: number;
  /** The most that the force may wander within that time (its quarters' means apart), m/s^2. */
  readonly wander: number;
  /** The most that it may turn, rad/s. */
  readonly turn: number;
  /** Share of the samples of that time that has to have come. */
  readonly share: number;
  /** Samples apart by more than this end it, s. */
  readonly gapS: number;
}

/** For gestures and poses held in the hand: trembling is forgiven, moving on is not. */
const heldStill: StillRules = { forS: 1.2, wander: 0.35, turn: 0.12, share: 0.6, gapS: 0.4 };

const QUARTERS = 4;
const KEPT = 4096;

/**
 * Watches samples for a time that is still, by the board's own time. It forgets everything at a gap, and samples that come
 * twice or late are left out.
 */
export class StillWatch {
  private readonly at = new Float64Array(KEPT);
  private readonly values = new Float64Array(6 * KEPT);
  private count = 0;
  private rated = false;
  /** Usual time between samples, s. */
  private every = Number.POSITIVE_INFINITY;

  constructor(private readonly rules: StillRules = heldStill) {}

  /** Forgets all, as when the cable was out. */
  clear(): void {
    this.count = 0;
    this.every = Number.POSITIVE_INFINITY;
  }

  /** @param atS board's time @param force m/s^2 @param rate rad/s, or null */
  push(atS: number, force: Triple, rate: Triple | null): void {
    if (!force.every(Number.isFinite)) return;
    const last = this.count > 0 ? this.at[(this.count - 1) % KEPT]! : Number.NEGATIVE_INFINITY;
    if (atS <= last) return;
    const gap = atS - last;
    if (gap > this.rules.gapS) this.clear();
    else this.every = Math.min(this.every, gap);
    const k = this.count % KEPT;
    this.at[k] = atS;
    this.values.set(force, 6 * k);
    this.rated = rate !== null;
    if (rate) this.values.set(rate, 6 * k + 3);
    this.count++;
  }

  /** How long it has been still by now, as a share of what is asked for; 1 when it has been for long enough. */
  get progress(): number {
    const { forS } = this.rules;
    for (let share = 1; share > 0; share -= 0.25) if (this.over(forS * share)) return share;
    return 0;
  }

  /** One and the same number all the while: no chip is so quiet, it hangs. */
  get hangs(): boolean {
    if (this.count < 3 * QUARTERS) return false;
    const newest = 6 * ((this.count - 1) % KEPT);
    for (let k = this.count - 3 * QUARTERS; k < this.count; k++)
      for (let j = 0; j < 3; j++)
        if (this.values[6 * (k % KEPT) + j] !== this.values[newest + j]) return false;
    return true;
  }

  /** The still time that ends with the newest sample, or null when it moves. */
  still(): StillTime | null {
    return this.over(this.rules.forS);
  }

  private over(seconds: number): StillTime | null {
    if (this.count === 0 || this.hangs) return null;
    const newest = this.at[(this.count - 1) % KEPT]!;
    const oldest = Math.max(0, this.count - KEPT);
    let first = this.count - 1;
    while (first > oldest && this.at[(first - 1) % KEPT]! >= newest - seconds) first--;
    const n = this.count - first;
    const from = this.at[first % KEPT]!;
    if (newest - from < seconds - 2 * Math.max(this.every, 1e-3) || n < 2 * QUARTERS) return null;
    if (n * this.every < this.rules.share * seconds) return null;
    const sum = new Float64Array(6);
    const square = new Float64Array(3);
    const quarter = Array.from({ length: QUARTERS }, () => new Float64Array(4));
    for (let k = first; k < this.count; k++) {
      const i = 6 * (k % KEPT);
      const q = quarter[Math.min(QUARTERS - 1, Math.floor(((k - first) * QUARTERS) / n))]!;
      q[3]!++;
      for (let j = 0; j < 3; j++) {
        const f = this.values[i + j]!;
        sum[j]! += f;
        square[j]! += f * f;
        q[j]! += f;
        sum[3 + j]! += this.values[i + 3 + j]!;
      }
    }
    const mean = (j: number) => sum[j]! / n;
    const force: Triple = [mean(0), mean(1), mean(2)];
    const rate: Triple | null = this.rated ? [mean(3), mean(4), mean(5)] : null;
    if (rate && Math.hypot(...rate) > this.rules.turn) return null;
    let spread = 0;
    for (let j = 0; j < 3; j++) {
      const ofQuarters = quarter.map((q) => q[j]! / Math.max(1, q[3]!));
      if (Math.max(...ofQuarters) - Math.min(...ofQuarters) > this.rules.wander) return null;
      spread = Math.max(spread, Math.sqrt(Math.max(0, square[j]! / n - force[j]! ** 2)));
    }
    return { fromS: from, toS: newest, samples: n, force, rate, spread };
  }
}
