import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { answerChange, isTuning, tunedAnswer, tuningChanges, tuningValues } from './tunings.ts';

const values = pfadCatalogue.defaults();
const answer = (riseS: number | null, overshoot: number, sure = 0.02) => ({
  riseS,
  delayS: 0.05,
  overshoot,
  sure,
});

describe('the tuning of a flight', () => {
  it('is what loops, filters and levels are made of, and no switch', () => {
    const kept = Object.keys(tuningValues(values));
    expect(kept).toContain('rate.roll.p');
    expect(kept).toContain('set.2.level.bank');
    expect(kept).toContain('gyro.notch');
    for (const key of ['arm.channel', 'out.1.low', 'return.height', 'compass.x', 'battery.cells'])
      expect(isTuning(key)).toBe(false);
  });

  it('changed where a setting is another one, or was not told', () => {
    const after = { ...values, 'rate.roll.p': 0.2, 'arm.channel': 9, 'gyro.poles': 2 };
    expect(tuningChanges(values, after, pfadCatalogue).map((c) => c.key)).toEqual([
      'rate.roll.p',
      'gyro.poles',
    ]);
    expect(tuningChanges(values, { ...values }, pfadCatalogue)).toEqual([]);
    const { 'rate.roll.p': _, ...less } = values;
    expect(tuningChanges(less, values, pfadCatalogue)).toEqual([
      { key: 'rate.roll.p', from: undefined, to: values['rate.roll.p'] },
    ]);
  });
});

describe('what a change did', () => {
  it('is told only beyond what both answers are sure to', () => {
    expect(answerChange(answer(0.2, 0.1), answer(0.1, 0.3))).toEqual({
      rise: -0.1,
      overshoot: expect.closeTo(0.2, 9),
    });
    expect(answerChange(answer(0.2, 0.1), answer(0.198, 0.12))).toEqual({ rise: null, overshoot: null });
    expect(answerChange(answer(0.2, 0.1, 0.3), answer(0.19, 0.3, 0.3))).toEqual({
      rise: null,
      overshoot: null,
    });
    expect(answerChange(answer(null, 0.1), answer(0.1, 0.1))).toEqual({ rise: null, overshoot: null });
  });

  it('comes of an answer by its line and its spread', () => {
    const stepS = 0.005;
    const mean = Float64Array.from({ length: 200 }, (_, k) => 1 - Math.exp((-k * stepS) / 0.05));
    const told = tunedAnswer({ mean, spread: mean.map(() => 0.01), stepS, windows: 20 } as never);
    // Of a first order: ln 9 time constants.
    expect(told.riseS).toBeCloseTo(0.05 * Math.log(9), 2);
    expect(told).toMatchObject({ overshoot: 0, sure: 0.02 });
  });
});
