import { type LinkClient, LinkError } from '#link/client.ts';
import type { BoardFlight } from '#link/flights.ts';
import { FlightBytes, listFlights, MOST_FLIGHT_BYTES, readFlight } from '#link/flights.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import { StoreFault } from '../store/database.ts';
import { boardListed, logsListed, type ReadingFlight, readingTold } from '../store/flightsSlice.ts';
import { type KeptLog, type LogShelf, logId } from './LogShelf.ts';

export interface FlightReaderParts {
  readonly store: SessionParts['store'];
  readonly clock: SessionParts['clock'];
  /** The link as it is now. @throws Error with a sentence when there is none */
  readonly link: () => LinkClient;
  readonly shelf: LogShelf;
  /** RFC 3339 */
  readonly now: () => string;
  /** What is done with a flight that is whole here. */
  readonly came: (log: KeptLog, bytes: Uint8Array) => Promise<void>;
}

/** What came is kept each time it has grown by so much. */
const KEEP_EVERY_BYTES = 500_000;
const LOOK_EVERY_MS = 250;
/** How long a cable may be out before a flight is left where it is, in looks: five minutes. */
const AWAY_LOOKS = 1200;
const TELL_EVERY_BYTES = 20_000;

/**
 * Reads flights from the board, whatever station is shown. A cable that comes out is waited for; what came is kept meanwhile, so that
 * a reload or another day goes on where it was left.
 */
export class FlightReader {
  /** Counts what was begun, so that one which was stopped says nothing more. */
  private run = 0;

  constructor(private readonly parts: FlightReaderParts) {}

  private get state() {
    return this.parts.store.getState();
  }

  private tell(run: number, told: ReadingFlight): void {
    if (run === this.run) this.parts.store.dispatch(readingTold(told));
  }

  /** What is kept of the open craft. */
  async listKept(): Promise<void> {
    const craft = this.state.crafts.id;
    if (craft === null) return;
    const kept = await this.parts.shelf.list(craft).catch(() => null);
    // Where the browser keeps nothing, what was read in this tab stays shown.
    if (kept === null && this.state.flights.craft === craft) return;
    if (this.state.crafts.id === craft) this.parts.store.dispatch(logsListed({ craft, kept: kept ?? [] }));
  }

  /** Asks the board for its flights. @returns why not, as a sentence; null when they were listed */
  async listBoard(): Promise<string | null> {
    const serial = this.state.board.identity?.serial;
    if (serial === undefined) return 'No board is connected.';
    try {
      const flights = await listFlights(this.parts.link());
      this.parts.store.dispatch(boardListed({ serial, flights }));
      return null;
    } catch (error) {
      this.parts.store.dispatch(boardListed(null));
      return (error as Error).message;
    }
  }

  /** Throws away on the board the flights that are whole here, up to the first that is not. @returns what became of it, as a sentence */
  async cleanBoard(): Promise<{ readonly tone: 'plain' | 'red'; readonly text: string }> {
    const why = await this.listBoard();
    const { onBoard } = this.state.flights;
    const craft = this.state.crafts.id;
    if (why !== null || !onBoard || craft === null)
      return { tone: 'red', text: why ?? 'No board is connected.' };
    const kept = await this.parts.shelf.list(craft).catch(() => []);
    const isHere = (f: BoardFlight) =>
      kept.some((k) => k.id === logId(craft, onBoard.serial, f.flight, f.startedS) && k.upTo >= f.bytes);
    const firstLeft = onBoard.flights.findIndex((f) => !isHere(f));
    const gone = firstLeft < 0 ? onBoard.flights : onBoard.flights.slice(0, firstLeft);
    if (gone.length === 0)
      return {
        tone: 'plain',
        text:
          onBoard.flights.length === 0
            ? 'There is no flight on the board.'
            : 'Nothing was thrown away: the oldest flight on the board is not read yet. Read it at After the flight.',
      };
    try {
      const { left } = await this.parts.link().request('log-clear', { upTo: gone.at(-1)!.flight });
      await this.listBoard();
      const many = gone.length === 1 ? 'One flight was' : `${gone.length} flights were`;
      return {
        tone: 'plain',
        text: `${many} thrown away on the board; ${gone.length === 1 ? 'it is' : 'they are'} kept here. ${left === 0 ? 'Its store is empty.' : `${left} that ${left === 1 ? 'is' : 'are'} not read yet ${left === 1 ? 'stays' : 'stay'}.`}`,
      };
    } catch (error) {
      return { tone: 'red', text: (error as Error).message };
    }
  }

