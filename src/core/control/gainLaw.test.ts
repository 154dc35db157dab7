import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { type GainLaw, gainLawOf, gainTimes } from './gainLaw.ts';

const values = pfadCatalogue.defaults();
const times = (law: GainLaw, rotors: boolean, at: number, volts = 0) => {
  const { gain, forward } = gainTimes(law, rotors, { gain: 0, forward: 0, at, supplyV: volts });
  return { gain, forward };
};

describe('how gains go with speed', () => {
  it('is by its square and for feed-forward by itself, from 0.6 to 2 times the reference, as before 3.2', () => {
    const before = Object.fromEntries(
      Object.entries(values).filter(
        ([key]) => !/^rate\.(by|power|forwardPower|lowest|highest|throttleLag|volt)/.test(key),
      ),
    );
    for (const set of [values, before]) {
      const law = gainLawOf(set, false);
      expect(law).toMatchObject({ by: 'speed', reference: 15 });
      expect(times(law, false, 15)).toEqual({ gain: 1, forward: 1 });
      expect(times(law, false, 30)).toEqual({ gain: 0.25, forward: 0.5 });
      expect(times(law, false, 60)).toEqual({ gain: 0.25, forward: 0.5 });
      expect(times(law, false, 1).forward).toBeCloseTo(1 / 0.6, 12);
    }
  });

  it('is nothing for rotors, which have no airspeed', () => {
    expect(gainLawOf(values, true).by).toBe('nothing');
    expect(times(gainLawOf(values, true), true, 0.9, 12)).toEqual({ gain: 1, forward: 1 });
  });

  it('goes by another power between other ends, and not at all where it is told so', () => {
    const set = {
      ...values,
      'rate.power': 1,
      'rate.forwardPower': 0.5,
      'rate.lowest': 0.5,
      'rate.highest': 4,
    };
    const law = gainLawOf(set, false);
    expect(times(law, false, 60).gain).toBeCloseTo(0.25, 12);
    expect(times(law, false, 60).forward).toBeCloseTo(0.5, 12);
    expect(times(law, false, 3).gain).toBeCloseTo(2, 12);
    expect(times(gainLawOf({ ...set, 'rate.by': 'nothing' }, false), false, 60)).toEqual({
      gain: 1,
      forward: 1,
    });
  });
});

describe('how gains go with the throttle and the battery', () => {
  const set = {
    ...values,
    'rate.by': 'throttle',
    'rate.power': 1,
    'motor.cruise': 0.5,
    'hover.throttle': 0.4,
  };

  it('refers to the cruise of wings and to the hover of rotors', () => {
    expect(times(gainLawOf(set, false), false, 1).gain).toBeCloseTo(0.5, 12);
    expect(times(gainLawOf(set, true), true, 0.8)).toEqual({ gain: 0.5, forward: 0.5 });
    expect(times(gainLawOf(set, false), false, 0).gain).toBeCloseTo(1 / 0.6, 12);
  });

  it('makes up for what motors lose, and leaves what servos move', () => {
    const falls = {
      ...set,
      'rate.by': 'nothing',
      'rate.voltPower': 1,
      'rate.volts': 3.7,
      'battery.cells': 4,
    };
    expect(times(gainLawOf(falls, true), true, 0, 4 * 3.7).gain).toBe(1);
    expect(times(gainLawOf(falls, true), true, 0, 4 * 3.2).gain).toBeCloseTo(3.7 / 3.2, 12);
    expect(times(gainLawOf(falls, false), false, 0, 4 * 3.2).gain).toBe(1);
    // A battery that nobody measures changes nothing; one that is measured wrong does not do it by more than twice.
    expect(times(gainLawOf(falls, true), true, 0, 0).gain).toBe(1);
    expect(times(gainLawOf(falls, true), true, 0, 2).gain).toBeCloseTo(2, 12);
  });
});
