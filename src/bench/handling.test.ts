import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { type Attitude, attitudeOf, poseIds, poses } from '#core/calibration/poses.ts';
import { Plant } from '#core/flight/plant.ts';
import { pitchOf, rollOf, toBody, yawOf } from '#core/math/quaternion.ts';
import { DEG, GRAVITY } from '#core/math/scalar.ts';
import { atRest, type Handled, Handling } from './handling.ts';

const DT = 0.001;

function held(how: Partial<Handled> = {}) {
  const plant = new Plant(turnstone);
  const handling = new Handling(plant);
  const now = { ...atRest, ...how };
  const fastest = { rate: 0, change: 0 };
  const run = (seconds: number, change: Partial<Handled> = {}) => {
    Object.assign(now, change);
    let before = Math.hypot(...plant.rates);
    for (let k = 0; k < seconds / DT; k++) {
      handling.step(now, DT);
      const rate = Math.hypot(...plant.rates);
      fastest.rate = Math.max(fastest.rate, rate);
      fastest.change = Math.max(fastest.change, Math.abs(rate - before) / DT);
      before = rate;
    }
  };
  return { plant, run, fastest };
}

/** How far an attitude is from another, rad. */
const apart = (a: ArrayLike<number>, b: Attitude) =>
  2 * Math.acos(Math.min(1, Math.abs(b.reduce((sum, v, i) => sum + v * a[i]!, 0))));

describe('the craft in hands', () => {
  it.each(poseIds)('comes to rest %s, and feels gravity there from the side that is down', (id) => {
    const { plant, run } = held({ support: 'propped' });
    const { rollDeg, pitchDeg } = poses[id];
    run(4, { pose: attitudeOf(rollDeg, pitchDeg, 23) });
    expect(apart(plant.attitude, attitudeOf(rollDeg, pitchDeg, 23))).toBeLessThan(1e-4);
    expect(Math.hypot(...plant.rates)).toBeLessThan(1e-6);
    // At rest the specific force is gravity turned round, in body axes; an independent closed form of it.
    const [r, p] = [rollDeg * DEG, pitchDeg * DEG];
    const [x, y, z] = [
      GRAVITY * Math.sin(p),
      -GRAVITY * Math.sin(r) * Math.cos(p),
      -GRAVITY * Math.cos(r) * Math.cos(p),
    ];
    expect(plant.specificForce[0]).toBeCloseTo(x, 2);
    expect(plant.specificForce[1]).toBeCloseTo(y, 2);
    expect(plant.specificForce[2]).toBeCloseTo(z, 2);
  });

  it('is turned at the pace of a hand, with a beginning and an end, on the shortest way', () => {
    const { plant, run, fastest } = held({ support: 'propped' });
    run(0.1);
    run(3, { pose: attitudeOf(0, 0, 23 + 150) });
    expect(fastest.rate).toBeLessThan(2.25);
    expect(fastest.rate).toBeGreaterThan(2.1);
    expect(fastest.change).toBeLessThan(14.5);
    expect(yawOf(plant.attitude) / DEG).toBeCloseTo(173, 1);
    // From 173° to -160° it goes on through 180°, and not back.
    run(0.2, { pose: attitudeOf(0, 0, -160) });
    expect(plant.rates[2]).toBeGreaterThan(0.1);
  });

  it('feels rates that are those of its attitude', () => {
    const { plant, run } = held({ support: 'propped' });
    run(0.3, { pose: attitudeOf(120, 40, 200) });
    const before = Float64Array.from(plant.attitude);
    const down = toBody(new Float64Array(3), before, Float64Array.of(0, 0, 1));
    run(DT);
    const after = toBody(new Float64Array(3), plant.attitude, Float64Array.of(0, 0, 1));
    const [p, q, r] = plant.rates as unknown as [number, number, number];
    // The change of a vector fixed in the earth, seen from the body, is -w x v.
    const change = [
      -(q * down[2]! - r * down[1]!),
      -(r * down[0]! - p * down[2]!),
      -(p * down[1]! - q * down[0]!),
    ];
    for (let i = 0; i < 3; i++) expect((after[i]! - down[i]!) / DT).toBeCloseTo(change[i]!, 1);
  });

  it('trembles in hands and only there', () => {
    const { plant, run, fastest } = held();
    run(1);
    expect(fastest.rate).toBeLessThan(1e-9);
    run(2, { support: 'hands' });
    expect(fastest.rate).toBeGreaterThan(0.01);
    expect(fastest.rate).toBeLessThan(0.03);
    expect(Math.abs(rollOf(plant.attitude)) / DEG).toBeLessThan(0.01);
    fastest.rate = 0;
    run(1, { support: 'propped' });
    expect(fastest.rate).toBeLessThan(1e-9);
  });

  it('stands upright on the table whatever was asked, and lets itself be turned there, but not tied down', () => {
    const { plant, run } = held({ support: 'hands', pose: attitudeOf(70, 30, 100) });
    run(3);
    expect(rollOf(plant.attitude) / DEG).toBeCloseTo(70, 0);
    run(3, { support: 'table' });
    expect(rollOf(plant.attitude)).toBeCloseTo(0, 4);
    expect(pitchOf(plant.attitude)).toBeCloseTo(0, 4);
    const from = yawOf(plant.attitude);
    run(1, { turning: 1 });
    run(1, { turning: 0 });
    expect(yawOf(plant.attitude) - from).toBeCloseTo(0.9, 1);
    const tied = yawOf(plant.attitude);
    run(1, { support: 'tied', turning: -1 });
    expect(yawOf(plant.attitude)).toBeCloseTo(tied, 4);
  });

  it('is carried on foot at the pace of a walker, and stands still where it was to be', () => {
    const { plant, run } = held({ support: 'hands' });
    run(10, { walkNorthM: 20, walkEastM: -20 });
    expect(Math.hypot(plant.position[0]!, plant.position[1]!)).toBeCloseTo(14, 1);
    expect(Math.hypot(plant.velocity[0]!, plant.velocity[1]!)).toBeCloseTo(1.4, 6);
    run(12);
    expect(plant.position[0]).toBeCloseTo(20, 2);
    expect(plant.position[1]).toBeCloseTo(-20, 2);
    expect(Math.hypot(plant.velocity[0]!, plant.velocity[1]!)).toBe(0);
  });
});
