import { describe, expect, it } from 'vitest';
import { extent, plotPath } from './plotPath.ts';

const scale = { fromS: 0, toS: 10, left: 0, width: 10, top: 0, low: 100, least: 0, most: 100 };
const seconds = Float64Array.from({ length: 1001 }, (_, k) => k / 100);

describe('the path of a series', () => {
  it('keeps every peak, however short', () => {
    const values = seconds.map((_, k) => (k === 432 ? 100 : 50)) as Float64Array;
    const ys = [...plotPath(seconds, values, scale).matchAll(/ ([\d.]+)/g)].map((m) => Number(m[1]));
    expect(Math.min(...ys)).toBe(0);
    expect(ys.filter((y) => y === 0)).toHaveLength(1);
  });

  it('is broken where nothing is told, and no longer than its width needs', () => {
    const values = seconds.map((t) =>
      t > 4 && t < 6 ? Number.NaN : 50 + 40 * Math.sin(300 * t),
    ) as Float64Array;
    const path = plotPath(seconds, values, scale);
    expect(path.match(/M/g)).toHaveLength(2);
    expect(path.match(/[ML]/g)!.length).toBeLessThanOrEqual(4 * 11 + 4);
    expect(plotPath(seconds, seconds.map(() => Number.NaN) as Float64Array, scale)).toBe('');
  });

  it('shows a part of the time, by its own extent', () => {
    const part = { ...scale, fromS: 2, toS: 4 };
    const path = plotPath(seconds, seconds, part);
    expect(path.startsWith('M0.0')).toBe(true);
    expect(extent(seconds, seconds, 2, 4)).toEqual({ least: 2, most: 4 });
    expect(extent(seconds, seconds, 20, 40)).toBeNull();
    // What never changes stands at its low end, and is no fault.
    expect(
      plotPath(seconds, seconds.map(() => 3) as Float64Array, { ...scale, least: 3, most: 3 }),
    ).toContain('100.0');
  });
});
