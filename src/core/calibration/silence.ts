/**
 * What a receiver does once its transmitter is off, told from what the board hears: whether frames go on, what is in them,
 * what it says of the link. Nothing is asked of the receiver itself.
 */

/** What the board told at one moment. */
export interface HeardNow {
  /** s, of the board's own clock */
  readonly atS: number;
  /** us */
  readonly channels: readonly number[];
  /** Since the last frame that counted, s. */
  readonly frameAge: number;
}

/** Counts of the receiver's port. */
export interface Counted {
  readonly atS: number;
  readonly frames: number;
  readonly refused: number;
}

export type AtLoss = 'stops' | 'says-so' | 'holds' | 'makes-up';

export interface Silence {
  readonly does: AtLoss;
  /** The board took it for a loss by itself. */
  readonly noticed: boolean;
  /** Of the throttle afterwards, us. */
  readonly throttleUs: number;
  /** A channel that changed and stayed while the others held, and its pulses before and after; null for none. */
  readonly tells: { readonly channel: number; readonly fromUs: number; readonly toUs: number } | null;
}

/** How long it is watched for: receivers hold for up to about a second before they do what they are set to, s. */
export const WATCH_S = 3;
/** Only what is so at the end of the watch counts, s. */
const LATE_S = 1;
/** Before it is switched off it stands still for so long, s. */
const STILL_S = 0.6;
/** A pulse that moves by less is where it was, us; a hand moves a stick by more; what tells of the link goes far. */
const SAME_US = 12;
const MOVES_US = 60;
const TELLS_US = 150;
/** The board takes a link for dead after this, s (docs/link.md). */
const DEAD_S = 0.3;
/** A link that lives has a frame younger than this whenever it is looked at, s. */
const FRESH_S = 0.1;

/**
 * Watches from before a transmitter is switched off until it is known what the receiver does. The throttle has to stand off both
 * ends before: else held and made-up values are the same.
 */
export class SilenceWatch {
  /** Heard lately, while nothing was marked; then what stood when it was. */
  private before: HeardNow[] = [];
  private isMarked = false;
  private lookedS = Number.NEGATIVE_INFINITY;
  private offS: number | null = null;
  private counted: Counted[] = [];
  private heard: HeardNow[] = [];

  /** @param throttle its channel, from 1 @param sticks channels that a hand may move, from 1 */
  constructor(
    private readonly throttle: number,
    private readonly sticks: readonly number[],
  ) {}

  /** Where the throttle has to be before it is switched off. */
  get ready(): boolean {
    const [first, last] = [this.before[0], this.before.at(-1)];
    const us = last?.channels[this.throttle - 1];
    if (!first || !last || last.atS - first.atS < 0.6 * STILL_S) return false;
    // What was heard a moment ago is not what is heard now.
    if (last.atS < this.lookedS - FRESH_S) return false;
    const steady = this.sticks.every((at) => rangeOf(this.before, at) < MOVES_US);
    return us !== undefined && us > 1150 && us < 1850 && steady;
  }

  /** The person says that it is on and its sticks are still: so it is compared with. False before it is. */
  mark(): boolean {
    this.isMarked = this.ready;
    return this.isMarked;
  }

  get marked(): boolean {
    return this.isMarked;
  }

  /** The person says that it is off now. */
  off(atS: number): void {
    if (this.isMarked && this.offS === null) this.offS = atS;
  }

  get watching(): boolean {
    return this.offS !== null;
  }

  /** How much of the watch is over, 0..1. */
  get share(): number {
    const last = this.heard.at(-1);
    return this.offS === null || !last ? 0 : Math.min(1, (last.atS - this.offS) / WATCH_S);
  }

  look(now: HeardNow): void {
    // What is told in the moment of switching off may be of either side.
    if (this.offS !== null) {
      this.heard.push(now);
      return;
    }
    if (this.isMarked) return;
    this.lookedS = now.atS;
    if (now.frameAge < FRESH_S) this.before.push(now);
    this.before = this.before.filter((h) => h.atS > now.atS - STILL_S);
  }

  count(now: Counted): void {
    if (this.offS !== null && now.atS > (this.counted.at(-1)?.atS ?? this.offS)) this.counted.push(now);
  }

  /** What it does; null while that is not known yet; a sentence where nothing can be said. */
  get found(): Silence | { readonly refused: string } | null {
    const { offS } = this;
    const last = this.heard.at(-1);
    if (this.before.length === 0 || offS === null || !last || last.atS < offS + WATCH_S) return null;
    const late = this.heard.filter((h) => h.atS > last.atS - LATE_S);
    const counts = this.counted.filter((c) => c.atS > last.atS - LATE_S - 0.3);
    const grown = (of: 'frames' | 'refused') => (counts.at(-1)?.[of] ?? 0) - (counts[0]?.[of] ?? 0);
    const [before, after] = [means(this.before), means(late)];
    const throttleUs = after[this.throttle - 1]!;
    const noticed = last.frameAge > DEAD_S;
    // What is held is one sample of a noisy stick.
    const same = (at: number) =>
      Math.abs(after[at - 1]! - before[at - 1]!) < Math.max(SAME_US, 1.5 * rangeOf(this.before, at));
    if (this.sticks.some((at) => rangeOf(late, at) > MOVES_US))
      return {
        refused: 'Its sticks still come through: the transmitter is on. Switch it off, and say so again.',
      };
    if (grown('frames') === 0) return { does: 'stops', noticed, throttleUs, tells: null };
    const tells = this.tellsOf(before, after);
    if (grown('refused') >= 0.8 * grown('frames') && same(this.throttle) && tells === null)
      return { does: 'says-so', noticed, throttleUs, tells };
    const held = this.sticks.every(same);
    return { does: held ? 'holds' : 'makes-up', noticed, throttleUs, tells };
  }

  /** A channel that no hand moves and that went elsewhere: the receiver's own word on how well it hears. */
  private tellsOf(before: readonly number[], after: readonly number[]): Silence['tells'] {
    let most: Silence['tells'] = null;
    after.forEach((toUs, k) => {
      const channel = k + 1;
      const fromUs = before[k]!;
      if (this.sticks.includes(channel) || Math.abs(toUs - fromUs) < TELLS_US) return;
      if (!most || Math.abs(toUs - fromUs) > Math.abs(most.toUs - most.fromUs))
        most = { channel, fromUs, toUs };
    });
    return most;
  }
}

/** How far a channel moved, us. */
function rangeOf(heard: readonly HeardNow[], channel: number): number {
  const us = heard.map((h) => h.channels[channel - 1]!);
  return Math.max(...us) - Math.min(...us);
}

/** Of each channel, against the noise of a stick. */
function means(heard: readonly HeardNow[]): readonly number[] {
  return heard[0]!.channels.map((_, k) => heard.reduce((sum, h) => sum + h.channels[k]!, 0) / heard.length);
}

/** Edits that let a board notice a loss that a receiver hides; null where it can be told by nothing. */
export function unmasking(s: Silence, lowestStickUs: number): Readonly<Record<string, number>> | null {
  if (s.noticed) return {};
  if (s.tells)
    return {
      'rx.quality.channel': s.tells.channel,
      'rx.quality.none': Math.round(s.tells.toUs),
      'rx.quality.full': Math.round(s.tells.fromUs),
    };
  // Half way between what it makes up and what a stick can give.
  if (s.does === 'makes-up' && s.throttleUs < lowestStickUs - 30)
    return { 'rx.lossBelow': Math.round((s.throttleUs + lowestStickUs) / 2) };
  return null;
}
