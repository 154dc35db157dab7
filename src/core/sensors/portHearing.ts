/** What a port heard at one speed. */
export interface HeardAt {
  readonly baud: number;
  readonly seconds: number;
  readonly bytes: number;
  /** Bytes whose stop bit was no stop bit. */
  readonly framing: number;
  /** Whole sentences with a right checksum. */
  readonly sentences: number;
  /** Bytes at the pad that the port sends on. */
  readonly crossed: number;
}

export type Hearing =
  | {
      readonly kind: 'found';
      readonly baud: number;
      readonly crossed: boolean;
      readonly sentencesPerS: number;
      readonly bytesPerS: number;
    }
  | { readonly kind: 'garbage'; readonly crossed: boolean }
  | { readonly kind: 'silent' };

/**
 * What is on a port, from what was heard at every speed: a wrong speed gives framing errors and bytes that never make a
 * sentence, crossed wires speak on the other pad, no power gives silence on both.
 */
export function judgeHeard(heard: readonly HeardAt[]): Hearing {
  const best = heard.reduce<HeardAt | null>((b, h) => (h.sentences > (b?.sentences ?? 0) ? h : b), null);
  if (best && best.sentences >= 2) {
    const crossed = best.crossed > best.bytes;
    return {
      kind: 'found',
      baud: best.baud,
      crossed,
      sentencesPerS: best.sentences / best.seconds,
      bytesPerS: Math.max(best.bytes, best.crossed) / best.seconds,
    };
  }
  const bytes = heard.reduce((sum, h) => sum + h.bytes, 0);
  const crossed = heard.reduce((sum, h) => sum + h.crossed, 0);
  return bytes + crossed > 4 ? { kind: 'garbage', crossed: crossed > bytes } : { kind: 'silent' };
}
