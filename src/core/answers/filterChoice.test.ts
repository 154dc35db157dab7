import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import { rmsWithin, welch } from '../analysis/spectrum.ts';
import { type ThrottleSpectra, throttleSpectra } from '../analysis/throttleSpectra.ts';
import { fellF7 } from '../board/fellF7.ts';
import { type FilterSet, filtersOf, notchAt } from '../control/gyroFilter.ts';
import { LowPass } from '../control/lowPass.ts';
import { Notch } from '../control/notch.ts';
import { RateLoop } from '../control/rateLoop.ts';
import { sizeOf } from '../math/complex.ts';
import { Random } from '../math/random.ts';
import { gyroFilters, LOOP_S, type Loop, loopOf } from './chain.ts';
import {
  chooseFilters,
  commandShake,
  delaysOf,
  loudestLine,
  lowPassOf,
  SHAKE_FROM_HZ,
  shaftLine,
  takesAt,
} from './filterChoice.ts';

const RATE = 1000;
const N = 120_000;
const MIDDLE = 0.5;
const hover = loopOf(avocet, prepared(avocet), fellF7.pads, 'roll', 0)!;
const loop: Loop = { ...hover, gains: { ...hover.gains, derivative: 0.01 * hover.gains.proportional } };

/** Noise with a line that goes with the root of the throttle, as the notch does: the throttle stands still for a second at a time. */
function shaken() {
  const random = new Random(6);
  const throttle = Float64Array.from({ length: N }, (_, k) => 0.275 + 0.05 * (Math.floor(k / 1000) % 12));
  let phase = 0;
  const signal = throttle.map((t) => {
    phase += (2 * Math.PI * 120 * Math.sqrt(t / MIDDLE)) / RATE;
    return 0.1 * Math.sin(phase) + 0.01 * random.normal();
  });
  return { signal, throttle };
}

const shake = shaken();
const spectra: ThrottleSpectra = throttleSpectra([shake], RATE, 20);
const set: FilterSet = {
  ...{ notchHz: 120, notchQ: 2, harmonics: 1, follows: true, power: 0.5 },
  ...{ lowPassHz: 80, poles: 1, biquad: false, secondHz: 0, yawHz: 0, told: false },
  ...{ track: 0, trackFromHz: 70, trackToHz: 350, trackQ: 3 },
};

describe('what shake makes of the command', () => {
  it.each<readonly [string, FilterSet]>([
    ['with all filters', set],
    ['without a notch', { ...set, notchHz: 0 }],
    ['with a notch that stays', { ...set, follows: false }],
    ['with two poles', { ...set, notchHz: 0, poles: 2 }],
    ['with nothing but a high low-pass', { ...set, notchHz: 0, lowPassHz: 250 }],
  ])('%s is what the very filters and gains make of it, sample by sample', (_name, filters) => {
    const said = commandShake(spectra, filters, MIDDLE, loop);
    const without = commandShake(spectra, { ...filters, notchHz: 0 }, MIDDLE, loop);
    // One throttle at a time, through the code that flies.
    for (const at of [0.325, 0.575, 0.775]) {
      const rate = new RateLoop(loop.gains, loop.shape, LOOP_S);
      const notch = new Notch(notchAt(filters, at, MIDDLE), filters.notchQ, LOOP_S);
      const lows = Array.from({ length: filters.poles }, () => new LowPass(filters.lowPassHz, LOOP_S));
      const commands: number[] = [];
      shake.signal.forEach((x, k) => {
        if (Math.abs(shake.throttle[k]! - at) > 0.001) return;
        rate.rate = lows.reduce((y, low) => low.step(y), filters.notchHz > 0 ? notch.step(x) : x);
        rate.step(false);
        commands.push(rate.output);
      });
      const real = rmsWithin(welch(commands, RATE, 256)!, SHAKE_FROM_HZ, 500);
      const band = Math.floor(at * 20);
      // What a notch takes whole, a window smears to beside it: measured by what there is without one.
      expect(Math.abs(said[band]! - real) / without[band]!, `${at}`).toBeLessThan(0.1);
    }
  });

  it('says nothing of throttles that were not flown', () => {
    expect(commandShake(spectra, set, MIDDLE, loop)[0]).toBeNaN();
  });
});

describe('filters that are chosen', () => {
  const wish = { shaft: { hz: 120, power: 0.5 }, crossHz: 4, allowed: 0.002 };

  it('keep shake under what is allowed with no more delay than any other of the choices', () => {
    const { set: chosen, shake: left, enough, degrees } = chooseFilters(spectra, MIDDLE, loop, wish);
    expect(enough).toBe(true);
    expect(left).toBeLessThanOrEqual(wish.allowed);
    expect(Math.max(...commandShake(spectra, chosen, MIDDLE, loop).filter(Number.isFinite))).toBeCloseTo(
      left,
      12,
    );
    expect(degrees).toBeCloseTo(
      delaysOf(chosen, wish.crossHz).reduce((sum, d) => sum + d.degrees, 0),
      12,
    );
    // Its line is the propellers': a notch on it costs less than a low-pass that would take as much.
    expect(chosen.notchHz).toBeGreaterThan(100);
    const alone = chooseFilters(spectra, MIDDLE, loop, { ...wish, shaft: null });
    expect(alone.set.notchHz).toBe(0);
    expect(alone.enough ? alone.degrees : Number.POSITIVE_INFINITY).toBeGreaterThan(degrees);
  });

  it('are of the kind that older firmware has, where it is asked for', () => {
    const steep = { ...wish, shaft: { hz: 120, power: 0.9 }, plain: true };
    for (const allowed of [0.001, 0.003]) {
      const { set: chosen } = chooseFilters(spectra, MIDDLE, loop, { ...steep, allowed });
      expect(chosen).toMatchObject({ harmonics: 1, power: 0.5, poles: 1 });
    }
  });

  it('cost less the more is allowed', () => {
    const degrees = [0.002, 0.005, 0.02, 0.1].map((allowed) => {
      const choice = chooseFilters(spectra, MIDDLE, loop, { ...wish, allowed });
      return choice.enough ? choice.degrees : Number.POSITIVE_INFINITY;
    });
    for (let k = 1; k < degrees.length; k++) expect(degrees[k]).toBeLessThanOrEqual(degrees[k - 1]!);
  });

  it('are the quietest there are where none is quiet enough', () => {
    const choice = chooseFilters(spectra, MIDDLE, loop, { ...wish, allowed: 1e-6 });
    expect(choice.enough).toBe(false);
    expect(choice.set.lowPassHz).toBe(20);
  });
});

