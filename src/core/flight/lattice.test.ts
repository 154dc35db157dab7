import { describe, expect, it } from 'vitest';
import { weissinger } from '../../testing/weissinger.ts';
import { type Airframe, type Planform, planformOf } from '../airframe/airframe.ts';
import { dunlin, knot, sandpiper, turnstone } from '../airframe/library.ts';
import { DEG } from '../math/scalar.ts';
import { latticeOf } from './lattice.ts';
import { PanelModel, planformArea } from './panels.ts';

/** A straight-tapered wing of 2 m span. @param sweepDeg of the quarter line */
function wing(aspect: number, taper: number, sweepDeg: number, dihedralDeg = 0): Planform {
  const spanM = 2;
  const rootChordM = (2 * spanM) / aspect / (1 + taper);
  const tipChordM = taper * rootChordM;
  return {
    id: 'wing',
    pair: true,
    spanM,
    rootChordM,
    tipChordM,
    rootAftM: 0.3,
    tipAftM: 0.3 + Math.tan(sweepDeg * DEG) + 0.25 * (rootChordM - tipChordM),
    rootRightM: 0,
    upM: 0,
    dihedralDeg,
    incidenceDeg: 0,
    washoutDeg: 0,
    zeroLiftDeg: 0,
    sectionMoment: 0,
    liftMax: 1.3,
  };
}

/** Thirteen wings: straight, tapered, swept, delta-like, and those of the flock. */
const wings: readonly (readonly [name: string, plan: Planform])[] = [
  ['straight, 4', wing(4, 1, 0)],
  ['straight, 6', wing(6, 1, 0, 3)],
  ['tapered, 8', wing(8, 0.5, 0, 5)],
  ['tapered, 12', wing(12, 0.45, 2, 4)],
  ['swept 15', wing(7, 0.6, 15)],
  ['swept 20', wing(6, 0.5, 20, 2)],
  ['swept 30', wing(6, 0.5, 30)],
  ['swept 35', wing(5, 0.7, 35)],
  ['swept 45', wing(5, 0.6, 45)],
  ['delta', wing(3, 0.3, 35)],
  ...[turnstone, sandpiper, dunlin].map((a) => [a.name, planformOf(a, 'wing')!] as const),
];

/** Only the wing, so that nothing else answers. */
const alone = (plan: Planform): PanelModel =>
  new PanelModel({
    ...turnstone,
    planforms: [{ ...plan, incidenceDeg: 0, washoutDeg: 0, zeroLiftDeg: 0, sectionMoment: 0, upM: 0 }],
    surfaces: [],
    motors: [],
    bodyDragM2: 0,
    bodyHeightM: 0.01,
  });

const V = 16;
const Q = 0.5 * 1.225 * V * V;
const none = new Float64Array(0);
const rates = new Float64Array(3);

function at(model: PanelModel, alpha: number, beta: number, p = 0): { lift: number; roll: number } {
  model.rho = 1.225;
  const v = Float64Array.of(
    V * Math.cos(alpha) * Math.cos(beta),
    V * Math.sin(beta),
    V * Math.sin(alpha) * Math.cos(beta),
  );
  rates[0] = p;
  model.evaluate(v, rates, none);
  rates[0] = 0;
  return { lift: -model.force[2]!, roll: model.moment[0]! };
}

describe('the lattice', () => {
  it('gives the lift slope of the Warren 12 wing, 2.743 per rad', () => {
    // A swept benchmark of lattices: aspect ratio 2 sqrt(2), taper 1/3, leading edge 53.54 degrees.
    const plan = wing(2 * Math.SQRT2, 1 / 3, 0);
    const swept = { ...plan, tipAftM: plan.rootAftM + Math.tan(53.54 * DEG) };
    expect(latticeOf(swept).lift / planformArea(swept) / 2.743).toBeCloseTo(1, 1);
  });

  it('damps roll as lifting-line theory has it for an elliptic wing, -(pi A/4)/(A + 4)', () => {
    // Prandtl's equation with its second sine only; a taper of 0.45 comes near an ellipse.
    for (const aspect of [8, 12, 16]) {
      const plan = wing(aspect, 0.45, 0);
      const damping = -latticeOf(plan).rollByRoll / (planformArea(plan) * plan.spanM) / (plan.spanM / 2);
      expect(damping / ((-Math.PI * aspect) / 4 / (aspect + 4))).toBeGreaterThan(0.9);
      expect(damping / ((-Math.PI * aspect) / 4 / (aspect + 4))).toBeLessThan(1.02);
    }
  });

  it('is worked out once for a planform', () => {
    const plan = wing(7, 0.5, 10);
    expect(latticeOf(plan)).toBe(latticeOf(plan));
  });
});

