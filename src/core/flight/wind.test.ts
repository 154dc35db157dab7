import { describe, expect, it } from 'vitest';
import { gustLaw, Wind, windAtHeight } from './wind.ts';

const law = (h: number) => gustLaw({ along: 0, upright: 0, uprightShare: 0 }, h);

describe('the mean wind', () => {
  it('follows the logarithm over 0.03 m up to 300 m, the seventh-root law on to 1000 m, and then holds', () => {
    expect(windAtHeight(8, 10)).toBeCloseTo(8, 12);
    expect(windAtHeight(8, 150) / 8).toBeCloseTo(Math.log(150 / 0.03) / Math.log(10 / 0.03), 12);
    expect(windAtHeight(8, 600) / windAtHeight(8, 300)).toBeCloseTo(2 ** (1 / 7), 12);
    expect(windAtHeight(8, 1400)).toBe(windAtHeight(8, 1000));
    for (let h = 20; h < 1000; h += 20) expect(windAtHeight(8, h + 20)).toBeGreaterThan(windAtHeight(8, h));
  });
});

describe('the law of the gusts', () => {
  it('has the lengths and shares of MIL-F-8785C low down, and one length everywhere from 2000 ft', () => {
    // By hand at 100 ft: 0.177 + 0.0823 = 0.2593; L_u = 100/0.2593^1.2 = 505 ft; sigma_w/sigma_u = 0.2593^0.4.
    const low = law(30.48);
    expect(low.along / 0.3048).toBeCloseTo(505, 0);
    expect(low.upright / 0.3048).toBeCloseTo(100, 6);
    expect(low.uprightShare).toBeCloseTo(0.2593 ** 0.4, 3);
    const high = law(700);
    expect(high.along / 0.3048).toBeCloseTo(1750, 6);
    expect(high.upright).toBe(high.along);
    expect(high.uprightShare).toBe(1);
  });
});

/** Gusts at a height met at a speed: u, v, w at a hundred a second. */
function gusts(h: number, speed: number, seconds: number, seed: number): Float64Array[] {
  const wind = new Wind({ speedMps: 0, fromDeg: 180, gustMps: 1 }, seed);
  const n = seconds * 100;
  const out = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  for (let k = 0; k < n; k++) {
    wind.step(h, speed, 0.01);
    for (let i = 0; i < 3; i++) out[i]![k] = wind.velocity[i]!;
  }
  return out;
}

