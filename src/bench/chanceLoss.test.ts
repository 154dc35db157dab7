import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { groundHeight } from '#core/flight/terrain.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import { DEG } from '#core/math/scalar.ts';
import { mossvikGround } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { chanceLoss, usualCruise } from './chanceLoss.ts';

const seeds = Array.from({ length: 200 }, (_, i) => i);

describe.each([
  ['a wing', turnstone],
  ['rotors', avocet],
] as const)('lost links by chance of %s', (_name, airframe) => {
  const all = seeds.map((seed) => chanceLoss(airframe, torvholm, seed, 'gnss-out'));

  it('are the same for the same seed, and accepted as scenarios', () => {
    expect(chanceLoss(airframe, torvholm, 7, 'gnss-out')).toEqual(all[7]);
    for (const s of all.slice(0, 20)) expect(parseScenario(s, torvholm).ok).toBe(true);
  });

  it('come from all around, in winds up to 60 % of cruise from anywhere', () => {
    const quarters = (degrees: number[]) => new Set(degrees.map((d) => Math.floor(d / 90))).size;
    expect(quarters(all.map((s) => s.outbound.bearingDeg))).toBe(4);
    expect(quarters(all.map((s) => s.wind.fromDeg))).toBe(4);
    const most = 0.6 * usualCruise(airframe);
    const winds = all.map((s) => s.wind.speedMps);
    expect(Math.max(...winds)).toBeLessThanOrEqual(most);
    // By chance evenly: the strongest of two hundred is near the limit, the mean near its half.
    expect(Math.max(...winds)).toBeGreaterThan(0.95 * most);
    expect(winds.reduce((a, b) => a + b) / winds.length / most).toBeCloseTo(0.5, 1);
  });

  it('fly out clear of the ground', () => {
    for (const s of all) {
      const b = s.outbound.bearingDeg * DEG;
      for (let d = 0; d <= s.outbound.distanceM; d += 30) {
        const ground = groundHeight(
          torvholm.terrain,
          mossvikGround.homeEastM + d * Math.sin(b),
          mossvikGround.homeNorthM + d * Math.cos(b),
        );
        expect(torvholm.home.heightM + s.outbound.heightM - ground).toBeGreaterThan(60);
      }
    }
  });

  it('take the satellites away for twenty seconds after the link, when asked to', () => {
    for (const s of all) {
      const [lost, dead, back] = s.events;
      expect(lost!.do).toBe('link-lost');
      expect(dead).toMatchObject({ do: 'fault', device: 'gnss', fault: 'dead' });
      expect(back!.atS - dead!.atS).toBeCloseTo(20, 9);
      expect(dead!.atS).toBeGreaterThan(lost!.atS + 30);
    }
    expect(chanceLoss(airframe, torvholm, 3, 'none').events).toHaveLength(1);
  });
});

describe('a gusty one', () => {
  it('blows at 40 % of the cruise with the gusts that the law has for such a wind', () => {
    const { wind } = chanceLoss(turnstone, torvholm, 5, 'gusts');
    expect(wind.speedMps / usualCruise(turnstone)).toBeCloseTo(0.4, 9);
    // By hand: W_20 at 6.1 m is 0.915 of that at 10 m; 0.1 W_20/(0.177 + 0.01646)^0.4.
    expect(wind.gustMps / wind.speedMps).toBeCloseTo((0.1 * 0.915) / 0.19346 ** 0.4, 2);
  });
});
