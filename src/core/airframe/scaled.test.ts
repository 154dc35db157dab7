import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { kinds } from './actuators.ts';
import { wingOf } from './airframe.ts';
import { avocet, flock, plainCraft, turnstone } from './library.ts';
import { hoverOf, performanceOf, stallSpeed } from './performance.ts';
import { acrossOf, scaledTo, sizeOf } from './scaled.ts';

describe('a craft of another size', () => {
  it('is the same one at its own size', () => {
    for (const craft of [...flock, ...kinds.map(plainCraft)]) {
      const same = scaledTo(craft, sizeOf(craft));
      expect(same.planforms).toEqual(craft.planforms);
      for (const [i, m] of same.motors.entries()) {
        expect(m.aftM).toBeCloseTo(craft.motors[i]!.aftM, 12);
        expect(m.resistanceOhm).toBeCloseTo(craft.motors[i]!.resistanceOhm, 12);
      }
      expect(same.massKg).toBe(craft.massKg);
    }
  });

  it('stalls with the square root of mass over area, as any wing does', () => {
    // v = sqrt(2 m g / (rho S C_L)): at twice the size and eight times the mass, sqrt(8 / 4).
    const size = sizeOf(turnstone);
    const twice = scaledTo(turnstone, { ...size, acrossM: 2 * size.acrossM, massKg: 8 * size.massKg });
    expect(stallSpeed(twice) / stallSpeed(turnstone)).toBeCloseTo(Math.SQRT2, 2);
    expect(performanceOf(twice).staticMargin).toBeCloseTo(performanceOf(turnstone).staticMargin, 2);
    expect(wingOf(twice).spanM).toBeCloseTo(3.2, 9);
  });

  it('hovers with current per weight that goes with the root of the disc loading', () => {
    // Momentum theory: P / W = sqrt(W / (2 rho A)); the same loading at the same voltage asks for the same.
    const size = sizeOf(avocet);
    const k = Math.SQRT2;
    const larger = scaledTo(avocet, {
      ...size,
      acrossM: k * size.acrossM,
      massKg: 2 * size.massKg,
      propDiameterM: k * size.propDiameterM,
      kvRpmPerV: size.kvRpmPerV / k,
      capacityMah: 2 * size.capacityMah,
    });
    const perWeight = (a: typeof avocet) => hoverOf(a).currentA / a.massKg;
    expect(perWeight(larger) / perWeight(avocet)).toBeGreaterThan(0.9);
    expect(perWeight(larger) / perWeight(avocet)).toBeLessThan(1.1);
  });

  it('is a craft, or says that it is none', () => {
    const kind = fc.constantFrom(...kinds);
    const sizes = fc.record({
      acrossM: fc.double({ min: 0.1, max: 30, noNaN: true }),
      massKg: fc.double({ min: 0.05, max: 50, noNaN: true }),
      propDiameterM: fc.double({ min: 0.05, max: 0.8, noNaN: true }),
      kvRpmPerV: fc.integer({ min: 80, max: 6000 }),
      cells: fc.integer({ min: 1, max: 14 }),
      capacityMah: fc.integer({ min: 100, max: 50_000 }),
    });
    fc.assert(
      fc.property(kind, sizes, (k, s) => {
        try {
          const craft = scaledTo(plainCraft(k), { ...s, name: 'One' });
          expect(acrossOf(craft)).toBeCloseTo(s.acrossM, 6);
        } catch (error) {
          expect((error as Error).message).toMatch(/^At that size .* is not that of a craft/);
        }
      }),
    );
  });
});
