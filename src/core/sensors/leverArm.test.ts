import { describe, expect, it } from 'vitest';
import { LeverArm, leverAcceleration } from './leverArm.ts';

const out = new Float64Array(3);

describe('an accelerometer away from the centre of gravity', () => {
  it('feels v^2/r towards the axis of a steady turn', () => {
    // 2 rad/s of yaw, 0.3 m ahead: 1.2 m/s^2 backwards.
    leverAcceleration(out, [0, 0, 2], [0, 0, 0], [0.3, 0, 0]);
    expect([...out]).toEqual([-1.2, 0, 0]);
  });

  it('feels a beginning pitch as a push upwards ahead and downwards behind', () => {
    leverAcceleration(out, [0, 0, 0], [0, 5, 0], [0.2, 0, 0]);
    expect(out[2]).toBeCloseTo(-1, 12);
    leverAcceleration(out, [0, 0, 0], [0, 5, 0], [-0.2, 0, 0]);
    expect(out[2]).toBeCloseTo(1, 12);
  });

  it('feels what the second difference of its place is, on any path', () => {
    // A point of a body that turns with w(t) about its centre, as an independent way: R(t) r differentiated twice.
    const r: [number, number, number] = [0.21, -0.08, 0.05];
    const w0 = [0.7, -1.1, 0.4];
    const dw = [2.2, 0.6, -1.5];
    const h = 1e-4;
    /** Place after t from rest attitude, by many small turns. */
    const place = (t: number) => {
      let v = [...r] as number[];
      const n = 2000;
      const turns = Array.from({ length: n }, (_, k) => {
        const s = ((k + 0.5) * t) / n;
        return w0.map((w, i) => ((w + dw[i]! * s) * t) / n);
      });
      // Body rates: the last turn acts first.
      for (const a of turns.reverse()) {
        const cross = [
          a[1]! * v[2]! - a[2]! * v[1]!,
          a[2]! * v[0]! - a[0]! * v[2]!,
          a[0]! * v[1]! - a[1]! * v[0]!,
        ];
        v = v.map((c, i) => c + cross[i]!);
      }
      return v;
    };
    const [back, here, on] = [place(-h), r, place(h)];
    const measured = here.map((c, i) => (on[i]! - 2 * c + back[i]!) / (h * h));
    leverAcceleration(out, w0, dw, r);
    for (let i = 0; i < 3; i++) expect(out[i]).toBeCloseTo(measured[i]!, 2);
  });

  it('is put right by its place, through a start and a steady turn', () => {
    const dt = 0.001;
    const r: [number, number, number] = [0.25, 0.04, -0.02];
    const arm = new LeverArm(r, dt);
    let worst = 0;
    let without = 0;
    for (let k = 0; k < 3000; k++) {
      const t = k * dt;
      const w = Float64Array.of(1.5 * Math.sin(2 * t), 0.8 * Math.sin(3 * t), 2 * (1 - Math.exp(-t)));
      const turning = [3 * Math.cos(2 * t), 2.4 * Math.cos(3 * t), 2 * Math.exp(-t)];
      const accel = new Float64Array(3);
      leverAcceleration(accel, w, turning, r);
      without = Math.max(without, Math.hypot(...accel));
      arm.correct(accel, w);
      if (t > 0.2) worst = Math.max(worst, Math.hypot(...accel));
    }
    expect(without).toBeGreaterThan(1);
    expect(worst).toBeLessThan(0.08 * without);
  });
});
