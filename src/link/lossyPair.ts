import { Random } from '#core/math/random.ts';
import type { Transport } from './transport.ts';

export interface Losses {
  /** Shares of chunks, 0..1. */
  readonly drop: number;
  readonly corrupt: number;
  readonly duplicate: number;
  /** Longest delay of a chunk, ms; delayed chunks may overtake each other. */
  readonly delayMs: number;
}

export const noLosses: Losses = { drop: 0, corrupt: 0, duplicate: 0, delayMs: 0 };

/** Two ends of one bad cable in memory, for tests: seeded, so that a failure can be met again. */
export function lossyPair(losses: Losses, seed: number): readonly [Transport, Transport] {
  const random = new Random(seed);
  let open = true;
  const make = (): Transport => ({ send: () => {}, close: () => {}, onBytes: () => {}, onClosed: () => {} });
  const a = make();
  const b = make();
  const join = (from: Transport, to: Transport) => {
    from.send = (bytes) => {
      if (!open || random.uniform() < losses.drop) return;
      const copy = bytes.slice();
      if (random.uniform() < losses.corrupt) {
        const at = Math.floor(random.uniform() * copy.length);
        copy[at] = copy[at]! ^ (1 << Math.floor(random.uniform() * 8));
      }
      const times = random.uniform() < losses.duplicate ? 2 : 1;
      for (let k = 0; k < times; k++) {
        setTimeout(() => {
          if (open) to.onBytes(copy.slice());
        }, random.uniform() * losses.delayMs);
      }
    };
    from.close = () => {
      if (!open) return;
      open = false;
      to.onClosed();
    };
  };
  join(a, b);
  join(b, a);
  return [a, b];
}
