import { readFlightLog } from '../formats/flightLog.ts';
import type { Place } from '../navigation/earth.ts';
import { type Flown, flownOfLog, MOST_FLOWN_BYTES } from './flown.ts';
import { MOST_TRACK_BYTES, readTrack } from './trackIn.ts';

export type OpenedFlown =
  | {
      readonly ok: true;
      readonly flown: Flown;
      /** Number on its board; null for a track. */
      readonly flight: number | null;
      /** Unix time of its first moment, ms; null where none is told, as by boards. */
      readonly startMs: number | null;
    }
  | { readonly ok: false; readonly why: string };

/**
 * Opens a flight by what it is: a board's own log, or a track.
 * @param about what metres of a log are counted from where it does not say so itself
 */
export function openFlown(bytes: Uint8Array, name: string, about: Place): OpenedFlown {
  if (bytes.length > MOST_FLOWN_BYTES)
    return {
      ok: false,
      why: `${name} has ${(bytes.length / 1e6).toFixed(0)} MB; at most ${MOST_FLOWN_BYTES / 1e6} MB are read. Nothing was taken.`,
    };
  // A head is a map (RFC 8949, 3.1: major type 5); no text begins like that.
  if (bytes[0] !== undefined && bytes[0] >> 5 === 5) {
    const log = readFlightLog(bytes);
    if (!log) return { ok: false, why: `${name} is a log of no board that is known. Nothing was taken.` };
    const flown = flownOfLog(log, about, name);
    if (typeof flown === 'string') return { ok: false, why: `${name} ${flown}. Nothing was taken.` };
    return { ok: true, flown, flight: log.flight, startMs: null };
  }
  if (bytes.length > MOST_TRACK_BYTES)
    return {
      ok: false,
      why: `${name} has ${(bytes.length / 1e6).toFixed(0)} MB; a track of at most ${MOST_TRACK_BYTES / 1e6} MB is read. Nothing was taken.`,
    };
  const read = readTrack(new TextDecoder().decode(bytes), name);
  if (!read.ok) return { ok: false, why: `${name}: ${read.why}` };
  return { ok: true, flown: read.flown, flight: null, startMs: read.startMs };
}
