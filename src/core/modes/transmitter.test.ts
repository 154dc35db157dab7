import { describe, expect, it } from 'vitest';
import { demoValues } from '../../testing/demoCraft.ts';
import { Random } from '../math/random.ts';
import { bandsOf, enumerate, type SwitchInput } from './switchMap.ts';
import { askAt, askNoMore, FlickWatch, mixedAt, transmitterSchema } from './transmitter.ts';

/** Plays pulses at 50 Hz, each for its seconds, with noise; the last thing that was learnt. */
function play(
  watch: FlickWatch,
  course: readonly (readonly [channel: number, us: number, seconds: number])[],
) {
  const random = new Random(5);
  const channels = new Float64Array(16).fill(1500);
  let t = 0;
  let found: SwitchInput | null = null;
  for (const [channel, us, seconds] of course) {
    channels[channel - 1] = us;
    for (let k = 0; k < seconds * 50; k++) {
      t += 0.02;
      found =
        watch.step(
          channels.map((v) => v + random.normal()),
          t,
        ) ?? found;
    }
  }
  return found;
}

describe('a switch', () => {
  const sticks = new Set([1, 2, 3, 4]);
  it('is learnt with its positions by flicking it, and by nothing else', () => {
    const found = play(new FlickWatch([], sticks), [
      [6, 1000, 1],
      [6, 1500, 1],
      [6, 2000, 1],
      [6, 1000, 1],
    ])!;
    expect(found.channel).toBe(6);
    expect(found.positions).toHaveLength(3);
    found.positions.forEach((us, k) => {
      expect(Math.abs(us - [1000, 1500, 2000][k]!)).toBeLessThan(6);
    });
    expect(transmitterSchema.safeParse({ switches: [found] }).success).toBe(true);
    expect(transmitterSchema.safeParse({ switches: [{ channel: 6, positions: [2000, 1000] }] }).success).toBe(
      false,
    );
    // A stick is none, nor what stands still, nor what is only passed through.
    expect(
      play(new FlickWatch([], sticks), [
        [1, 1000, 1],
        [1, 2000, 1],
      ]),
    ).toBeNull();
    expect(play(new FlickWatch([], sticks), [[6, 1000, 3]])).toBeNull();
    const passed = play(new FlickWatch([], sticks), [
      [6, 1000, 1],
      [6, 1480, 0.1],
      [6, 2000, 1],
    ]);
    expect(passed!.positions).toHaveLength(2);
  });

  it('keeps what was known, and gains a position that was never used', () => {
    const known = [{ channel: 8, positions: [1000, 2000] }];
    expect(
      play(new FlickWatch(known, sticks), [
        [8, 1003, 1],
        [8, 1996, 1],
      ]),
    ).toBeNull();
    expect(play(new FlickWatch(known, sticks), [[8, 1500, 1]])!.positions[1]).toBeCloseTo(1500, -1);
  });

  it('that rests at more places than a switch has is a dial, known by its ends', () => {
    const course = Array.from({ length: 20 }, (_, k) => [8, 1000 + 50 * k + (k % 2) * 2, 0.5] as const);
    const found = play(new FlickWatch([], sticks), course)!;
    expect(found).toMatchObject({ channel: 8, dial: true });
    expect(found.positions).toHaveLength(2);
    expect(Math.abs(found.positions[0]! - 1000)).toBeLessThan(8);
    expect(Math.abs(found.positions[1]! - 1952)).toBeLessThan(60);
    expect(transmitterSchema.safeParse({ switches: [found] }).success).toBe(true);
  });

  it('that is turned on without a stop is a dial at once; one that is flicked is none', () => {
    const turn = (seconds: number) =>
      Array.from({ length: seconds * 50 }, (_, k) => [9, 1000 + (1000 * k) / (seconds * 50), 0.02] as const);
    expect(play(new FlickWatch([], sticks), [[9, 1000, 0.4], ...turn(0.8)])).toMatchObject({
      channel: 9,
      dial: true,
    });
    for (const us of [1500, 2000])
      expect(
        play(new FlickWatch([], sticks), [
          [9, 1000, 1],
          [9, us, 1],
        ])!.dial,
      ).toBeUndefined();
    // It reaches farther the next time.
    const known = [{ channel: 9, positions: [1100, 1900], dial: true }];
    expect(play(new FlickWatch(known, sticks), turn(1))!.positions[0]).toBeLessThan(1010);
  });

  it('has its noise known within a fifth', () => {
    for (const sigma of [1, 2, 4]) {
      const random = new Random(40 + sigma);
      const found: number[] = [];
      for (let n = 0; n < 60; n++) {
        const watch = new FlickWatch([{ channel: 6, positions: [1000, 2000] }], sticks);
        let noise: number | undefined;
        for (let k = 0; k < 400; k++) {
          const channels = new Float64Array(16).fill(1500);
          channels[5] = 2000 + sigma * random.normal();
          noise = watch.step(channels, 0.02 * k)?.noiseUs ?? noise;
        }
        found.push(noise ?? Number.NaN);
      }
      const within = found.filter((noise) => Math.abs(noise / sigma - 1) < 0.2).length;
      expect(within / found.length, `${sigma} us`).toBeGreaterThan(0.9);
    }
  });

  it('of two that are mixed on one channel says where each stands', () => {
    expect([0, 1, 2, 3, 4, 5].map((p) => mixedAt([3, 2], p).join(' '))).toEqual([
      ...['0 0', '0 1', '1 0', '1 1', '2 0', '2 1'],
    ]);
  });
});

describe('what a position asks for', () => {
  const six: SwitchInput = { channel: 9, positions: [1000, 1200, 1400, 1600, 1800, 2000] };
  const asked = (values: ReturnType<typeof demoValues>) => {
    const bands = bandsOf(values).filter((b) => b.asks === 'height');
    return [...enumerate(bands, [six]).masks].map((m) => (m === 0 ? 0 : 1)).join('');
  };
  it('is given and taken, and is asked for nowhere else', () => {
    let values = demoValues('turnstone');
    const now = (edits: Readonly<Record<string, number>>) => {
      values = { ...values, ...edits };
      return asked(values);
    };
    expect(now(askAt(values, 'height', six, 2))).toBe('001000');
    expect(now(askAt(values, 'height', six, 4))).toBe('001110');
    expect(now(askNoMore(values, 'height', six, 3))).toBe('001000');
    expect(now(askAt(values, 'height', six, 0))).toBe('111000');
    expect(now(askNoMore(values, 'height', six, 0))).toBe('011000');
    expect(askNoMore(values, 'height', six, 5)).toEqual({});
    expect(now(askNoMore(values, 'height', six, 1))).toBe('001000');
    now(askNoMore(values, 'height', six, 2));
    expect(values['mode.height.channel']).toBe(0);
    // From another switch it moves over.
    const other = { ...values, ...askAt(values, 'level', six, 5) };
    expect(other['mode.level.channel']).toBe(9);
  });
});
