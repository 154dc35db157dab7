import { mean, spread } from '../analysis/spread.ts';

/** How a stick comes in on its channel, us. */
export interface StickRange {
  readonly lowUs: number;
  readonly highUs: number;
  /** Where it comes to rest when it is let go, and its noise there, one sigma; null for a throttle, which stays where it is put. */
  readonly middleUs: number | null;
  readonly noiseUs: number | null;
}

/** Rest is looked at over so long, s: two hundred samples of the slowest receiver know their spread within a fifth, at four sigma. */
export const REST_S = 4;
/** At rest a pulse, however noisy, stays within this of where it came to rest, us. */
const STILL_US = 60;
/** A stick rests at its middle within so much of 1500 us; farther off it is held, or is none. */
const MIDDLE_WITHIN_US = 150;
/** It was stirred once it came so far to either side, us. */
const STIRRED_US = 150;

/** Watches one channel while its stick is stirred along its edges and let go. */
export class RangeWatch {
  private low = Number.POSITIVE_INFINITY;
  private high = Number.NEGATIVE_INFINITY;
  private readonly times: number[] = [];
  private readonly newest: number[] = [];
  /** A pulse that it rests about, since when and for how long. */
  private about = Number.NaN;
  private sinceS = 0;
  private restS = 0;
  private middle: number | null = null;
  private noise: number | null = null;

  /** @param centred it goes back to its middle by itself */
  constructor(private readonly centred: boolean) {}

  /** @param us pulse @param atS the board's time */
  step(us: number, atS: number): void {
    this.low = Math.min(this.low, us);
    this.high = Math.max(this.high, us);
    this.times.push(atS);
    this.newest.push(us);
    while (this.times[0]! < atS - REST_S) {
      this.times.shift();
      this.newest.shift();
    }
    if (!this.centred || !this.stirred) return;
    if (!(Math.abs(us - this.about) <= STILL_US) || Math.abs(us - 1500) > MIDDLE_WITHIN_US) {
      this.about = us;
      this.sinceS = atS;
    }
    this.restS = atS - this.sinceS;
    if (this.restS < REST_S) return;
    this.middle = mean(this.newest);
    this.noise = spread(this.newest);
  }

  /** How long it has rested, of what is needed: 0..1. */
  get rested(): number {
    if (!this.centred || this.middle !== null) return 1;
    return this.times.length === 0 ? 0 : Math.min(1, this.restS / REST_S);
  }

  /** It went to both sides. */
  get stirred(): boolean {
    return this.high - this.low > 2 * STIRRED_US;
  }

  /** What was found, once it was stirred and, where it centres, let go. */
  get range(): StickRange | null {
    if (!this.stirred || (this.centred && this.middle === null)) return null;
    return { lowUs: this.low, highUs: this.high, middleUs: this.middle, noiseUs: this.noise };
  }
}

export type RangeVerdict = 'good' | 'trim' | 'short' | 'long' | 'lopsided' | 'noisy';

/** Ends and middle as a radio should give them, us, and how far off nobody minds. */
const LOW_US = 1000;
const HIGH_US = 2000;
const MIDDLE_US = 1500;
const ENDS_WITHIN_US = 15;
const MIDDLE_WITHIN = 3;
/** Noise that a deadband can hide without the stick feeling loose, us. */
const NOISE_MOST_US = 6;

/** What is wrong with how a stick comes in, and where that is mended: always at the radio. */
export function judgeRange(
  stick: string,
  r: StickRange,
): { readonly verdict: RangeVerdict; readonly sentence: string } {
  const low = LOW_US - r.lowUs;
  const high = r.highUs - HIGH_US;
  const off = (r.middleUs ?? MIDDLE_US) - MIDDLE_US;
  const us = (v: number) => Math.abs(Math.round(v));
  if (Math.abs(off) > MIDDLE_WITHIN) {
    // A trim moves the middle; what moves middle and ends alike is one that is left on, or a sub-trim.
    return {
      verdict: 'trim',
      sentence: `Rests ${us(off)} µs ${off > 0 ? 'above' : 'below'} its middle: a trim of ${stick} was left on at the transmitter. Take it off there; the board trims the surface.`,
    };
  }
  if ((r.noiseUs ?? 0) > NOISE_MOST_US)
    return {
      verdict: 'noisy',
      sentence: `Trembles by ${r.noiseUs!.toFixed(1)} µs at rest: more than a deadband should hide. The stick’s sensor is worn, or dirty.`,
    };
  // What noise adds to an end is none of its travel.
  const within = ENDS_WITHIN_US + 3 * (r.noiseUs ?? 0);
  const [least, most] = [Math.min(low, high), Math.max(low, high)];
  if (most - least > 2 * within)
    return {
      verdict: 'lopsided',
      sentence: `Goes ${us(r.lowUs - MIDDLE_US)} µs one way and ${us(r.highUs - MIDDLE_US)} µs the other: its ends are set apart at the transmitter. Set them alike there.`,
    };
  if (least < -within)
    return {
      verdict: 'short',
      sentence: `Reaches ${Math.round(r.lowUs)} to ${Math.round(r.highUs)} µs only: a dual rate or an end is turned down at the transmitter, or it was not stirred to its corners. Give it its full travel there.`,
    };
  if (most > within)
    return {
      verdict: 'long',
      sentence: `Reaches ${Math.round(r.lowUs)} to ${Math.round(r.highUs)} µs: the last of its travel does nothing. Turn its ends down to 1000 and 2000 µs at the transmitter.`,
    };
  return { verdict: 'good', sentence: 'As it should be.' };
}

/** Deadband that hides the noise of all: three sigma of the worst, us (a pulse in 370 passes). At least 1. */
export function deadbandFor(ranges: readonly StickRange[]): number {
  const worst = Math.max(0, ...ranges.map((r) => r.noiseUs ?? 0));
  return Math.max(1, Math.ceil(3 * worst));
}
