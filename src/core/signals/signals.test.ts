import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isOn, type Knows, LEAST_MS, momentOf, moments, paintStrip, patterns } from './signals.ts';

const calm: Knows = {
  ...{ armed: false, hasFlown: false, returning: false, linkAlive: true, everHeard: true, lostS: 0 },
  ...{ batteryLow: false, batteryEmpty: false, hasFix: true, blocked: false, findAsked: false, downS: 0 },
};
const find = { afterDownS: 120, afterLostS: 60 };
const of = (change: Partial<Knows>, f = find) => momentOf({ ...calm, ...change }, f);

describe('the moment that is told', () => {
  it('is the gravest that holds', () => {
    expect(of({})).toBe('ready');
    expect(of({ blocked: true })).toBe('blocked');
    expect(of({ blocked: true, hasFix: false })).toBe('no-fix');
    expect(of({ hasFix: false, linkAlive: false })).toBe('no-radio');
    expect(of({ armed: true })).toBe('armed');
    expect(of({ armed: true, hasFlown: true })).toBe('flying');
    expect(of({ armed: true, hasFlown: true, returning: true })).toBe('returning');
    expect(of({ armed: true, returning: true, batteryLow: true })).toBe('battery-low');
    expect(of({ armed: true, batteryLow: true, batteryEmpty: true })).toBe('battery-empty');
    expect(of({ armed: true, batteryEmpty: true, linkAlive: false })).toBe('lost');
    expect(of({ armed: true, linkAlive: false, findAsked: true })).toBe('find-me');
  });

  it('is a call once it lies there, and never in the air', () => {
    expect(of({ armed: true, hasFlown: true, linkAlive: false, lostS: 500 })).toBe('lost');
    expect(of({ hasFlown: true, downS: 119 })).toBe('ready');
    expect(of({ hasFlown: true, downS: 120 })).toBe('find-me');
    expect(of({ armed: true, hasFlown: true, downS: 130, linkAlive: false })).toBe('find-me');
    expect(of({ linkAlive: false, lostS: 60 })).toBe('find-me');
    const never = { afterDownS: 0, afterLostS: 0 };
    expect(of({ hasFlown: true, downS: 9999, linkAlive: false, lostS: 9999 }, never)).toBe('no-radio');
  });
});

describe('rhythms', () => {
  it('are each unlike every other, slow enough for the eye, and as a whole not too long to wait for', () => {
    const rhythms = moments.map((m) => patterns[m].light.join(' '));
    expect(new Set(rhythms).size).toBe(moments.length);
    for (const m of moments) {
      const { light, sound } = patterns[m];
      for (const ms of [...light, ...(sound?.rhythm ?? [])]) expect(ms, m).toBeGreaterThanOrEqual(LEAST_MS);
      for (const r of [light, sound?.rhythm ?? [1]])
        expect(
          r.reduce((a, b) => a + b, 0),
          m,
        ).toBeLessThanOrEqual(3000);
    }
    const heard = moments.flatMap((m) => patterns[m].sound?.rhythm.join(' ') ?? []);
    expect(new Set(heard).size).toBe(heard.length);
  });

  it('are on for just their share of the time', () => {
    for (const m of moments) {
      const { light } = patterns[m];
      const whole = light.reduce((a, b) => a + b, 0);
      const on = light.filter((_, i) => i % 2 === 0).reduce((a, b) => a + b, 0);
      let lit = 0;
      for (let ms = 0; ms < whole; ms++) if (isOn(light, (ms + 0.5) / 1000)) lit++;
      expect(lit, m).toBe(on);
    }
  });
});

describe('the strip', () => {
  it('is red to the left, green to the right and white behind in flight, and never brighter than it is set', () => {
    const strip = new Uint8Array(27);
    paintStrip('flying', 0.2, 1, strip);
    const lamp = (i: number) => [...strip.subarray(3 * i, 3 * i + 3)];
    expect([0, 2, 3, 5, 6, 8].map(lamp)).toEqual([
      [255, 0, 0],
      [255, 0, 0],
      [0, 255, 0],
      [0, 255, 0],
      [255, 255, 255],
      [255, 255, 255],
    ]);
    fc.assert(
      fc.property(
        fc.constantFrom(...moments),
        fc.double({ min: 0, max: 1e4, noNaN: true }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.integer({ min: 0, max: 60 }),
        (m, t, bright, n) => {
          const out = new Uint8Array(3 * n);
          paintStrip(m, t, bright, out);
          for (const b of out) expect(b).toBeLessThanOrEqual(Math.ceil(255 * bright));
        },
      ),
    );
  });
});
