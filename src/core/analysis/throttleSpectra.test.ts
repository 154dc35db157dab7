import { describe, expect, it } from 'vitest';
import { Random } from '../math/random.ts';
import { linesOf, rmsWithin, welch } from './spectrum.ts';
import { throttleSpectra } from './throttleSpectra.ts';

const RATE = 1000;
const N = 60_000;
const throttle = Float64Array.from({ length: N }, (_, k) => 0.5 + 0.4 * Math.sin((2 * Math.PI * k) / 20_000));

describe('spectra by throttle', () => {
  it('find a line where it is at each throttle', () => {
    let phase = 0;
    const random = new Random(2);
    const hum = throttle.map((t) => {
      phase += (2 * Math.PI * (40 + 200 * t)) / RATE;
      return Math.sin(phase) + 0.05 * random.normal();
    });
    const { bands } = throttleSpectra([{ signal: hum, throttle }], RATE, 10);
    for (const [k, band] of bands.entries()) {
      if (!band) continue;
      const [line] = linesOf(band, 1);
      expect(Math.abs(line!.hz - (40 + 200 * ((k + 0.5) / 10)))).toBeLessThan(14);
      // A sine of one has a root mean square of half the root of two.
      expect(rmsWithin(band, 10, 400)).toBeCloseTo(Math.SQRT1_2, 1);
    }
  });

  it('leave out what was not flown', () => {
    const { bands } = throttleSpectra([{ signal: throttle, throttle }], RATE, 10);
    expect(bands[0]).toBeNull();
    expect(bands[9]).toBeNull();
    expect(bands[5]).not.toBeNull();
  });

  it('of one throttle are the spectrum of all', () => {
    const random = new Random(4);
    const noise = Float64Array.from({ length: 20_000 }, () => random.normal());
    const one = throttleSpectra([{ signal: noise, throttle: noise.map(() => 0.35) }], RATE, 10).bands[3]!;
    const all = welch(noise, RATE, 256)!;
    expect(one.windows).toBe(all.windows);
    for (const [k, d] of one.density.entries()) expect(d).toBeCloseTo(all.density[k]!, 12);
  });

  it('take no part of a log in which a value is missing', () => {
    const gap = throttle.map((t, k) => (k > 30_000 && k < 30_100 ? Number.NaN : t));
    const { bands } = throttleSpectra([{ signal: gap, throttle }], RATE, 10);
    for (const band of bands) if (band) expect(band.density.every(Number.isFinite)).toBe(true);
  });
});
