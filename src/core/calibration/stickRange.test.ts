import { describe, expect, it } from 'vitest';
import { Random } from '../math/random.ts';
import { deadbandFor, judgeRange, RangeWatch, type StickRange } from './stickRange.ts';

const random = new Random(50);

/** A stick as it is worn and set up, stirred along its edges and let go, at 50 Hz. */
function stirred({ travel = 1, trim = 0, noise = 0 }, restS = 5, centred = true): StickRange | null {
  const watch = new RangeWatch(centred);
  let t = 0;
  const step = (stick: number) => {
    t += 0.02;
    watch.step(1500 + trim + 500 * travel * stick + noise * random.normal(), t);
  };
  for (let k = 0; k < 200; k++) step(Math.max(-1, Math.min(1, 1.3 * Math.sin(k / 15))));
  for (let k = 0; k < restS * 50; k++) step(0);
  return watch.range;
}

describe('a stick', () => {
  it('tells its noise within a fifth, its ends and its middle, 1000 sticks of 1000', () => {
    for (let go = 0; go < 1000; go++) {
      const [travel, trim, noise] = [
        0.6 + 0.5 * random.uniform(),
        80 * (random.uniform() - 0.5),
        0.5 + 4 * random.uniform(),
      ];
      const r = stirred({ travel, trim, noise }, 5)!;
      expect(Math.abs(r.noiseUs! / noise - 1)).toBeLessThan(0.2);
      expect(Math.abs(r.middleUs! - 1500 - trim)).toBeLessThan(noise);
      expect(Math.abs(r.highUs - (1500 + trim + 500 * travel))).toBeLessThan(5 * noise);
    }
  });

  it('is not known before it was stirred, and let go', () => {
    expect(stirred({ travel: 0.1 })).toBeNull();
    expect(stirred({}, 3)).toBeNull();
    expect(stirred({}, 0, false)).toMatchObject({ middleUs: null, noiseUs: null });
  });

  it.each([
    [{}, 'good'],
    [{ trim: 20 }, 'trim'],
    [{ trim: -12 }, 'trim'],
    [{ travel: 0.7 }, 'short'],
    [{ travel: 1.12 }, 'long'],
    [{ noise: 7 }, 'noisy'],
  ] as const)('%j is %s, and is mended at the radio', (how, verdict) => {
    const r = stirred({ ...how })!;
    const judged = judgeRange('roll', r);
    expect(judged.verdict).toBe(verdict);
    if (verdict !== 'good' && verdict !== 'noisy') expect(judged.sentence).toMatch(/transmitter/);
  });

  it('with ends of its own is told from one with a trim', () => {
    const judged = judgeRange('pitch', { lowUs: 1000, highUs: 1900, middleUs: 1500, noiseUs: 0.4 });
    expect(judged).toMatchObject({
      verdict: 'lopsided',
      sentence: expect.stringMatching(/500 µs one way and 400 µs/),
    });
  });

  it('needs a deadband of three sigma of the worst', () => {
    const of = (noiseUs: number | null): StickRange => ({
      lowUs: 1000,
      highUs: 2000,
      middleUs: 1500,
      noiseUs,
    });
    expect(deadbandFor([of(0.4), of(1.5), of(null)])).toBe(5);
    expect(deadbandFor([of(0)])).toBe(1);
  });
});