describe.each(wings)('%s against a second lattice', (_, plan) => {
  const second = weissinger({ ...plan, upM: 0 });
  const model = alone(plan);
  const area = planformArea(plan);
  const h = 1e-3;

  it('lifts alike', () => {
    const slope = (at(model, h, 0).lift - at(model, -h, 0).lift) / (2 * h) / (Q * area);
    expect(slope / second.liftSlope).toBeGreaterThan(0.93);
    expect(slope / second.liftSlope).toBeLessThan(1.07);
  });

  it('damps roll alike', () => {
    const p = 0.05;
    const perRate = (at(model, 0, 0, p).roll - at(model, 0, 0, -p).roll) / (2 * p);
    const damping = perRate / (Q * area * plan.spanM) / (plan.spanM / (2 * V));
    expect(damping / second.rollDamping).toBeGreaterThan(0.9);
    expect(damping / second.rollDamping).toBeLessThan(1.1);
  });

  it('rolls out of a slip alike, by sweep and dihedral together', () => {
    const alpha = 0.08;
    const beta = 0.03;
    const slip =
      (at(model, alpha, beta).roll - at(model, alpha, -beta).roll) / (2 * beta) / (Q * area * plan.spanM);
    const lift = at(model, alpha, 0).lift / (Q * area);
    const expected = second.rollBySlipPerLift * lift + second.rollByDihedral;
    // Straight flat wings hardly roll: there the difference counts, not the share.
    expect(Math.abs(slip - expected)).toBeLessThan(Math.max(0.1 * Math.abs(expected), 0.004));
  });
});

describe('a V-tail', () => {
  it('steers as much as a second lattice says, which strips that know no neighbour overdo by half', () => {
    const tail = planformOf(sandpiper, 'tail')!;
    const only: Airframe = {
      ...sandpiper,
      planforms: [{ ...tail, incidenceDeg: 0 }],
      surfaces: [],
      motors: [],
      bodyHeightM: 0.01,
    };
    const model = new PanelModel(only);
    model.rho = 1.225;
    const force = (beta: number) => {
      model.evaluate(Float64Array.of(V * Math.cos(beta), V * Math.sin(beta), 0), rates, none);
      return model.force[1]!;
    };
    const beta = 0.02;
    const slope = (force(beta) - force(-beta)) / (2 * beta) / (Q * planformArea(tail));
    const gamma = tail.dihedralDeg * DEG;
    const expected = -weissinger(tail).sideByTwist * Math.sin(gamma) ** 2;
    expect(slope / expected).toBeGreaterThan(0.9);
    expect(slope / expected).toBeLessThan(1.1);
  });
});

describe('ailerons', () => {
  it.each([turnstone, sandpiper, knot])('of $name roll it as the second lattice has it', (a) => {
    const plan = planformOf(a, 'wing')!;
    const flap = a.surfaces.find((s) => /left-(aileron|elevon)/.test(s.id))!;
    const model = new PanelModel({ ...a, motors: [], planforms: [plan] });
    model.rho = 1.225;
    const d = new Float64Array(a.surfaces.length);
    const left = model.surfaceIds.indexOf(flap.id);
    const right = model.surfaceIds.indexOf(flap.id.replace('left', 'right') as typeof flap.id);
    const roll = (x: number) => {
      d[left] = x;
      d[right] = -x;
      model.evaluate(Float64Array.of(V, 0, 0), rates, d);
      return model.moment[0]!;
    };
    const slope = (roll(0.02) - roll(-0.02)) / 0.04 / (Q * planformArea(plan) * plan.spanM);
    const theta = Math.acos(2 * flap.chordShare - 1);
    const tau = 0.8 * (1 - (theta - Math.sin(theta)) / Math.PI);
    const expected = weissinger(plan).rollByTwist(flap.from, flap.to) * tau;
    expect(slope / expected).toBeGreaterThan(0.88);
    expect(slope / expected).toBeLessThan(1.12);
  });
});

describe('near the ground', () => {
  it('a wing drags less and lifts more, by McCormick’s factor (16 h/b)^2/(1 + (16 h/b)^2)', () => {
    const model = alone(wing(7, 0.6, 0));
    const drag = (above: number) => {
      model.aboveGround = above;
      const { lift } = at(model, 0.1, 0);
      const along = -model.force[0]! * Math.cos(0.1) - model.force[2]! * Math.sin(0.1);
      return { lift, drag: along };
    };
    const high = drag(50);
    const low = drag(0.15);
    expect(low.lift / high.lift).toBeGreaterThan(1.05);
    expect(low.drag).toBeLessThan(high.drag);
    model.aboveGround = Number.POSITIVE_INFINITY;
  });
});
