import { readVideo, videoBandIds, videoBands, writeVideo } from '#core/video/transmitter.ts';

/** The most that this one sends with, mW. */
const MOST_MW = 600;
const known = new Set<number>(videoBandIds.flatMap((id) => [...videoBands[id].mhz]));

/** A video transmitter on the flight battery: it goes where it is told on frequencies that it knows, with what it has. @returns what it says that it does; null where it is silent */
export function answerVideo(frame: Uint8Array, powered: boolean): Uint8Array | null {
  const asked = readVideo(frame);
  if (!powered || !asked || !known.has(asked.mhz)) return null;
  return writeVideo(asked.mhz, Math.min(MOST_MW, asked.mw));
}
