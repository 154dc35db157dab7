import { describe, expect, it } from 'vitest';
import { airframeSchema, isRotorcraft } from './airframe.ts';
import { flock, turnstone } from './library.ts';
import { inertiaOf, massParts } from './massModel.ts';
import { performanceOf } from './performance.ts';
import { balanceOf, boardOffset, placeFor, weightsOf, withWeights } from './weights.ts';

const wings = flock.filter((a) => !isRotorcraft(a));

describe('what a craft weighs', () => {
  it.each(flock.map((a) => [a.name, a] as const))(
    '%s: the estimate weighs and balances as the craft does',
    (_n, a) => {
      const weights = weightsOf(a);
      const b = balanceOf(weights);
      expect(b.massKg).toBeCloseTo(a.massKg, 9);
      expect(b.aftM).toBeCloseTo(a.cgAftM, 9);
      expect(b.rightM).toBeCloseTo(0, 9);
      expect(weights.every((w) => w.massKg > 0)).toBe(true);
      expect(new Set(weights.map((w) => w.id)).size).toBe(weights.length);
      const taken = airframeSchema.parse(withWeights(a, weights));
      expect(taken.massKg).toBeCloseTo(a.massKg, 9);
      // Its inertia is that of the parts before, but for servos that were counted evenly over the planform.
      const [was, now] = [inertiaOf(a), inertiaOf(taken)];
      for (const axis of ['xx', 'yy', 'zz'] as const) {
        expect(now[axis] / was[axis]).toBeGreaterThan(0.75);
        expect(now[axis] / was[axis]).toBeLessThan(1.25);
      }
      const sum = massParts(taken).reduce((s, p) => s + p.massKg, 0);
      expect(sum).toBeCloseTo(a.massKg, 9);
    },
  );

  it('balances as two weights on a beam do', () => {
    const at = (massKg: number, aftM: number, rightM: number) => ({
      id: 'x',
      name: 'x',
      massKg,
      aftM,
      rightM,
      upM: 0,
    });
    // 2 kg at 0.1 m and 1 kg at 0.4 m: (0.2 + 0.4) / 3.
    expect(balanceOf([at(2, 0.1, 0.3), at(1, 0.4, -0.6)])).toEqual({
      massKg: 3,
      aftM: expect.closeTo(0.2, 12),
      rightM: expect.closeTo(0, 12),
    });
    expect(() => balanceOf([])).toThrow(RangeError);
  });
});

describe('where a part goes for a margin', () => {
  it.each(wings.map((a) => [a.name, a] as const))('%s: put there, the craft has it', (_n, a) => {
    const weights = weightsOf(a);
    for (const margin of [0.08, 0.12]) {
      const place = placeFor(a, weights, 'battery', margin);
      const moved = weights.map((w) => (w.id === 'battery' ? { ...w, aftM: place.aftM } : w));
      expect(performanceOf(withWeights(a, moved)).staticMargin).toBeCloseTo(margin, 6);
    }
  });

  it('says the ballast that does the rest where the part would be outside', () => {
    const weights = weightsOf(turnstone).map((w) => (w.id === 'battery' ? { ...w, massKg: 0.03 } : w));
    const place = placeFor(turnstone, weights, 'battery', 0.3);
    expect(place.inside).toBe(false);
    const { aftM, ballastKg, ballastAftM } = place.instead!;
    expect(ballastKg).toBeGreaterThan(0);
    const done = [
      ...weights.map((w) => (w.id === 'battery' ? { ...w, aftM } : w)),
      { id: 'ballast', name: 'ballast', massKg: ballastKg, aftM: ballastAftM, rightM: 0, upM: 0 },
    ];
    expect(performanceOf(withWeights(turnstone, done)).staticMargin).toBeCloseTo(0.3, 6);
  });

  it('refuses a part that is not there, and a craft without a wing', () => {
    expect(() => placeFor(turnstone, weightsOf(turnstone), 'anchor', 0.1)).toThrow(RangeError);
    const avocet = flock.find(isRotorcraft)!;
    expect(() => placeFor(avocet, weightsOf(avocet), 'battery', 0.1)).toThrow(RangeError);
  });
});

describe('the board in the craft', () => {
  it('has a place from the centre of gravity once it was weighed', () => {
    expect(boardOffset(turnstone)).toBeNull();
    const weights = weightsOf(turnstone).map((w) =>
      w.id === 'board' ? { ...w, massKg: 0, aftM: 0.3, rightM: 0.02 } : w,
    );
    const a = withWeights(turnstone, weights);
    expect(boardOffset(a)).toEqual({ forwardM: a.cgAftM - 0.3, rightM: 0.02, upM: 0 });
  });
});
