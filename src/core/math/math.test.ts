import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { integrate, pitchOf, quat, rollOf, setEuler, toBody, toEarth, yawOf } from './quaternion.ts';
import { Random } from './random.ts';
import { clamp, DEG, smoothStep, wrapBearingDeg, wrapPi } from './scalar.ts';

const angle = fc.double({ min: -3.1, max: 3.1, noNaN: true });
const pitchAngle = fc.double({ min: -1.5, max: 1.5, noNaN: true });

describe('quaternions', () => {
  it('give their roll, pitch and yaw back', () => {
    fc.assert(
      fc.property(angle, pitchAngle, angle, (roll, pitch, yaw) => {
        const q = setEuler(quat(), roll, pitch, yaw);
        expect(rollOf(q)).toBeCloseTo(roll, 6);
        expect(pitchOf(q)).toBeCloseTo(pitch, 6);
        expect(yawOf(q)).toBeCloseTo(yaw, 6);
      }),
    );
  });

  it('agree with the rotation matrix of the aerospace sequence', () => {
    // Stevens and Lewis 2003, eq. 1.3-20, transposed: body to earth.
    fc.assert(
      fc.property(angle, pitchAngle, angle, (phi, theta, psi) => {
        const q = setEuler(quat(), phi, theta, psi);
        const [cf, sf, ct, st, cp, sp] = [
          Math.cos(phi),
          Math.sin(phi),
          Math.cos(theta),
          Math.sin(theta),
          Math.cos(psi),
          Math.sin(psi),
        ];
        const x = toEarth(new Float64Array(3), q, Float64Array.of(1, 0, 0));
        expect(x[0]).toBeCloseTo(ct * cp, 9);
        expect(x[1]).toBeCloseTo(ct * sp, 9);
        expect(x[2]).toBeCloseTo(-st, 9);
        const z = toEarth(new Float64Array(3), q, Float64Array.of(0, 0, 1));
        expect(z[0]).toBeCloseTo(cf * st * cp + sf * sp, 9);
        expect(z[1]).toBeCloseTo(cf * st * sp - sf * cp, 9);
        expect(z[2]).toBeCloseTo(cf * ct, 9);
      }),
    );
  });

  it('turn a vector there and back, in place as well', () => {
    fc.assert(
      fc.property(angle, pitchAngle, angle, (a, b, c) => {
        const q = setEuler(quat(), a, b, c);
        const v = Float64Array.of(1, -2, 3);
        toBody(v, q, v);
        toEarth(v, q, v);
        expect(v[0]).toBeCloseTo(1, 9);
        expect(v[1]).toBeCloseTo(-2, 9);
        expect(v[2]).toBeCloseTo(3, 9);
      }),
    );
  });

  it('integrate a steady rate to its angle', () => {
    const q = quat();
    for (let k = 0; k < 1000; k++) integrate(q, Float64Array.of(30 * DEG, 0, 0), 0.001);
    expect(rollOf(q) / DEG).toBeCloseTo(30, 3);
    expect(q.reduce((sum, x) => sum + x * x, 0)).toBeCloseTo(1, 12);
  });
});

describe('scalars', () => {
  it('fold angles', () => {
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), (a) => {
        const w = wrapPi(a);
        expect(w).toBeGreaterThan(-Math.PI - 1e-9);
        expect(w).toBeLessThanOrEqual(Math.PI + 1e-9);
        expect(Math.cos(w)).toBeCloseTo(Math.cos(a), 6);
      }),
    );
    expect(wrapBearingDeg(-10)).toBe(350);
    expect(wrapBearingDeg(725)).toBe(5);
  });

  it('are held within limits and blended smoothly', () => {
    expect(clamp(5, -1, 1)).toBe(1);
    expect(smoothStep(0, 0, 1)).toBe(0);
    expect(smoothStep(0.5, 0, 1)).toBe(0.5);
    expect(smoothStep(9, 0, 1)).toBe(1);
  });
});

describe('random numbers', () => {
  it('are even between 0 and 1', () => {
    const r = new Random(5);
    const bins = new Array<number>(10).fill(0);
    for (let k = 0; k < 100_000; k++) bins[Math.floor(r.uniform() * 10)]!++;
    // Chi-squared with nine degrees of freedom: below 27.9 in 999 of 1000 runs.
    expect(bins.reduce((s, n) => s + (n - 10_000) ** 2 / 10_000, 0)).toBeLessThan(27.9);
  });

  it('are normal with mean 0 and spread 1', () => {
    const r = new Random(6);
    let sum = 0;
    let squares = 0;
    let within = 0;
    for (let k = 0; k < 100_000; k++) {
      const x = r.normal();
      sum += x;
      squares += x * x;
      if (Math.abs(x) < 1) within++;
    }
    expect(sum / 100_000).toBeCloseTo(0, 1);
    expect(squares / 100_000).toBeCloseTo(1, 1);
    expect(within / 100_000).toBeCloseTo(0.683, 1);
  });

  it('are the same for the same seed', () => {
    const a = new Random(9);
    const b = new Random(9);
    for (let k = 0; k < 100; k++) expect(a.normal()).toBe(b.normal());
  });
});
