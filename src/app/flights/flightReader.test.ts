import { afterEach, describe, expect, it } from 'vitest';
import { RigPort, sessionOver, until } from '../../testing/appSession.ts';
import { benchRig, type Rig } from '../../testing/benchRig.ts';
import { MemoryRows } from '../../testing/memoryRows.ts';
import { deskChanged } from '../store/craftsSlice.ts';
import { StoreFault } from '../store/database.ts';
import { FlightReader } from './FlightReader.ts';
import { type KeptLog, LogShelf, logId } from './LogShelf.ts';

let rig: Rig;
afterEach(() => rig.stop());

const SIZE = 900_000;
const bytes = Uint8Array.from({ length: SIZE }, (_, k) => (k * 2654435761) >>> 24);
const FLIGHT = { flight: 1, startedS: 12.5, bytes: SIZE, whole: true };

/** A reader over a board with one long flight, met over a cable that can be pulled. */
async function setUp(rows = new MemoryRows()) {
  rig = benchRig();
  rig.bench.board.log.bring({
    ...{ ring: bytes, head: SIZE, number: 1 },
    flights: [{ flight: 1, startedS: 12.5, from: 0, length: SIZE, whole: true }],
  });
  const port = new RigPort(rig);
  const { store, session } = sessionOver(port);
  store.dispatch(deskChanged({ id: 'demo' }));
  await session.connect();
  await until(() => store.getState().board.link === 'ready');
  const came: KeptLog[] = [];
  const shelf = new LogShelf(rows);
  const reader = new FlightReader({
    store,
    clock: { pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms / 20)) },
    link: () => session.openLink(),
    shelf,
    now: () => '2026-11-27T10:00:00.000Z',
    came: async (log, all) => {
      expect(Buffer.compare(all, bytes)).toBe(0);
      came.push(log);
    },
  });
  const flights = () => store.getState().flights;
  return { store, session, port, reader, shelf, rows, came, flights };
}

describe('flights that are read from a board', () => {
  it('are listed and read, kept under the same name whenever that is, and told to the book once', async () => {
    const { reader, flights, came, shelf } = await setUp();
    expect(await reader.listBoard()).toBeNull();
    expect(flights().onBoard!.flights).toEqual([FLIGHT]);
    await reader.read(FLIGHT);
    expect(came).toHaveLength(1);
    expect(flights().reading).toBeNull();
    expect(flights().kept).toMatchObject([{ flight: 1, upTo: SIZE, total: SIZE, whole: true }]);
    const { id } = flights().kept[0]!;
    expect(id.startsWith('demo/')).toBe(true);
    expect(id).toBe(logId('demo', flights().kept[0]!.serial, 1, 12.5));
    expect(Buffer.compare((await shelf.bytes(id))!, bytes)).toBe(0);
    // Of another craft it is none.
    expect(await shelf.list('another')).toEqual([]);
    await shelf.drop(id);
    await reader.listKept();
    expect(flights().kept).toEqual([]);
  });

  it('wait for a cable that is pulled, wherever that is, and are whole in the end', async () => {
    for (const after of [1, 30, 90]) {
      const { reader, port, session, flights, came, store } = await setUp();
      await reader.listBoard();
      const reading = reader.read(FLIGHT);
      await new Promise((resolve) => setTimeout(resolve, after));
      port.pull();
      await until(() => flights().reading?.state === 'away' || came.length > 0);
      port.inIt = true;
      await session.connect();
      await until(() => store.getState().board.link === 'ready');
      await reading;
      expect(came).toHaveLength(1);
      rig.stop();
    }
  }, 60_000);

  it('are stopped where they are, and gone on with from there', async () => {
    const { reader, flights, came, shelf } = await setUp();
    await reader.listBoard();
    const reading = reader.read(FLIGHT);
    await until(() => (flights().reading?.upTo ?? 0) > 50_000);
    reader.stop();
    await reading;
    expect(flights().reading!.state).toBe('stopped');
    expect(came).toHaveLength(0);
    const [part] = await shelf.list('demo');
    expect(part!.upTo).toBeGreaterThan(50_000);
    await reader.read(FLIGHT);
    expect(came).toHaveLength(1);
  });

  it('are shown in this tab where the browser keeps nothing, and that is said', async () => {
    const rows = new MemoryRows();
    const { reader, flights, came } = await setUp(rows);
    await reader.listBoard();
    rows.refuses = new StoreFault('full');
    await reader.read(FLIGHT);
    expect(came).toHaveLength(1);
    expect(flights().kept).toHaveLength(1);
    expect(flights().reading!.says).toContain('The disk of this browser is full');
  });

  it('are thrown away on the board only once they are whole here', async () => {
    const { reader, rows } = await setUp();
    expect((await reader.cleanBoard()).text).toContain('is not read yet');
    expect(rig.bench.board.log.list()).toHaveLength(1);
    await reader.listBoard();
    await reader.read(FLIGHT);
    expect((await reader.cleanBoard()).text).toContain('One flight was thrown away');
    expect(rig.bench.board.log.list()).toEqual([]);
    expect((await reader.cleanBoard()).text).toBe('There is no flight on the board.');
    expect(await rows.keys('logs')).toHaveLength(1);
  });

  it('that a board does not have are refused with a sentence, and what a board says too much is not believed', async () => {
    const { reader, flights, came } = await setUp();
    await reader.listBoard();
    await reader.read({ ...FLIGHT, flight: 9 });
    expect(flights().reading).toMatchObject({
      state: 'failed',
      says: expect.stringContaining('There is no flight 9'),
    });
    await reader.read({ ...FLIGHT, bytes: 4e9 });
    expect(flights().reading!.says).toContain('no flight is so long');
    expect(came).toHaveLength(0);
    expect(await reader.listBoard()).toBeNull();
  });
});
