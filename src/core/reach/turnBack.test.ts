import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { torvholm } from '../../testing/demoCraft.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import { chargeAtRest, openCircuitV } from '../flight/battery.ts';
import type { Values } from '../settings/catalogue.ts';
import { bareSite } from '../site/site.ts';
import { coldShare, flyOut } from './turnBack.ts';

const flat = bareSite(torvholm.home, torvholm.year);
const warm = { cellsC: 20, ohm: null };
const fly = (
  change: Values = {},
  wind = { speedMps: 0, fromDeg: 0, gustMps: 0 },
  airframe = turnstone,
  day: { cellsC: number; ohm: number | null } = warm,
) =>
  flyOut(
    {
      airframe,
      values: prepared(airframe, { 'return.climb': 'at-least', 'return.height': 120, ...change }),
      site: flat,
      circumstances: { wind, batteryShare: 1, reserveShare: 0.2, heightM: 120 },
    },
    0,
    day,
  );
const mark = (f: ReturnType<typeof fly>, watch: string) => f.marks.find((m) => m.watch === watch)!.at!;

describe('a flight straight out', () => {
  it('empties the battery evenly, and leaves less and less above home', () => {
    const { points } = fly();
    expect(points[0]!.share).toBe(1);
    expect(points.at(-1)!.share).toBeGreaterThan(0);
    for (let i = 1; i < points.length; i++) {
      expect(points[i]!.share).toBeLessThan(points[i - 1]!.share);
      expect(points[i]!.homeShare).toBeLessThanOrEqual(points[i - 1]!.homeShare + 1e-9);
    }
  });

  it('by the way home it turns while the reserve is still there, by charge too late', () => {
    const f = fly({ 'battery.reserve': 0.25 });
    expect(mark(f, 'home').homeShare).toBeCloseTo(0.25, 1);
    expect(mark(f, 'home').seconds).toBeLessThan(mark(f, 'charge').seconds);
    expect(mark(f, 'charge').homeShare).toBeLessThan(0.05);
  });

  it('turns sooner with the wind behind it on the way out', () => {
    const tail = mark(fly({}, { speedMps: 6, fromDeg: 180, gustMps: 0 }), 'home');
    const head = mark(fly({}, { speedMps: 6, fromDeg: 0, gustMps: 0 }), 'home');
    expect(tail.seconds).toBeLessThan(head.seconds);
  });

  it('is shorter on a cold day, and low by voltage sooner with an old pack', () => {
    expect(coldShare(20)).toBe(1);
    expect(coldShare(-10)).toBeLessThan(coldShare(5));
    expect(fly({}, undefined, turnstone, { cellsC: -10, ohm: null }).points.length).toBeLessThan(
      fly().points.length,
    );
    const old = fly({}, undefined, turnstone, { cellsC: 20, ohm: 0.09 });
    expect(mark(old, 'volts').seconds).toBeLessThan(mark(fly(), 'volts').seconds);
  });

  it('is flown by rotors as well', () => {
    const f = fly({}, { speedMps: 3, fromDeg: 90, gustMps: 0 }, avocet);
    expect(mark(f, 'home').distanceM).toBeGreaterThan(1000);
  });
});

describe('charge by the voltage at rest', () => {
  it('is the curve the other way round', () => {
    for (const chemistry of ['lipo', 'li-ion'] as const)
      for (const share of [0, 0.13, 0.5, 0.77, 1])
        expect(chargeAtRest(chemistry, openCircuitV(chemistry, share))).toBeCloseTo(share, 6);
    expect(chargeAtRest('lipo', 5)).toBe(1);
    expect(chargeAtRest('lipo', 1)).toBe(0);
  });
});
