import { describe, expect, it } from 'vitest';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { flock, turnstone } from '#core/airframe/library.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { gainLawOf } from '#core/control/gainLaw.ts';
import { prepared } from '../../../../testing/aloft.ts';
import { drawnLaw } from './lawPoints.ts';

const { pads } = fellF7;

describe('the law of gains as it is drawn', () => {
  it.each(flock.map((a) => [a.name, a] as const))(
    'runs from slow to fast and is whole at its reference: %s',
    (_n, a) => {
      const drawn = drawnLaw(a, prepared(a), pads, 'pitch');
      const xs = drawn.points.map((p) => p.x);
      expect(xs.every((x, k) => k === 0 || x > xs[k - 1]!)).toBe(true);
      expect(drawn.reference).toBeGreaterThan(xs[0]!);
      expect(drawn.reference).toBeLessThan(xs.at(-1)!);
      for (const { wanted, gain } of drawn.points) {
        expect(Number.isFinite(gain)).toBe(true);
        expect(Number.isFinite(wanted.gain)).toBe(true);
      }
      if (isRotorcraft(a)) expect(drawn.points.map((p) => p.shut)).toEqual(drawn.points.map((p) => p.gain));
    },
  );

  it('has its ends where what it goes by reaches them', () => {
    const values = { ...prepared(turnstone), 'rate.by': 'speed' };
    const law = gainLawOf(values, false);
    const drawn = drawnLaw(turnstone, values, pads, 'roll');
    const xs = drawn.points.map((p) => p.x);
    const within = (x: number) => Math.min(xs.at(-1)!, Math.max(xs[0]!, x));
    expect(drawn.lowest).toBeCloseTo(within(law.lowest * law.reference), 6);
    expect(drawn.highest).toBeCloseTo(within(law.highest * law.reference), 6);
    expect(drawn.shareAt(law.reference)).toBeCloseTo(1, 9);
  });

  it('has no ends where gains go by nothing', () => {
    const drawn = drawnLaw(turnstone, { ...prepared(turnstone), 'rate.by': 'nothing' }, pads, 'roll');
    expect([drawn.lowest, drawn.highest]).toEqual([null, null]);
    expect(new Set(drawn.points.map((p) => p.gain))).toEqual(new Set([1]));
  });
});
