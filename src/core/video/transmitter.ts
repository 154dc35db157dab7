import type { Airframe } from '../airframe/airframe.ts';
import type { BoardModel } from '../board/model.ts';

/** The analogue video transmitter: where it sends, with how much, and what it lives on. */

/** Frequencies of the 5.8 GHz bands that transmitters and receivers of many makers share, MHz. */
export const videoBands = {
  a: { name: 'A', mhz: [5865, 5845, 5825, 5805, 5785, 5765, 5745, 5725] },
  b: { name: 'B', mhz: [5733, 5752, 5771, 5790, 5809, 5828, 5847, 5866] },
  e: { name: 'E', mhz: [5705, 5685, 5665, 5645, 5885, 5905, 5925, 5945] },
  f: { name: 'F', mhz: [5740, 5760, 5780, 5800, 5820, 5840, 5860, 5880] },
  r: { name: 'R', mhz: [5658, 5695, 5732, 5769, 5806, 5843, 5880, 5917] },
} as const;
export type VideoBand = keyof typeof videoBands;
export const videoBandIds = Object.keys(videoBands) as readonly VideoBand[];
export const VIDEO_CHANNELS = 8;
export const videoPowersMw = [25, 100, 200, 400, 600, 800] as const;

/** @param channel 1 to 8 */
export const videoMhz = (band: VideoBand, channel: number): number => videoBands[band].mhz[channel - 1]!;

/** Pictures nearer to each other than this disturb each other: an analogue picture is some 18 MHz wide, MHz. */
export const APART_MHZ = 37;

/** How one sees others on the strip: the channels of a band that leave room to all of them. @param others MHz */
export function roomFor(band: VideoBand, others: readonly number[]): readonly number[] {
  return videoBands[band].mhz.flatMap((mhz, i) =>
    others.every((o) => Math.abs(o - mhz) >= APART_MHZ) ? [i + 1] : [],
  );
}

export type VideoFeed = 'battery' | 'rail';

/** A full cell, V (LiPo and Li-ion alike), and one under load at its end. */
const FULL_CELL_V = 4.2;
const END_CELL_V = { lipo: 3.2, 'li-ion': 2.7 } as const;

export interface FeedSeen {
  readonly leastV: number;
  readonly mostV: number;
  /** What is wrong, as a sentence; null where it lives. */
  readonly why: string | null;
}

/**
 * What a transmitter sees on its supply, and whether it lives on that.
 * @param lives from and to, V, as its maker says
 */
export function feedSeen(
  feed: VideoFeed,
  { battery }: Pick<Airframe, 'battery'>,
  board: Pick<BoardModel, 'rails'> | null,
  lives: { readonly leastV: number; readonly mostV: number },
): FeedSeen {
  const rail = board?.rails.find((r) => r.feeds === 'board')?.volts ?? 5;
  const leastV = feed === 'battery' ? END_CELL_V[battery.chemistry] * battery.cells : rail;
  const mostV = feed === 'battery' ? FULL_CELL_V * battery.cells : rail;
  const text = (v: number) => `${v.toFixed(1)} V`;
  const why =
    mostV > lives.mostV
      ? `A full battery gives ${text(mostV)}, and the transmitter bears ${text(lives.mostV)}: it burns with the first power. Feed it from a rail, or over a regulator.`
      : leastV < lives.leastV
        ? `Its supply falls to ${text(leastV)}, and the transmitter wants ${text(lives.leastV)}: the picture goes when the battery is nearly empty.`
        : null;
  return {
    leastV,
    mostV,
    why:
      feed === 'rail' && mostV > lives.mostV
        ? `The rail gives ${text(mostV)}, and the transmitter bears ${text(lives.mostV)}: it burns with the first power.`
        : why,
  };
}

/** Four bytes and their sum: what the board asks of the transmitter, and what that says that it does. A protocol of ours (docs/link.md). */
const HEAD = 0xa7;
const VIDEO_FRAME = 6;

/** Writes where to send and with how much: head, MHz, mW (high byte first each), the sum of all before. */
export function writeVideo(mhz: number, mw: number): Uint8Array {
  const b = [HEAD, mhz >> 8, mhz & 0xff, mw >> 8, mw & 0xff];
  return Uint8Array.from([...b, b.reduce((sum, x) => sum + x, 0) & 0xff]);
}

/** @returns null for what is no such frame */
export function readVideo(frame: Uint8Array): { readonly mhz: number; readonly mw: number } | null {
  if (frame.length !== VIDEO_FRAME || frame[0] !== HEAD) return null;
  const sum = frame.subarray(0, VIDEO_FRAME - 1).reduce((s, x) => s + x, 0) & 0xff;
  if (sum !== frame[VIDEO_FRAME - 1]) return null;
  return { mhz: (frame[1]! << 8) | frame[2]!, mw: (frame[3]! << 8) | frame[4]! };
}
