import { afterEach, describe, expect, it } from 'vitest';
import { benchRig, type Rig } from '../testing/benchRig.ts';
import { StreamRing } from './streamRing.ts';

let rig: Rig | null = null;
afterEach(() => {
  rig?.stop();
  rig = null;
});

const block = (n: number, from: number, count: number) => ({
  n,
  atS: from / 100,
  dtS: 0.01,
  values: Float32Array.from({ length: 2 * count }, (_, i) => (i % 2 ? -1 : 1) * (from + (i >> 1))),
});

describe('a ring of raw samples', () => {
  it('gives the newest of a field in order, over its own edge', () => {
    const ring = new StreamRing(2, 100);
    for (let n = 0; n < 30; n++) ring.push(block(n, 7 * n, 7));
    expect(ring.unbroken).toBe(100);
    expect([...ring.newest(0, 4)]).toEqual([206, 207, 208, 209]);
    expect([...ring.newest(1, 100)]).toEqual(Array.from({ length: 100 }, (_, i) => -(110 + i)));
    expect(ring.newestS).toBeCloseTo(2.09, 9);
  });

  it('has no sample from before a gap in a run, counts what is lost, and takes nothing twice or late', () => {
    const ring = new StreamRing(2, 100);
    ring.push(block(0, 0, 5));
    ring.push(block(1, 5, 5));
    ring.push(block(4, 20, 5));
    ring.push(block(4, 20, 5));
    ring.push(block(2, 10, 5));
    expect(ring.lost).toBe(2);
    expect([...ring.newest(0, 50)]).toEqual([20, 21, 22, 23, 24]);
  });
});

describe('raw streams of a board', () => {
  it('come at the rate of the sensor, as the sensor has them, by the board’s own time', async () => {
    rig = benchRig();
    const ring = new StreamRing(3, 4000);
    rig.client.onStream = (source, b) => source === 'accelerometer' && ring.push(b);
    expect(await rig.client.request('stream', { source: 'accelerometer', hz: 5000 })).toEqual({ hz: 1000 });
    await expect.poll(() => ring.unbroken, { timeout: 10_000 }).toBeGreaterThan(2000);
    expect(ring.dtS).toBeCloseTo(0.001, 6);
    const z = ring.newest(2, 1000);
    // Level on the bench it feels the table push up: down is positive.
    expect(z.reduce((sum, v) => sum + v, 0) / z.length).toBeCloseTo(-9.81, 0);
    await rig.client.request('stream', { source: 'accelerometer', hz: 0 });
    await new Promise((resolve) => setTimeout(resolve, 60));
    const { newestS } = ring;
    rig.run(0.5);
    expect(ring.newestS).toBe(newestS);
  });

  it('are thinned to what was asked for, and know what was lost', async () => {
    rig = benchRig({ drop: 0.1, corrupt: 0, duplicate: 0.05, delayMs: 0 }, 4);
    const ring = new StreamRing(3, 4000);
    rig.client.onStream = (_, b) => ring.push(b);
    expect(await rig.client.request('stream', { source: 'gyro', hz: 300 })).toEqual({ hz: 250 });
    await expect.poll(() => ring.lost, { timeout: 20_000 }).toBeGreaterThan(2);
    expect(ring.dtS).toBeCloseTo(0.004, 6);
    await expect(rig.client.request('stream', { source: 'smell', hz: 5 })).rejects.toMatchObject({
      code: 'unknown-stream',
    });
  });
});
