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
      const e = new AttitudeEstimator(0.001);
      for (let k = 0; k < 3000; k++) e.step(new Float64Array(3), force);
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
    const e = new AttitudeEstimator(0.001);
    const level = Float64Array.of(0, 0, -GRAVITY);
    e.aids.airspeed = speed;
    for (let k = 0; k < 4000; k++) e.step(new Float64Array(3), level);
    for (let k = 0; k < 500; k++) e.step(Float64Array.of(bank / 0.5, 0, 0), level);
    const force = Float64Array.of(0, 0, -GRAVITY / Math.cos(bank));
    for (let k = 0; k < 120_000; k++) e.step(rates, force);
    expect(Math.abs(e.roll - bank)).toBeLessThan(2 * DEG);
    expect(Math.abs(e.pitch)).toBeLessThan(2 * DEG);
    expect(rollOf(e.attitude)).toBeCloseTo(e.roll, 2);
  });

  it('learns a gyro bias', () => {
    const e = new AttitudeEstimator(0.001);
    for (let k = 0; k < 400_000; k++)
      e.step(Float64Array.of(0.02, -0.01, 0), Float64Array.of(0, 0, -GRAVITY));
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
      p.baro(20 + 2 * t + 0.1 * random.normal(), 0.02);
      p.step(0, 0, 0, Number.NaN, Number.NaN);
      // A fix tells of the place where the craft was 0.14 s ago.
      const then = t - 0.14;
      const noise = () => random.normal();
      if (k % 10 === 0)
        p.fix(12 * then + noise(), -5 * then + noise(), 58 + 2 * then + noise(), 12, -5, 1.5, 0.2);
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
    const step = () => p.step(0, 0, 0, Number.NaN, Number.NaN);
    step();
    p.fix(0, 0, 0, 0, 0, 1, 0.2);
    expect(p.hasFix).toBe(true);
    for (let k = 0; k < 150; k++) step();
    expect(p.hasFix).toBe(false);
  });

  it('goes on by air speed and wind for as long as it may, and says how sure it is', () => {
    const p = new PositionEstimator({ blindFor: 20, jumpM: 30 });
    for (let k = 0; k < 500; k++) {
      p.step(0, 0, 0, 10, 0);
      if (k % 10 === 0) p.fix(14 * (k * 0.02 - 0.14), 0, 100, 14, 0, 1.5, 0.2);
      p.learnWind(10, 0, 0.02);
    }
    const from = p.north;
    for (let k = 0; k < 500; k++) p.step(0, 0, 0, 10, 0);
    // Ten seconds at 10 m/s through the air and most of the 4 m/s of wind that it had time to learn.
    expect(p.place.health).toBe('degraded');
    expect(p.north - from).toBeGreaterThan(125);
    expect(p.north - from).toBeLessThan(145);
    expect(p.place.accuracy).toBeGreaterThan(10);
    for (let k = 0; k < 600; k++) p.step(0, 0, 0, 10, 0);
    expect(p.place.health).toBe('lost');
  });

  it('does not believe a sudden jump at first, and does when it stays', () => {
    const p = new PositionEstimator({ blindFor: 20, jumpM: 30 });
    const fix = (north: number) => p.fix(north, 0, 50, 0, 0, 1, 0.2);
    for (let k = 0; k < 20; k++) fix(0);
    expect(fix(400)).toBe(false);
    expect(Math.abs(p.north)).toBeLessThan(1);
    for (let k = 0; k < 12; k++) fix(400);
    expect(p.north).toBeCloseTo(400, 0);
  });

  it('keeps height by GNSS when the barometer is silent', () => {
    const p = new PositionEstimator();
    for (let k = 0; k < 3000; k++) {
      p.step(0, 0, 0, Number.NaN, Number.NaN);
      if (k % 10 === 0) p.fix(0, 0, 120, 0, 0, 1, 0.2);
    }
    expect(p.level.health).toBe('degraded');
    expect(p.height).toBeCloseTo(120, 0);
  });
});
