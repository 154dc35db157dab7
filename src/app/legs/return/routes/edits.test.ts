import { describe, expect, it } from 'vitest';
import { northOf } from '#core/navigation/earth.ts';
import { EMPTY_PLAN, type FlightPlan, MOST_FENCES, MOST_POINTS, planFaults } from '#core/plan/plan.ts';
import { torvholm } from '../../../../testing/demoCraft.ts';
import { placeAt, pointAt, routeOf, squareAt } from '../../../../testing/plans.ts';
import {
  beyondLast,
  freeName,
  turnedRound,
  withAllPoints,
  withCornerAt,
  withFence,
  withFenceChanged,
  withoutFence,
  withoutPoint,
  withPoint,
  withPointChanged,
} from './edits.ts';

const two = routeOf([pointAt(500, 0, { heightM: 130, speedMps: 17 }), pointAt(900, 0, { do: 'land' })]);

describe('points', () => {
  it('are laid like the one before, and only fly past', () => {
    const plan = withPoint(two, placeAt(700, 100), 0);
    expect(plan.points).toHaveLength(3);
    expect(plan.points[1]).toMatchObject({ heightM: 130, speedMps: 17, do: 'pass' });
    expect(plan.points[2]!.do).toBe('land');
    expect(withPoint(EMPTY_PLAN, placeAt(1, 1)).points[0]).toMatchObject({ heightM: 100, above: 'home' });
  });

  it('without the mouse go straight on beyond the last one', () => {
    const next = beyondLast(two, torvholm.home);
    expect(northOf(torvholm.home.lat, next.lat)).toBeCloseTo(1200, 0);
    expect(northOf(torvholm.home.lat, beyondLast(EMPTY_PLAN, torvholm.home).lat)).toBeCloseTo(300, 0);
  });

  it('are no more than a board keeps', () => {
    let plan: FlightPlan = EMPTY_PLAN;
    for (let k = 0; k < MOST_POINTS + 5; k++) plan = withPoint(plan, placeAt(k, 0));
    expect(plan.points).toHaveLength(MOST_POINTS);
  });

  it('are changed one by one or all at once, turned round and taken away', () => {
    expect(withPointChanged(two, 1, { heightM: 90 }).points.map((p) => p.heightM)).toEqual([130, 90]);
    expect(withAllPoints(two, { above: 'ground' }).points.map((p) => p.above)).toEqual(['ground', 'ground']);
    expect(turnedRound(two).points[0]!.do).toBe('land');
    expect(withoutPoint(two, 0).points).toHaveLength(1);
    expect(two.points[1]!.heightM).toBe(100);
  });
});

describe('fences', () => {
  it('have each a name of their own, and no more than a board keeps', () => {
    let plan: FlightPlan = EMPTY_PLAN;
    for (let k = 0; k < MOST_FENCES + 2; k++)
      plan = withFence(plan, squareAt(0, 0, 100, { name: freeName(plan, 'Keep out') }));
    expect(plan.fences.map((f) => f.name)).toEqual(
      Array.from({ length: MOST_FENCES }, (_, i) => `Keep out ${i + 1}`),
    );
    expect(withoutFence(plan, 0).fences[0]!.name).toBe('Keep out 2');
  });

  it('are moved by a corner or by their middle', () => {
    const plan = withFence(EMPTY_PLAN, squareAt(0, 0, 100));
    const moved = withCornerAt(plan, 0, 2, placeAt(400, 400));
    expect(planFaults(moved)).toEqual([]);
    const { area } = moved.fences[0]!;
    expect('corners' in area && northOf(torvholm.home.lat, area.corners[2]!.lat)).toBeCloseTo(400, 0);
    const round = withFenceChanged(plan, 0, { area: { ...placeAt(0, 0), radiusM: 200 } });
    const there = withCornerAt(round, 0, 0, placeAt(50, 0)).fences[0]!.area;
    expect('radiusM' in there && [there.radiusM, Math.round(northOf(torvholm.home.lat, there.lat))]).toEqual([
      200, 50,
    ]);
  });
});
