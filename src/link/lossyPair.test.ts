import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { lossyPair, noLosses } from './lossyPair.ts';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

/** Sends numbered chunks through a pair and gives what arrived. */
async function send(losses: Parameters<typeof lossyPair>[0], count: number, seed = 3): Promise<number[][]> {
  const [a, b] = lossyPair(losses, seed);
  const got: number[][] = [];
  b.onBytes = (bytes) => got.push([...bytes]);
  for (let k = 0; k < count; k++) a.send(Uint8Array.of(k & 0xff, k >> 8));
  await vi.advanceTimersByTimeAsync(1000);
  return got;
}

describe('the bad cable of the tests', () => {
  it('is a good one when nothing is asked of it', async () => {
    expect(await send(noLosses, 300)).toEqual(Array.from({ length: 300 }, (_, k) => [k & 0xff, k >> 8]));
  });

  it('drops, doubles and spoils about as many as asked for', async () => {
    expect((await send({ ...noLosses, drop: 0.2 }, 2000)).length / 2000).toBeCloseTo(0.8, 1);
    expect((await send({ ...noLosses, duplicate: 0.3 }, 2000)).length / 2000).toBeCloseTo(1.3, 1);
    const spoilt = (await send({ ...noLosses, corrupt: 0.25 }, 2000)).filter(
      (b, k) => b[0] !== (k & 0xff) || b[1] !== k >> 8,
    );
    expect(spoilt.length / 2000).toBeCloseTo(0.25, 1);
  });

  it('lets delayed chunks overtake each other, and loses none', async () => {
    const got = await send({ ...noLosses, delayMs: 20 }, 200);
    expect(got).toHaveLength(200);
    expect(got.some((b, k) => b[0] !== k)).toBe(true);
  });

  it('fails alike for the same seed', async () => {
    const losses = { drop: 0.1, corrupt: 0.1, duplicate: 0.1, delayMs: 5 };
    expect(await send(losses, 200, 8)).toEqual(await send(losses, 200, 8));
    expect(await send(losses, 200, 8)).not.toEqual(await send(losses, 200, 9));
  });

  it('carries nothing once it is pulled, and tells the other end', async () => {
    const [a, b] = lossyPair(noLosses, 1);
    let got = 0;
    let pulled = 0;
    b.onBytes = () => got++;
    b.onClosed = () => pulled++;
    a.send(Uint8Array.of(1));
    a.close();
    a.close();
    a.send(Uint8Array.of(2));
    await vi.advanceTimersByTimeAsync(100);
    expect([got, pulled]).toEqual([0, 1]);
  });
});
