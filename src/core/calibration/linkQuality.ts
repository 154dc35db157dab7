import { clamp } from '../math/scalar.ts';

/** What a board heard over a second: pulses of all channels, us, and what the protocol says of the link, 0..1. */
export interface HeardMean {
  readonly channels: readonly number[];
  readonly quality: number;
}

export type QualityFound =
  | {
      readonly kind: 'channel';
      readonly channel: number;
      readonly fullUs: number;
      readonly weakUs: number;
      /** Where it should be for nothing at all: the end of the travel that it goes towards. */
      readonly noneUs: number;
    }
  | { readonly kind: 'protocol'; readonly near: number; readonly weak: number }
  | { readonly kind: 'nobody' };

/** A channel tells of the link where it moved by more than this, us; the protocol where it changed by more, of one. */
const MOVED_US = 80;
const CHANGED = 0.15;
/** Ends of a channel's usual travel, us. */
const [LOW_US, HIGH_US] = [1000, 2000];

/**
 * Who tells how well a receiver hears, from a link that was good and then weak. A channel comes before the protocol: what a
 * receiver puts there it measured, while its frames may say what they always say.
 * @param hands channels of sticks and switches, from 1, which a hand may have moved meanwhile
 */
export function qualityFrom(near: HeardMean, weak: HeardMean, hands: readonly number[]): QualityFound {
  let best = 0;
  let channel = 0;
  near.channels.forEach((us, k) => {
    const moved = Math.abs((weak.channels[k] ?? us) - us);
    if (!hands.includes(k + 1) && moved > Math.max(best, MOVED_US)) {
      best = moved;
      channel = k + 1;
    }
  });
  if (channel > 0) {
    const [fullUs, weakUs] = [near.channels[channel - 1]!, weak.channels[channel - 1]!];
    const end = weakUs < fullUs ? LOW_US : HIGH_US;
    const noneUs = weakUs < fullUs ? Math.min(end, weakUs) : Math.max(end, weakUs);
    return {
      kind: 'channel',
      channel,
      fullUs: Math.round(clamp(fullUs, 800, 2200)),
      weakUs,
      noneUs: Math.round(clamp(noneUs, 800, 2200)),
    };
  }
  return Math.abs(near.quality - weak.quality) > CHANGED
    ? { kind: 'protocol', near: near.quality, weak: weak.quality }
    : { kind: 'nobody' };
}
