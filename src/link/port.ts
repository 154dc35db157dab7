import type { Transport } from './transport.ts';

/**
 * How a board is there: its cable is out; it is away and may come back by itself; the cable is in and nothing runs; it
 * can be spoken to.
 */
export type Presence = 'out' | 'away' | 'dark' | 'there';

/** A way to a board: a cable that can be opened, and opened again after the board restarted. */
export interface BoardPort {
  readonly kind: 'bench' | 'serial' | 'socket';
  /** Where it leads to, for a person: "the bench", "USB, 115200 baud", an address. */
  readonly name: string;
  /** @throws Error with a sentence where there is nothing to speak to */
  open(): Promise<Transport>;
  presence(): Promise<Presence>;
  /** Set by whoever uses the port: called when a board is plugged in again. */
  onAppear: () => void;
  /** What was stored is safe, also from a reload of the page. */
  settle(): Promise<void>;
}

/** Bytes that may wait to be sent; beyond them frames are let go, as every request is repeated. */
export const MOST_WAITING_BYTES = 65_536;
