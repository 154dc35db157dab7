import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { turnstone } from '../airframe/library.ts';
import { loopWork } from './loopWork.ts';

const of = (change: object) =>
  loopWork(prepared(turnstone, { 'gyro.notch': 0, 'gyro.cutoff': 80, 'gyro.poles': 1, ...change }));

describe('the load of filters and loops', () => {
  it('is that of each filter, on three axes, a thousand times a second', () => {
    expect(of({}).filters).toBe(3000);
    expect(of({ 'gyro.notch': 90, 'gyro.notchHarmonics': 2 }).filters).toBe(3000 + 3 * 2 * 5000);
    expect(of({ 'gyro.kind': 'biquad' }).filters).toBe(15_000);
    expect(of({ 'gyro.yawCutoff': 60 }).filters).toBe(4000);
    expect(of({ 'gyro.track': 4 }).filters).toBeGreaterThan(20 * of({}).filters);
  });

  it('falls with how often loops run, and that of filters stays', () => {
    const [often, seldom] = [of({}), of({ 'loop.rate': '250' })];
    expect(often.loops).toBe(27_000);
    expect(seldom).toEqual({ filters: often.filters, loops: often.loops / 4 });
    expect(of({ 'rate.roll.d': 0.001, 'rate.dPoles': 2 }).loops - often.loops).toBe(4000);
  });
});
