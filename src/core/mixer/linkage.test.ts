import { describe, expect, it } from 'vitest';
import { surfaceAngle } from '../flight/servo.ts';
import { Random } from '../math/random.ts';
import { DEG } from '../math/scalar.ts';
import {
  angleOfEdge,
  edgeOf,
  fitLinkage,
  type Linkage,
  leverageAt,
  reachOf,
  rodFor,
  servoFor,
  surfaceAt,
} from './linkage.ts';

const random = new Random(62);
const between = (a: number, b: number) => a + (b - a) * random.uniform();

/** Arm and horn as hands fit them: mm, some degrees off square. */
function anyLinkage(lean = 10 * DEG): Linkage {
  const l = {
    arm: between(8, 14),
    horn: between(13, 24),
    shaftAft: -between(35, 120),
    shaftUp: between(-8, 8),
    armLean: between(-lean, lean),
    hornLean: between(-lean, lean),
  };
  return { ...l, rod: rodFor(l, between(-6, 6) * DEG) };
}

describe('a linkage', () => {
  it('closes: the rod has its length at every angle', () => {
    for (let go = 0; go < 200; go++) {
      const l = anyLinkage();
      const { from, to } = reachOf(l, 45 * DEG);
      for (let k = 0; k <= 20; k++) {
        const servo = from + ((to - from) * k) / 20;
        const d = surfaceAt(l, servo);
        const [a, b] = [l.armLean - servo, l.hornLean - d];
        const dx = l.shaftAft + l.arm * Math.sin(a) - l.horn * Math.sin(b);
        const dy = l.shaftUp - l.arm * Math.cos(a) + l.horn * Math.cos(b);
        expect(Math.hypot(dx, dy)).toBeCloseTo(l.rod, 9);
      }
    }
  });

  it('is a parallelogram where arm and horn are alike, and the plant’s law over a long rod', () => {
    const square = { arm: 12, horn: 12, shaftAft: -60, shaftUp: 0, armLean: 0, hornLean: 0 };
    const same = { ...square, rod: rodFor(square) };
    for (const deg of [-40, -10, 0, 25, 44]) {
      expect(surfaceAt(same, deg * DEG)).toBeCloseTo(deg * DEG, 9);
      expect(leverageAt(same, deg * DEG)).toBeCloseTo(1, 6);
    }
    // horn sin(d) = arm sin(servo), as the rod grows.
    const long = { ...square, arm: 8, horn: 14, shaftAft: -1e6 };
    const far = { ...long, rod: rodFor(long) };
    for (const deg of [-45, -20, 5, 45])
      expect(surfaceAt(far, deg * DEG)).toBeCloseTo(surfaceAngle(deg * DEG, 8 / 14), 4);
  });

  it('binds where the circles of rod and horn no longer meet, or arm and rod are in line, always', () => {
    let bound = 0;
    for (let go = 0; go < 1000; go++) {
      // Long arms on short horns, far out of square.
      const l = {
        arm: between(10, 26),
        horn: between(7, 20),
        shaftAft: -between(25, 80),
        shaftUp: between(-15, 15),
        armLean: between(-40, 40) * DEG,
        hornLean: between(-40, 40) * DEG,
      };
      const linkage = { ...l, rod: rodFor(l) };
      const travel = 60 * DEG;
      const { from, to } = reachOf(linkage, travel);
      // By geometry alone: two circles meet when their middles are neither too far apart nor one within the other.
      const meets = (servo: number) => {
        const a = l.armLean - servo;
        const apart = Math.hypot(l.shaftAft + l.arm * Math.sin(a), l.shaftUp - l.arm * Math.cos(a));
        return apart <= linkage.rod + l.horn && apart >= Math.abs(linkage.rod - l.horn);
      };
      for (let k = 0; k <= 400; k++) {
        const servo = -travel + (2 * travel * k) / 400;
        if (servo > from && servo < to && !meets(servo)) throw new Error(`${go}: says it moves at ${servo}`);
      }
      const closes = Array.from({ length: 401 }, (_, k) => meets(-travel + (2 * travel * k) / 400));
      if (closes.includes(false)) {
        bound++;
        expect(reachOf(linkage, travel)).toSatisfy(
          (r: ReturnType<typeof reachOf>) => r.bindsFrom || r.bindsTo,
        );
      }
      // Within its reach it goes one way only.
      let last = surfaceAt(linkage, from);
      const way = Math.sign(leverageAt(linkage, 0));
      for (let k = 1; k <= 50; k++) {
        const d = surfaceAt(linkage, from + ((to - from) * k) / 50);
        if (to > from && !(way * (d - last) > 0)) throw new Error(`${go}: turns back`);
        last = d;
      }
    }
    expect(bound).toBeGreaterThan(100);
  });

  it('finds the servo angle for a surface angle', () => {
    for (let go = 0; go < 200; go++) {
      const l = anyLinkage();
      const { from, to } = reachOf(l, 60 * DEG);
      const want = surfaceAt(l, between(from, to));
      const servo = servoFor(l, want, 60 * DEG);
      expect(surfaceAt(l, servo)).toBeCloseTo(want, 8);
    }
    expect(servoFor(anyLinkage(), 170 * DEG, 45 * DEG)).toBeNaN();
  });

  it('stands off by the chord of its arc', () => {
    // A protractor: 2 c sin(a/2); at 60 degrees the chord itself.
    expect(edgeOf(60 * DEG, 40)).toBeCloseTo(40, 9);
    expect(edgeOf(-20 * DEG, 45)).toBeCloseTo(-15.63, 2);
    expect(angleOfEdge(edgeOf(23 * DEG, 38), 38)).toBeCloseTo(23 * DEG, 9);
    expect(angleOfEdge(81, 40)).toBeNaN();
  });
});