describe('the line of the propellers', () => {
  it('is found where they shook, whatever their model said', () => {
    const line = shaftLine(spectra, (t) => 150 * t ** 0.7 * 1.2, MIDDLE)!;
    expect(Math.abs(line.hz / 120 - 1)).toBeLessThan(0.02);
    expect(Math.abs(line.power - 0.5)).toBeLessThan(0.04);
  });

  it('is what their model says where no line is near it, and none without motors', () => {
    const line = shaftLine(spectra, (t) => 900 * t ** 0.8, MIDDLE)!;
    expect(line.hz).toBeCloseTo(900 * MIDDLE ** 0.8, 6);
    expect(line.power).toBeCloseTo(0.8, 6);
    expect(shaftLine(spectra, () => Number.NaN, MIDDLE)).toBeNull();
  });
});

describe('filters as they are set', () => {
  // Butterworth's |H|^2 = 1/(1 + (f/f_c)^4) with the bilinear transform's frequencies tan(pi f T).
  it.each([5, 40, 80, 150, 400])('of the second order take at %d Hz what Butterworth says', (hz) => {
    const low = lowPassOf({ ...set, biquad: true });
    const warped = (f: number) => Math.tan(Math.PI * f * LOOP_S);
    expect(sizeOf(low.at(hz)) ** 2).toBeCloseTo(1 / (1 + (warped(hz) / warped(80)) ** 4), 8);
  });

  it('stand on the shaft itself where controllers tell it', () => {
    const shaft = (throttle: number) => 300 * throttle;
    expect(notchAt({ ...set, told: true }, 0.5, MIDDLE, shaft)).toBe(150);
    expect(notchAt({ ...set, told: true }, 0.5, MIDDLE)).toBe(notchAt(set, 0.5, MIDDLE));
    expect(notchAt({ ...set, told: true, notchHz: 0 }, 0.5, MIDDLE, shaft)).toBe(0);
  });

  it('cost less of the second order than of two poles that take as much, and yaw has one of its own', () => {
    const two = { ...set, notchHz: 0, poles: 2 };
    const db = 20;
    const second = {
      ...two,
      biquad: true,
      lowPassHz: (80 * takesAt(two, db)) / takesAt({ ...two, biquad: true }, db),
    };
    expect(takesAt(second, db) / takesAt(two, db)).toBeCloseTo(1, 1);
    const ms = (s: typeof two) => delaysOf(s, 5)[0]!.ms;
    expect(ms(second)).toBeLessThan(ms(two));
    expect(takesAt({ ...set, lowPassHz: 0 }, 3)).toBe(Number.POSITIVE_INFINITY);
    const values = { ...prepared(turnstone), 'gyro.yawCutoff': 30, 'gyro.cutoff2': 200 };
    const names = (axis: 'roll' | 'yaw') => gyroFilters(values, axis).map((f) => f.name);
    expect(names('roll').at(-1)).toBe('second low-pass at 200 Hz');
    expect(names('yaw').at(-1)).toBe('low-pass of yaw at 30 Hz');
  });

  it('are read from the settings, and take from a line what they are built to take', () => {
    expect(filtersOf(prepared(turnstone))).toMatchObject({ follows: true, lowPassHz: 80, power: 0.9 });
    // Firmware before 3.2 has neither power nor poles to set.
    const {
      'gyro.notchPower': _,
      'gyro.notchHarmonics': __,
      'gyro.poles': ___,
      ...older
    } = prepared(turnstone);
    expect(filtersOf(older)).toMatchObject({ power: 0.5, harmonics: 1, poles: 1 });
    const at = loudestLine(spectra, 10, set, MIDDLE)!;
    expect(Math.abs(at.hz - 120 * Math.sqrt(0.525 / MIDDLE))).toBeLessThan(4);
    // A sine of a tenth.
    expect(at.rms).toBeCloseTo(0.1 * Math.SQRT1_2, 2);
    expect(at.takenDb).toBeGreaterThan(15);
    const low = loudestLine(spectra, 10, { ...set, notchHz: 0 }, MIDDLE)!;
    // One pole at 80 Hz, by the formula of the analogue one.
    expect(Math.abs(low.takenDb - 10 * Math.log10(1 + (low.hz / 80) ** 2))).toBeLessThan(1.5);
  });

  it('cost, far below their frequencies, their own delay: of a low-pass one over its turning frequency', () => {
    const [notch, low] = delaysOf(set, 2);
    expect(low!.ms).toBeCloseTo(1000 / (2 * Math.PI * 80), 0);
    // Of a notch 1 over its quality and its turning frequency.
    expect(notch!.ms).toBeCloseTo(1000 / (2 * Math.PI * 120 * 2), 1);
    expect(delaysOf({ ...set, notchHz: 0, lowPassHz: 0 }, 2)).toEqual([]);
  });
});
