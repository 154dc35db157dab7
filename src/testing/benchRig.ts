import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { BenchWorld } from '#bench/benchWorld.ts';
import type { MemoryFlash } from '#bench/memoryFlash.ts';
import type { BoardModel } from '#core/board/model.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { type BoardCopy, greet, readBoard } from '#link/board.ts';
import { LinkClient } from '#link/client.ts';
import { type Losses, lossyPair, noLosses } from '#link/lossyPair.ts';
import type { Transport } from '#link/transport.ts';
import { demoCraft, demoValues, torvholm } from './demoCraft.ts';

/** For tests: greets whoever is there and reads all of it. */
export async function meet(
  client: LinkClient,
  onProgress: (share: number) => void = () => {},
): Promise<BoardCopy> {
  return await readBoard(client, await greet(client), onProgress);
}

export interface Rig {
  readonly bench: BenchWorld;
  readonly client: LinkClient;
  readonly flash: MemoryFlash;
  /** The board's end of the cable, to send noise from. */
  readonly boardEnd: Transport;
  /** Lets the bench run on without waiting for real time, s. */
  run(seconds: number): void;
  stop(): void;
}

/** For tests: the demo bench, on a board of another make or with other settings where they are given, with USB in, a client on the other end of a cable with the given losses. */
export function benchRig(
  losses: Losses = noLosses,
  seed = 1,
  name: 'turnstone' | 'turnstone-as-found' = 'turnstone',
  model?: BoardModel,
  change: Values = {},
): Rig {
  const craft = demoCraft(name);
  const own = BenchBoard.fresh(shelfFor(craft.board.target)[0]!, { ...demoValues(name), ...change });
  const board = model ? new BenchBoard(model, 'GX1-0001-01', own.flash, own.image) : own;
  const bench = new BenchWorld(craft.airframe, craft.bench!, board, seed, torvholm);
  const [appEnd, boardEnd] = lossyPair(losses, seed);
  const client = new LinkClient(appEnd);
  bench.toCable = (bytes) => boardEnd.send(bytes);
  boardEnd.onBytes = (bytes) => bench.fromCable(bytes);
  bench.controls.usb = true;
  bench.step();
  const timer = setInterval(() => {
    for (let k = 0; k < 20; k++) bench.step();
  }, 5);
  return {
    bench,
    client,
    flash: board.flash,
    boardEnd,
    run(seconds) {
      for (let k = 0; k < seconds * 1000; k++) bench.step();
    },
    stop() {
      clearInterval(timer);
      client.close();
    },
  };
}
