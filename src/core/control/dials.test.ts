import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { dialled, dialsOf, dialTargets, FlickSteps, keysMoved, timesAt } from './dials.ts';

const defaults = pfadCatalogue.defaults();
const on = { 'dial.1.channel': 11, 'dial.1.moves': 'roll', 'dial.1.span': 2 };

describe('a dial', () => {
  it('leaves what is written in its middle, and is as far from it at both ends', () => {
    expect(timesAt(2, 1500)).toBe(1);
    expect(timesAt(2, 2000)).toBe(2);
    expect(timesAt(2, 1000)).toBe(0.5);
    expect(timesAt(2, 2150)).toBe(2);
    expect(timesAt(4, 1750)).toBeCloseTo(2, 12);
  });

  it('is none without a channel, without a setting, and with firmware that knows none', () => {
    expect(dialsOf(defaults)).toEqual([]);
    expect(dialsOf({ ...defaults, 'dial.1.channel': 11 })).toEqual([]);
    expect(dialsOf({})).toEqual([]);
    expect(dialsOf({ ...defaults, ...on })).toMatchObject([{ dial: 1, channel: 11, moves: 'roll', span: 2 }]);
  });

  it('moves only settings that there are, in each control set', () => {
    for (const [id] of dialTargets)
      for (const set of [1, 2, 3])
        for (const key of keysMoved({ dial: 1, channel: 5, moves: id, by: 'dial', span: 2, step: 0.1 }, set))
          expect(pfadCatalogue.entry(key)?.type, key).toBe('number');
  });

  it('keeps ratios, and what a setting takes', () => {
    const values = { ...defaults, ...on, 'rate.roll.p': 0.1, 'rate.roll.i': 0.3, 'rate.roll.d': 0 };
    const bounds = (key: string) => pfadCatalogue.entry(key);
    expect(dialled(values, [1.5], 1, bounds)).toEqual({
      'rate.roll.p': 0.15,
      'rate.roll.i': 0.45,
      'rate.roll.d': 0,
    });
    expect(dialled({ ...values, 'rate.roll.p': 1.8 }, [2], 1, bounds)['rate.roll.p']).toBe(2);
    expect(dialled(values, [], 1, bounds)['rate.roll.p']).toBe(0.1);
  });
});

describe('a switch that springs back', () => {
  it('counts each flick once, as far as it may go', () => {
    const s = new FlickSteps(1.5, 0.1);
    expect(s.step(1500)).toBe(false);
    expect(s.step(2000)).toBe(true);
    expect(s.step(2000)).toBe(false);
    // A finger that trembles is no second flick.
    expect(s.step(1700)).toBe(false);
    expect(s.step(2000)).toBe(false);
    expect(s.times).toBeCloseTo(1.1, 12);
    s.step(1500);
    for (let k = 0; k < 9; k++) {
      s.step(2000);
      s.step(1500);
    }
    expect(s.times).toBe(1.5);
    for (let k = 0; k < 20; k++) {
      s.step(1000);
      s.step(1500);
    }
    expect(s.times).toBeCloseTo(1 / 1.5, 12);
  });
});
