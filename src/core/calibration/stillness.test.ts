import { describe, expect, it } from 'vitest';
import { Noise } from '../math/random.ts';
import { baroAtRest } from './airWatch.ts';
import { gyroAtRest } from './gyroRest.ts';
import { StillWatch } from './stillness.ts';

/** A chip that is held, as its samples come. */
function fed(
  change: (i: number) => { atS?: number; x?: number; drop?: boolean; twice?: boolean },
  count = 200,
) {
  const noise = new Noise(7);
  const watch = new StillWatch();
  for (let i = 0; i < count; i++) {
    const { atS = i * 0.01, x = 0.05 * noise.next(), drop, twice } = change(i);
    if (drop) continue;
    watch.push(atS, [x, 0.05 * noise.next(), -9.8 + 0.05 * noise.next()], [0, 0, 0]);
    if (twice) watch.push(atS, [99, 99, 99], [0, 0, 0]);
  }
  return watch;
}

describe('a craft that is held', () => {
  it('is still over lost, doubled and late samples', () => {
    expect(fed(() => ({})).still()).not.toBeNull();
    // Every twentieth is lost: five per cent.
    expect(fed((i) => ({ drop: i % 20 === 7 })).still()).not.toBeNull();
    const twice = fed((i) => ({ twice: i % 9 === 0 })).still()!;
    expect(Math.abs(twice.force[0])).toBeLessThan(0.1);
    expect(fed((i) => (i % 11 === 3 ? { atS: (i - 5) * 0.01, x: 50 } : {})).still()).not.toBeNull();
  });

  it('is not while it moves, after a gap, or when nothing came', () => {
    expect(fed((i) => ({ x: i * 0.02 })).still()).toBeNull();
    expect(fed((i) => ({ drop: i > 60 && i < 150 })).still()).toBeNull();
    expect(new StillWatch().still()).toBeNull();
  });

  it('is not when its chip hangs: no chip is so quiet', () => {
    const watch = new StillWatch();
    for (let i = 0; i < 200; i++) watch.push(i * 0.01, [0.1, 0.2, -9.8], [0, 0, 0]);
    expect(watch.hangs).toBe(true);
    expect(watch.still()).toBeNull();
    expect(fed(() => ({})).hangs).toBe(false);
  });
});

describe('a chip that hangs', () => {
  it('teaches nothing at rest either', () => {
    const gyro = Float64Array.from({ length: 3 * 12_000 }, () => 0.01);
    expect(gyroAtRest(gyro, 1000)).toMatchObject({ refused: expect.stringMatching(/hangs/) });
    expect(baroAtRest(new Array(400).fill(41.2), 25)).toMatchObject({
      refused: expect.stringMatching(/hangs/),
    });
  });
});