describe('two readings', () => {
  it('of 0.5 mm give degrees within 1 over the travel, 1000 linkages of 1000', () => {
    let worst = 0;
    let taken = 0;
    while (taken < 1000) {
      const truth = anyLinkage();
      const reach = reachOf(truth, 45 * DEG);
      if (reach.bindsFrom || reach.bindsTo) continue;
      taken++;
      // On a shorter chord half a millimetre alone is most of the degree: a protractor reads better there.
      const chord = between(42, 90);
      // Described by the same ruler, leans by eye.
      const described = {
        ...truth,
        arm: truth.arm + between(-0.5, 0.5),
        horn: truth.horn + between(-0.5, 0.5),
        armLean: truth.armLean + between(-1, 1) * DEG,
        hornLean: truth.hornLean + between(-1, 1) * DEG,
        shaftAft: truth.shaftAft + between(-2, 2),
        shaftUp: truth.shaftUp + between(-0.5, 0.5),
      };
      const read = (servo: number) => ({
        servo,
        surface: angleOfEdge(edgeOf(surfaceAt(truth, servo), chord) + between(-0.5, 0.5), chord),
      });
      const fit = fitLinkage(described, [read(-40 * DEG), read(40 * DEG)]);
      if ('refused' in fit) throw new Error(fit.refused);
      for (let k = 0; k <= 40; k++) {
        const servo = (-40 + 2 * k) * DEG;
        worst = Math.max(worst, Math.abs(surfaceAt(fit, servo) - surfaceAt(truth, servo)) / DEG);
      }
    }
    expect(worst).toBeLessThan(1);
  });

  it('are refused when they tell nothing, or the opposite', () => {
    const l = anyLinkage(0);
    const at = (servo: number, surface: number) => ({ servo: servo * DEG, surface: surface * DEG });
    expect(fitLinkage(l, [at(-30, 5), at(30, 6)])).toMatchObject({ refused: /nearly the same/ });
    expect(fitLinkage(l, [at(30, 5), at(30, 20)])).toMatchObject({ refused: /same place/ });
    expect(fitLinkage(l, [at(-30, 20), at(30, -20)])).toMatchObject({ refused: /the other way/ });
    expect(fitLinkage(l, [at(-5, -80), at(5, 80)])).toHaveProperty('refused');
  });
});
