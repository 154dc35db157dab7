import { describe, expect, it } from 'vitest';
import { interferenceFrom } from '#core/calibration/interference.ts';
import { CompassRun } from './compassRun.ts';

const block = (atS: number, values: number[], n: number) => ({
  n,
  atS,
  dtS: 0.02,
  values: Float32Array.from(values),
});

describe('a run-up', () => {
  it('pairs field and current of the same moment, whenever their blocks come', () => {
    const run = new CompassRun();
    run.running = true;
    const amps = (t: number) => (Math.floor(t) % 2 === 0 ? 2 : 14);
    // Currents come half a second late, two to a block.
    for (let k = 0; k < 400; k++) {
      const t = k * 0.04;
      const field = [0, 0.02].flatMap((d) => [10 + 0.25 * amps(t + d), 5, 40 + 0.4 * amps(t + d)]);
      run.compass.push(block(t, field, k) as never);
      if (k >= 12) {
        const late = t - 0.48;
        run.battery.push(block(late, [16, amps(late), 16, amps(late + 0.02)], k) as never);
      }
    }
    const pairs = run.pairs();
    expect(pairs.length).toBeGreaterThan(100);
    const found = interferenceFrom(
      pairs.map((p) => p.field),
      pairs.map((p) => p.amps),
      14,
    );
    if ('refused' in found) throw new Error(found.refused);
    expect(found.perAmp[0]).toBeCloseTo(0.25, 2);
    expect(found.perAmp[2]).toBeCloseTo(0.4, 2);
    run.beginRunUp();
    expect(run.pairs()).toEqual([]);
  });

  it('keeps apart what is felt while it is turned', () => {
    const run = new CompassRun();
    run.compass.push(block(0, [1, 2, 3, 1.1, 2, 3, 9, 2, 3], 0) as never);
    // The second lies too near to the first to say more.
    expect(run.samples.map((s) => Math.round(s.field[0]))).toEqual([1, 9]);
    expect(run.moments).toBe(0);
  });
});
