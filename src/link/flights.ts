import type { Answer } from '#core/wire/messages.ts';
import { type LinkClient, LinkError } from './client.ts';

/** Flights on a board's store, read over the link. */

export type BoardFlight = Answer<'log-list'>['flights'][number];

/** The most that a board sends at once (docs/link.md). */
const PART_BYTES = 4096;
/** Parts that are asked for at a time, so that one which is lost holds up no other. */
const AT_A_TIME = 4;
/** No flight is longer, whatever a board says. */
export const MOST_FLIGHT_BYTES = 64_000_000;

export const listFlights = async (client: LinkClient): Promise<readonly BoardFlight[]> =>
  (await client.request('log-list', {})).flights;

/** A flight as far as it was read: its bytes, and which parts of them came. */
export class FlightBytes {
  readonly bytes: Uint8Array;
  /** Whole from the beginning up to here. */
  upTo: number;

  /** @param from what was read of it before, from its beginning on */
  constructor(
    readonly size: number,
    from: Uint8Array = new Uint8Array(0),
  ) {
    this.bytes = new Uint8Array(size);
    this.upTo = Math.min(size, from.length);
    this.bytes.set(from.subarray(0, this.upTo));
  }
}

/**
 * Reads a flight, going on where it was left off. What came stays in `into` whatever happens, so that it can be gone on with.
 * @param onPart called with every part that made the whole beginning longer
 * @throws LinkError when the board refuses, is silent or the link closes, or has less of the flight than it said
 */
export async function readFlight(
  client: LinkClient,
  flight: number,
  into: FlightBytes,
  onPart: (upTo: number) => void = () => {},
  stopped: () => boolean = () => false,
): Promise<void> {
  const came = new Map<number, number>();
  let next = into.upTo;
  let failed: unknown = null;
  const one = async (): Promise<void> => {
    while (failed === null && !stopped() && next < into.size) {
      const from = next;
      const count = Math.min(PART_BYTES, into.size - from);
      next += count;
      const { bytes } = await client.request('log-read', { flight, from, count });
      if (bytes.length !== count)
        throw new LinkError(
          'refused',
          'The board has less of the flight than it said. List its flights again.',
        );
      into.bytes.set(bytes, from);
      came.set(from, count);
      const before = into.upTo;
      for (let length = came.get(into.upTo); length !== undefined; length = came.get(into.upTo)) {
        came.delete(into.upTo);
        into.upTo += length;
      }
      if (into.upTo > before) onPart(into.upTo);
    }
  };
  const lane = () =>
    one().catch((error: unknown) => {
      failed ??= error;
    });
  await Promise.all(Array.from({ length: AT_A_TIME }, lane));
  if (failed !== null) throw failed;
}
