import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '../airframe/library.ts';
import { quat, setEuler } from '../math/quaternion.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { GroundContact } from './groundContact.ts';

const level = setEuler(quat(), 0, 0, 0);
const still = new Float64Array(3);

describe('the ground under a craft', () => {
  it('does nothing to one that does not reach it', () => {
    const c = new GroundContact(turnstone);
    c.evaluate(c.reach + 0.01, still, setEuler(quat(), 70 * DEG, 40 * DEG, 0), still);
    expect(c.touching).toBe(false);
    expect([...c.force, ...c.moment]).toEqual([0, 0, 0, 0, 0, 0]);
  });

  it.each([
    ['on its feet', avocet],
    ['on its belly', turnstone],
    ['on its wheels', { ...turnstone, launch: 'wheels' as const }],
  ])('carries its weight %s, some centimetres in', (_name, airframe) => {
    const c = new GroundContact(airframe);
    const weight = airframe.massKg * GRAVITY;
    let [low, high] = [c.depth - 0.1, c.depth];
    for (let k = 0; k < 50; k++) {
      const mid = (low + high) / 2;
      c.evaluate(mid, still, level, still);
      if (-c.force[2]! > weight) low = mid;
      else high = mid;
    }
    expect(c.depth - high).toBeLessThan(0.07);
    expect(c.depth - high).toBeGreaterThan(0.005);
  });

  it('never pulls: a craft that leaps up is let go', () => {
    const c = new GroundContact(avocet);
    c.evaluate(c.depth - 0.01, Float64Array.of(0, 0, -20), level, still);
    expect(c.force[2]).toBeCloseTo(0, 9);
  });

  it('takes energy out of a slide, and more across wheels than along them', () => {
    const c = new GroundContact({ ...turnstone, launch: 'wheels' });
    c.evaluate(c.depth - 0.01, Float64Array.of(5, 0, 0), level, still);
    const along = c.force[0]!;
    const press = -c.force[2]!;
    c.evaluate(c.depth - 0.01, Float64Array.of(0, 5, 0), level, still);
    const across = c.force[1]!;
    expect(along).toBeLessThan(0);
    expect(-along / press).toBeCloseTo(0.06, 6);
    expect(-across / press).toBeCloseTo(0.5, 6);
  });

  it('rights a craft that leans on one foot', () => {
    const c = new GroundContact(avocet);
    c.evaluate(c.depth + 0.005, still, setEuler(quat(), 8 * DEG, 0, 0), still);
    expect(c.touching).toBe(true);
    expect(c.moment[0]!).toBeLessThan(0);
  });

  it('remembers the hardest blow until it is cleared', () => {
    const c = new GroundContact(avocet);
    c.evaluate(c.depth - 0.01, Float64Array.of(0, 0, 3), level, still);
    c.evaluate(c.depth - 0.01, Float64Array.of(0, 0, 1), level, still);
    expect(c.impactMps).toBeCloseTo(3, 9);
    c.clear();
    expect(c.impactMps).toBe(0);
  });
});
