import { afterEach, describe, expect, it } from 'vitest';
import { Random } from '#core/math/random.ts';
import { benchRig, meet, type Rig } from '../testing/benchRig.ts';
import { FlightBytes, listFlights, readFlight } from './flights.ts';

let rig: Rig;
afterEach(() => rig.stop());

/** Puts flights of random bytes onto the board's store. */
function onBoard(...lengths: readonly number[]): Uint8Array[] {
  const random = new Random(5);
  const flights = lengths.map((n) =>
    Uint8Array.from({ length: n }, () => Math.floor(random.uniform() * 256)),
  );
  let from = 0;
  const ring = new Uint8Array(lengths.reduce((a, b) => a + b, 0));
  const extents = flights.map((bytes, i) => {
    ring.set(bytes, from);
    const extent = { flight: i + 1, startedS: 10 * i, from, length: bytes.length, whole: true };
    from += bytes.length;
    return extent;
  });
  rig.bench.board.log.bring({ ring, head: from, number: flights.length, flights: extents });
  return flights;
}

const lossy = (drop: number) => ({ drop, corrupt: 0, duplicate: 0, delayMs: 1 });

describe('flights on a board', () => {
  it('are listed, and read as they are', async () => {
    rig = benchRig();
    const flights = onBoard(10_000, 4096, 1);
    await meet(rig.client);
    const list = await listFlights(rig.client);
    expect(list.map((f) => [f.flight, f.bytes, f.whole])).toEqual([
      [1, 10_000, true],
      [2, 4096, true],
      [3, 1, true],
    ]);
    for (const { flight, bytes } of list) {
      const into = new FlightBytes(bytes);
      const steps: number[] = [];
      await readFlight(rig.client, flight, into, (upTo) => steps.push(upTo));
      expect(Buffer.compare(into.bytes, flights[flight - 1]!)).toBe(0);
      expect(steps.at(-1)).toBe(bytes);
      expect(steps).toEqual([...steps].sort((a, b) => a - b));
    }
  });

  it('of 4 MB comes bit for bit over a cable that loses one piece in twenty', async () => {
    rig = benchRig(lossy(0.05), 11);
    const [flight] = onBoard(4_000_000);
    await meet(rig.client);
    const into = new FlightBytes(4_000_000);
    await readFlight(rig.client, 1, into);
    expect(Buffer.compare(into.bytes, flight!)).toBe(0);
  }, 240_000);

  it('is gone on with where a cable was pulled, whatever had come by then', async () => {
    const size = 300_000;
    for (const after of [0, 5, 20, 60]) {
      rig = benchRig();
      const [flight] = onBoard(size);
      await meet(rig.client);
      const half = new FlightBytes(size);
      const reading = readFlight(rig.client, 1, half).catch((e: unknown) => e);
      await new Promise((resolve) => setTimeout(resolve, after));
      rig.client.close();
      await reading;
      expect(Buffer.compare(half.bytes.subarray(0, half.upTo), flight!.subarray(0, half.upTo))).toBe(0);
      rig.stop();
      rig = benchRig();
      onBoard(size);
      await meet(rig.client);
      const rest = new FlightBytes(size, half.bytes.slice(0, half.upTo));
      await readFlight(rig.client, 1, rest);
      expect(Buffer.compare(rest.bytes, flight!)).toBe(0);
      rig.stop();
    }
    rig = benchRig();
  }, 60_000);

  it('that is not there, or shorter than was said, is told', async () => {
    rig = benchRig();
    onBoard(5000);
    await meet(rig.client);
    await expect(readFlight(rig.client, 7, new FlightBytes(10))).rejects.toThrow(/There is no flight 7/);
    await expect(readFlight(rig.client, 1, new FlightBytes(9000))).rejects.toThrow(
      /less of the flight than it said/,
    );
    const stopped = new FlightBytes(5000);
    await readFlight(rig.client, 1, stopped, undefined, () => true);
    expect(stopped.upTo).toBe(0);
  });
});
