import { describe, expect, it } from 'vitest';
import { turnRadius } from '../airframe/performance.ts';
import { quat, rollOf, setEuler, toBody } from '../math/quaternion.ts';
import { Random } from '../math/random.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { AttitudeEstimator } from './attitude.ts';
import { PositionEstimator } from './position.ts';

describe('attitude', () => {
  it('finds roll and pitch at rest from gravity, with the right signs', () => {
    for (const [roll, pitch] of [
      [20, 0],
      [-35, 10],
      [0, 25],
      [5, -30],
    ] as const) {
      const q = setEuler(quat(), roll * DEG, pitch * DEG, 1);
      const force = toBody(new Float64Array(3), q, Float64Array.of(0, 0, -GRAVITY));
      const e = new AttitudeEstimator();
      for (let k = 0; k < 3000; k++) e.step(new Float64Array(3), force, 0, Number.NaN, 0.001);
      expect(e.roll / DEG).toBeCloseTo(roll, 1);
      expect(e.pitch / DEG).toBeCloseTo(pitch, 1);
    }
  });

  it('keeps its bank through minutes of a coordinated turn, where gravity seems to point through the floor', () => {
    const bank = 35 * DEG;
    const speed = 17;
    const turn = speed / turnRadius(speed, bank);
    const q = setEuler(quat(), bank, 0, 0);
    const rates = toBody(new Float64Array(3), q, Float64Array.of(0, 0, turn));
    const e = new AttitudeEstimator();
    const level = Float64Array.of(0, 0, -GRAVITY);
    for (let k = 0; k < 4000; k++) e.step(new Float64Array(3), level, 17, Number.NaN, 0.001);
    for (let k = 0; k < 500; k++) e.step(Float64Array.of(bank / 0.5, 0, 0), level, 17, Number.NaN, 0.001);
    const force = Float64Array.of(0, 0, -GRAVITY / Math.cos(bank));
    for (let k = 0; k < 120_000; k++) e.step(rates, force, speed, Number.NaN, 0.001);
    expect(Math.abs(e.roll - bank)).toBeLessThan(2 * DEG);
    expect(Math.abs(e.pitch)).toBeLessThan(2 * DEG);
    expect(rollOf(e.attitude)).toBe(e.roll);
  });

  it('learns a gyro bias', () => {
    const e = new AttitudeEstimator();
    for (let k = 0; k < 400_000; k++)
      e.step(Float64Array.of(0.02, -0.01, 0), Float64Array.of(0, 0, -GRAVITY), 0, Number.NaN, 0.001);
    expect(Math.abs(e.rates[0]!)).toBeLessThan(0.002);
    expect(Math.abs(e.roll)).toBeLessThan(0.3 * DEG);
  });
});

describe('position', () => {
  it('follows a straight flight through noisy fixes and a noisy barometer', () => {
    const random = new Random(3);
    const p = new PositionEstimator();
    for (let k = 0; k < 6000; k++) {
      const t = k * 0.02;
      p.step(20 + 2 * t + 0.1 * random.normal(), 0.02);
      if (k % 5 === 0)
        p.fix(12 * t + random.normal(), -5 * t + random.normal(), 58 + 2 * t + random.normal(), 12, -5);
    }
    const t = 6000 * 0.02;
    expect(Math.abs(p.north - 12 * t)).toBeLessThan(2);
    expect(Math.abs(p.east + 5 * t)).toBeLessThan(2);
    expect(Math.abs(p.height - 58 - 2 * t)).toBeLessThan(2.5);
    expect(p.climb).toBeCloseTo(2, 0);
  });

  it('says that it has no fix soon after the last one', () => {
    const p = new PositionEstimator();
    expect(p.hasFix).toBe(false);
    p.step(0, 0.02);
    p.fix(0, 0, 0, 0, 0);
    expect(p.hasFix).toBe(true);
    for (let k = 0; k < 150; k++) p.step(0, 0.02);
    expect(p.hasFix).toBe(false);
  });
});
