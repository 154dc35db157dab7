import { describe, expect, it } from 'vitest';
import { isRotorcraft, widthOf } from '#core/airframe/airframe.ts';
import { avocet, dunlin, turnstone } from '#core/airframe/library.ts';
import { isOn, moments, paintStrip, patterns } from '#core/signals/signals.ts';
import { beats, SHOWN_MS } from './beats.ts';
import { lampPlaces } from './lampPlaces.ts';

describe('lamps on the drawn craft', () => {
  it.each([turnstone, dunlin, avocet])(
    'lie where the strip lights them: left red, right green, white behind ($name)',
    (airframe) => {
      for (const n of [1, 2, 3, 4, 9, 20]) {
        const places = lampPlaces(airframe, n);
        expect(places).toHaveLength(n);
        const strip = new Uint8Array(3 * n);
        paintStrip('flying', 0.1, 1, strip);
        places.forEach(([x, aft], i) => {
          const [r, g, b] = strip.subarray(3 * i, 3 * i + 3);
          const colour = r === 255 && g === 255 && b === 255 ? 'white' : r === 255 ? 'red' : 'green';
          if (colour === 'red') expect(x, `${n} lamps, ${i}`).toBeLessThan(0);
          if (colour === 'green') expect(x, `${n} lamps, ${i}`).toBeGreaterThan(0);
          expect(Math.abs(x)).toBeLessThanOrEqual(widthOf(airframe) / 2);
          expect(Number.isFinite(aft)).toBe(true);
        });
      }
      expect(isRotorcraft(avocet)).toBe(true);
    },
  );

  it('do not lie on each other', () => {
    const places = lampPlaces(turnstone, 18).map(([x, y]) => `${x.toFixed(3)} ${y.toFixed(3)}`);
    expect(new Set(places).size).toBe(18);
  });
});

describe('a rhythm that is drawn', () => {
  it.each(moments)('is on where the lamp is (%s)', (moment) => {
    const { light } = patterns[moment];
    const drawn = beats(light, 300);
    for (let ms = 5; ms < SHOWN_MS; ms += 10) {
      const x = (ms / SHOWN_MS) * 300;
      const on = drawn.some(([from, wide]) => x >= from && x < from + wide);
      expect(on, `${ms} ms`).toBe(isOn(light, ms / 1000));
    }
    expect(Math.max(...drawn.map(([from, wide]) => from + wide))).toBeLessThanOrEqual(300.001);
  });
});