  /** Leaves the flight that is read where it is. What came stays. */
  stop(): void {
    const { reading } = this.state.flights;
    this.run++;
    if (reading) this.parts.store.dispatch(readingTold({ ...reading, state: 'stopped', says: '' }));
  }

  /** Reads a flight to its end, from where it was left. */
  async read(flight: BoardFlight): Promise<void> {
    const run = ++this.run;
    const craft = this.state.crafts.id;
    const { onBoard } = this.state.flights;
    if (craft === null || onBoard === null) return;
    const { serial } = onBoard;
    const id = logId(craft, serial, flight.flight, flight.startedS);
    const told = (state: ReadingFlight['state'], upTo: number, says = '') =>
      this.tell(run, {
        flight: flight.flight,
        startedS: flight.startedS,
        total: flight.bytes,
        upTo,
        state,
        says,
      });
    if (flight.bytes > MOST_FLIGHT_BYTES)
      return told(
        'failed',
        0,
        `The board says that it has ${Math.round(flight.bytes / 1e6)} MB; no flight is so long.`,
      );
    const before = await this.parts.shelf.bytes(id).catch(() => null);
    const into = new FlightBytes(flight.bytes, before ?? undefined);
    told('reading', into.upTo);
    const log = (): KeptLog => ({
      ...{ id, serial, flight: flight.flight, startedS: flight.startedS, file: '', total: flight.bytes },
      ...{ upTo: into.upTo, whole: flight.whole, readAt: this.parts.now() },
    });
    const keep = () =>
      this.parts.shelf.put(log(), into.bytes).catch((error: unknown) => {
        if (!(error instanceof StoreFault)) throw error;
        return error.message;
      });
    let [keptUpTo, toldUpTo] = [into.upTo, into.upTo];
    let keeping: Promise<unknown> = Promise.resolve();
    const onPart = (upTo: number) => {
      if (upTo - toldUpTo >= TELL_EVERY_BYTES) {
        toldUpTo = upTo;
        told('reading', upTo);
      }
      if (upTo - keptUpTo < KEEP_EVERY_BYTES) return;
      keptUpTo = upTo;
      keeping = keeping.then(keep);
    };
    let away = 0;
    while (into.upTo < into.size && run === this.run) {
      try {
        await readFlight(this.linkTo(serial), flight.flight, into, onPart, () => run !== this.run);
      } catch (error) {
        const says = (error as Error).message;
        // The board itself does not want to, or it is another one: nothing is waited for.
        if (error instanceof LinkError && (error.fault === 'refused' || error.fault === 'garbled')) {
          await keep();
          return told('failed', into.upTo, `${says} What came of it is kept.`);
        }
        if (away === 0) {
          await keeping;
          await keep();
        }
        if (++away > AWAY_LOOKS)
          return told(
            'failed',
            into.upTo,
            'The cable stayed out. What came is kept; read on when the board is back.',
          );
        told('away', into.upTo, 'The link is away. It goes on by itself when the board is back.');
        await this.parts.clock.pause(LOOK_EVERY_MS);
        continue;
      }
      away = 0;
    }
    await keeping;
    const fault = await keep();
    await this.listKept();
    if (into.upTo < into.size || run !== this.run) return;
    if (fault) this.parts.store.dispatch(logsListed({ craft, kept: [log(), ...this.state.flights.kept] }));
    await this.parts.came(log(), into.bytes);
    if (run !== this.run) return;
    this.parts.store.dispatch(
      readingTold(
        fault ? { ...this.state.flights.reading!, upTo: into.upTo, state: 'stopped', says: fault } : null,
      ),
    );
  }

  /** The link, where the board on it is still the one. @throws Error where it is away or another one */
  private linkTo(serial: string): LinkClient {
    const client = this.parts.link();
    const met = this.state.board.identity?.serial;
    if (this.state.board.link === 'ready' && met !== serial)
      throw new LinkError('refused', 'Another board is connected now.');
    return client;
  }
}