describe('the gusts', () => {
  it('have the variance of the law on each axis within a twentieth', () => {
    // Long enough for thousands of gusts of the longest length, from several seeds.
    for (const [h, speed] of [
      // Crossed fast, so that more of them are met.
      [6, 30],
      [40, 50],
      [120, 60],
    ] as const) {
      const share = law(h).uprightShare;
      const sums = [0, 0, 0];
      const seeds = [1, 2, 3, 4, 5, 6];
      for (const seed of seeds)
        gusts(h, speed, 3500, seed).forEach((x, i) => {
          let s = 0;
          for (const v of x) s += v * v;
          sums[i]! += s / x.length / seeds.length;
        });
      expect(Math.abs(sums[0]! - 1)).toBeLessThan(0.05);
      expect(Math.abs(sums[1]! - 1)).toBeLessThan(0.05);
      expect(Math.abs(sums[2]! / share ** 2 - 1)).toBeLessThan(0.05);
    }
  });

  it('have the spectrum of the law within a fifth over the band that turns a craft', () => {
    const [h, speed] = [60, 16];
    const { along, upright, uprightShare } = law(h);
    const n = 4096;
    const power = [new Float64Array(n / 2), new Float64Array(n / 2), new Float64Array(n / 2)];
    let count = 0;
    for (const seed of [3, 4, 5, 6]) {
      const x = gusts(h, speed, 2500, seed);
      for (let from = 0; from + n <= x[0]!.length; from += n / 2) {
        count++;
        for (let i = 0; i < 3; i++) addSpectrum(power[i]!, x[i]!, from, n);
      }
    }
    // One-sided densities per rad/s: sigma^2 2 L/(pi V) 1/(1 + (L w/V)^2), and (1 + 3 q)/(1 + q)^2 with half of it across.
    const one = (w: number, l: number) => ((2 * l) / (Math.PI * speed)) * (1 / (1 + ((l * w) / speed) ** 2));
    const two = (w: number, l: number) => {
      const q = ((l * w) / speed) ** 2;
      return (l / (Math.PI * speed)) * ((1 + 3 * q) / (1 + q) ** 2);
    };
    for (const [low, high] of [
      [0.3, 0.6],
      [0.6, 1.2],
      [1.2, 2.5],
      [2.5, 5],
      [5, 10],
    ] as const) {
      const sums = [0, 0, 0];
      const laws = [0, 0, 0];
      for (let k = 1; k < n / 2; k++) {
        const w = (2 * Math.PI * k) / (n * 0.01);
        if (w < low || w >= high) continue;
        for (let i = 0; i < 3; i++) sums[i]! += power[i]![k]! / count;
        laws[0]! += one(w, along);
        laws[1]! += two(w, along);
        laws[2]! += uprightShare ** 2 * two(w, upright);
      }
      for (let i = 0; i < 3; i++) {
        expect(sums[i]! / laws[i]!).toBeGreaterThan(0.8);
        expect(sums[i]! / laws[i]!).toBeLessThan(1.2);
      }
    }
  });

  it('wander slowly in strength and direction as well, and not at all where there are none', () => {
    const wind = new Wind({ speedMps: 8, fromDeg: 230, gustMps: 2 }, 4);
    const means: number[] = [];
    for (let minute = 0; minute < 60; minute++) {
      let sum = 0;
      for (let k = 0; k < 6000; k++) {
        wind.step(50, 16, 0.01);
        sum += Math.atan2(-wind.velocity[1]!, -wind.velocity[0]!) / 6000;
      }
      means.push((sum * 180) / Math.PI);
    }
    const spread = Math.max(...means) - Math.min(...means);
    expect(spread).toBeGreaterThan(4);
    expect(spread).toBeLessThan(40);
    const steady = new Wind({ speedMps: 8, fromDeg: 230, gustMps: 0 }, 4);
    steady.step(50, 16, 0.01);
    const first = Array.from(steady.velocity);
    for (let k = 0; k < 60_000; k++) steady.step(50, 16, 0.01);
    expect(Array.from(steady.velocity)).toEqual(first);
  });
});

/** Adds the one-sided Hann-windowed power density per rad/s of n samples at 100 Hz, at every fourth line. */
function addSpectrum(out: Float64Array, x: Float64Array, from: number, n: number): void {
  const re = new Float64Array(n);
  const im = new Float64Array(n);
  let norm = 0;
  for (let j = 0; j < n; j++) {
    const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * j) / n);
    norm += w * w;
    re[j] = w * x[from + j]!;
  }
  fft(re, im);
  for (let k = 0; k < n / 2; k++) out[k]! += (2 * (re[k]! ** 2 + im[k]! ** 2) * 0.01) / norm / (2 * Math.PI);
}

/** In place, radix two. */
function fft(re: Float64Array, im: Float64Array): void {
  const n = re.length;
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j]!, re[i]!];
      [im[i], im[j]] = [im[j]!, im[i]!];
    }
  }
  for (let size = 2; size <= n; size *= 2)
    for (let start = 0; start < n; start += size)
      for (let k = 0; k < size / 2; k++) {
        const a = (-2 * Math.PI * k) / size;
        const p = start + k;
        const q = p + size / 2;
        const tr = re[q]! * Math.cos(a) - im[q]! * Math.sin(a);
        const ti = re[q]! * Math.sin(a) + im[q]! * Math.cos(a);
        re[q] = re[p]! - tr;
        im[q] = im[p]! - ti;
        re[p]! += tr;
        im[p]! += ti;
      }
}
