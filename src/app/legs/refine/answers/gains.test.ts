import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { gainEdits, scaledGains, timesOf } from './gains.ts';

const base = { 'rate.roll.p': 0.06, 'rate.roll.i': 0.08, 'rate.roll.d': 0, 'rate.roll.forward': 0.15 };
const most = (key: string) => pfadCatalogue.entry(key)?.max ?? Number.POSITIVE_INFINITY;

describe('gains by one handle', () => {
  it('keep their ratios, and leave the feed-forward alone', () => {
    const edits = scaledGains(base, 'roll', 1.5, most);
    expect(edits).toEqual({ 'rate.roll.p': 0.09, 'rate.roll.i': 0.12, 'rate.roll.d': 0 });
    expect(timesOf(base, { ...base, ...edits }, 'roll')).toBeCloseTo(1.5, 9);
  });

  it('stop together where the first of them is at its end', () => {
    const edits = scaledGains(base, 'roll', 1000, most);
    expect(edits['rate.roll.p']).toBe(2);
    expect((edits['rate.roll.i'] as number) / 2).toBeCloseTo(0.08 / 0.06, 3);
    for (const [key, value] of Object.entries(edits)) expect(pfadCatalogue.checkValue(key, value)).toBeNull();
  });

  it('never vanish, so that the way back is not lost', () => {
    expect(scaledGains(base, 'roll', 0, most)['rate.roll.p']).toBeGreaterThan(0);
  });

  it('have no ratio where the board has no P', () => {
    expect(timesOf({ ...base, 'rate.roll.p': 0 }, base, 'roll')).toBeNull();
  });
});

describe('found gains', () => {
  it('become edits that the board takes, however far they were found', () => {
    for (const size of [0.01234567, 50]) {
      const gains = { feedForward: size, proportional: size, integral: size, derivative: size };
      const edits = gainEdits(gains, 'pitch', pfadCatalogue);
      expect(Object.keys(edits)).toHaveLength(4);
      for (const [key, value] of Object.entries(edits))
        expect(pfadCatalogue.checkValue(key, value), key).toBeNull();
    }
  });
});
