import { flyOverlay } from '#bench/overlaySeen.ts';
import type { RehearsalInput } from '#bench/rehearsal.ts';
import { verdictWords } from '#core/formats/rehearsalResult.ts';
import type { PackedViews } from '#core/overlay/view.ts';

/** A flight as it is played under an overlay. */
export interface OverlayFlown {
  readonly tape: PackedViews;
  /** `POSE_NUMBERS` each. */
  readonly poses: Float64Array;
  /** What the board decided, s since the launch. */
  readonly moments: readonly { readonly atS: number; readonly text: string }[];
  readonly verdict: string;
}

/** Flies what is drafted with a chip that takes what the board writes over the picture. */
export function overlayFlown(input: RehearsalInput): OverlayFlown | { readonly refused: string } {
  const { tape, poses, result } = flyOverlay(input);
  if (result.verdict === 'not-flown' || tape.count < 2) return { refused: result.reason };
  return {
    tape,
    poses,
    moments: result.decisions.filter((d) => d.atS >= 0),
    verdict: `${verdictWords[result.verdict]}. ${result.reason}`,
  };
}
