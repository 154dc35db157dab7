import { describe, expect, it } from 'vitest';
import { pointAt, routeOf, squareAt } from '../../testing/plans.ts';
import { decodeCbor, encodeCbor } from '../wire/frames.ts';
import { packPlan, planBytes, planFromBytes, planPrint, unpackPlan } from './packPlan.ts';
import {
  EMPTY_PLAN,
  type Fence,
  type FlightPlan,
  MOST_CORNERS,
  MOST_FENCES,
  MOST_POINTS,
  planFaults,
  planSchema,
} from './plan.ts';

const plan = routeOf(
  [
    pointAt(500, 0, { heightM: 120.5, above: 'ground', speedMps: 17.5 }),
    pointAt(900, -300, { do: 'circle', seconds: 45, turns: 3 }),
    pointAt(0, 700, { do: 'camera', cameraDeg: 60 }),
  ],
  'circle',
  [
    squareAt(0, 0, 2000, { keep: 'in', name: 'The common', toM: 0 }),
    { name: 'The mast', keep: 'out', area: { lat: 61.9, lon: -12.4, radiusM: 80 }, fromM: 0, toM: 120 },
  ],
);

describe('a plan on its way to the board', () => {
  it('comes back as it was, to a centimetre', () => {
    const back = planFromBytes(planBytes(plan))!;
    expect(back.points.map((p) => ({ ...p, lat: 0, lon: 0 }))).toEqual(
      plan.points.map((p) => ({ ...p, lat: 0, lon: 0 })),
    );
    for (const [i, p] of back.points.entries()) {
      expect(Math.abs(p.lat - plan.points[i]!.lat)).toBeLessThan(1e-7);
      expect(Math.abs(p.lon - plan.points[i]!.lon)).toBeLessThan(1e-7);
    }
    expect(back.fences.map((f) => [f.name, f.keep, f.fromM, f.toM])).toEqual([
      ['The common', 'in', 0, 0],
      ['The mast', 'out', 0, 120],
    ]);
    expect('radiusM' in back.fences[1]!.area && back.fences[1]!.area.radiusM).toBe(80);
  });

  it('has one print, whatever the way it was made, and another for each change', () => {
    const print = planPrint(plan);
    expect(print).toMatch(/^[0-9a-f]{8}$/);
    expect(planPrint(planFromBytes(planBytes(plan))!)).toBe(print);
    expect(planPrint(JSON.parse(JSON.stringify(plan)))).toBe(print);
    expect(planPrint(EMPTY_PLAN)).toBe('');
    const others: FlightPlan[] = [
      { ...plan, end: 'return' },
      { ...plan, points: plan.points.slice(1) },
      { ...plan, points: plan.points.map((p) => ({ ...p, heightM: p.heightM + 1 })) },
      { ...plan, fences: plan.fences.slice(1) },
      { ...plan, fences: plan.fences.map((f) => ({ ...f, keep: 'in' as const })) },
    ];
    expect(new Set([print, ...others.map(planPrint)]).size).toBe(others.length + 1);
  });

  it('of the greatest size has room on a page of the flash', () => {
    const corners = Array.from({ length: MOST_CORNERS }, (_, i) => {
      const a = (2 * Math.PI * i) / MOST_CORNERS;
      const { lat, lon } = pointAt(9000 * Math.cos(a), 9000 * Math.sin(a));
      return { lat, lon };
    });
    const fence: Fence = { name: 'x'.repeat(40), keep: 'out', area: { corners }, fromM: 12.5, toM: 2999.5 };
    const most: FlightPlan = {
      points: Array.from({ length: MOST_POINTS }, (_, i) =>
        pointAt(100.1 * i, -77.7 * i, {
          ...{ heightM: 1234.5, above: 'ground', speedMps: 33.3 },
          ...{ do: 'circle', seconds: 3599.9, turns: 49, cameraDeg: 89.9 },
        }),
      ),
      end: 'circle',
      fences: Array.from({ length: MOST_FENCES }, () => fence),
    };
    expect(planSchema.safeParse(most).success).toBe(true);
    expect(planFromBytes(planBytes(most))).not.toBeNull();
    expect(planBytes(most).length).toBeLessThan(15_000);
  });

  it('that was damaged or made up is none', () => {
    expect(planFromBytes(new Uint8Array([1, 2, 3]))).toBeNull();
    expect(planFromBytes(encodeCbor({ points: [], end: 'sideways', fences: [] }))).toBeNull();
    const packed = packPlan(plan);
    expect(unpackPlan({ ...packed, points: [[2_000_000_000, 0, 0, 0, 0, 0, 0, 0, 0]] })).toBeNull();
    expect(unpackPlan({ ...packed, points: [[0, 0, 0, 0, 0, 17, 0, 0, 0]] })).toBeNull();
    expect(unpackPlan({ ...packed, more: 1 })).toBeNull();
    expect(unpackPlan(null)).toBeNull();
    // Every byte that is left out.
    const bytes = planBytes(plan);
    for (let k = 0; k < bytes.length; k += 7) expect(planFromBytes(bytes.subarray(0, k))).toBeNull();
    expect(decodeCbor(bytes)).toEqual(packed);
  });
});

describe('what a schema cannot tell', () => {
  it('is a border that crosses itself, or heights the wrong way round', () => {
    const { corners } = squareAt(0, 0, 500).area as { corners: { lat: number; lon: number }[] };
    const bow = squareAt(0, 0, 500, {
      name: 'The bow',
      area: { corners: [corners[0]!, corners[2]!, corners[1]!, corners[3]!] },
    });
    expect(planFaults(routeOf([], 'return', [bow]))).toEqual([
      expect.stringContaining('The border of The bow crosses itself'),
    ]);
    expect(planFaults(routeOf([], 'return', [squareAt(0, 0, 500, { fromM: 100, toM: 100 })]))).toHaveLength(
      1,
    );
    expect(planFaults(plan)).toEqual([]);
    expect(unpackPlan(packPlan(routeOf([], 'return', [bow])))).toBeNull();
  });
});
