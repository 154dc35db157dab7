import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { PositionEstimator } from '#core/estimation/position.ts';
import type { FlightPlan, RoutePoint } from '#core/plan/plan.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { placeAt, pointAt, routeOf } from '../testing/plans.ts';
import { compileConfig } from './config.ts';
import { HomeFlight } from './homeFlight.ts';
import { RouteFlight } from './routeFlight.ts';

/** The origin lies a hundred metres south and fifty west of home, as a first fix may. */
const first = placeAt(-100, -50);
const origin = { originLat: first.lat, originLon: first.lon };

function setUp(
  plan: FlightPlan | readonly RoutePoint[],
  airframe = turnstone,
  groundAt: ((north: number, east: number) => number) | null = null,
) {
  const c = compileConfig(prepared(airframe));
  const said: string[] = [];
  const home = new HomeFlight(c);
  home.setHome(100, 50, 38);
  const route = new RouteFlight(c, 'points' in plan ? plan : routeOf(plan), home, (text) => said.push(text));
  const p = new PositionEstimator();
  [p.north, p.east, p.height] = [100, 50, 138];
  p.velocityNorth = 16;
  const be = (north: number, east: number, height: number, seconds = 0.02) => {
    [p.north, p.east, p.height] = [north, east, height];
    for (let t = 0; t < seconds - 1e-9; t += 0.02) route.step(p, groundAt, 0.02);
  };
  return { c, said, route, p, be, begin: () => route.begin(p, origin) };
}

describe('a route', () => {
  it('lies where its places are on earth, and is flown along lines from point to point', () => {
    const { route, begin, be } = setUp([
      pointAt(500, 0, { heightM: 120 }),
      pointAt(500, 800, { heightM: 150, speedMps: 22 }),
    ]);
    begin();
    be(100, 50, 138);
    expect(route.goal).toMatchObject({ kind: 'line', height: 158, fromNorth: 100 });
    expect(route.goal.north).toBeCloseTo(600, 1);
    expect(route.goal.east).toBeCloseTo(50, 1);
    be(600, 50, 138);
    be(600, 60, 138);
    expect(route.at).toBe(1);
    expect(route.goal).toMatchObject({ kind: 'line', height: 188, fromNorth: 600, speed: 22 });
    expect(route.goal.east).toBeCloseTo(850, 0);
  });

  it('circles at a point until time, turns and height are right', () => {
    const { c, route, begin, be } = setUp([
      pointAt(500, 0, { heightM: 120, do: 'circle', seconds: 30, turns: 2 }),
    ]);
    begin();
    be(600, 50 + c.loiterRadius, 100, 60);
    expect(route.goal.kind).toBe('circle');
    expect(route.at).toBe(0);
    const round = (turns: number) => {
      for (let a = 0; a <= 2 * Math.PI * turns; a += 0.05)
        be(600 + c.loiterRadius * Math.cos(a), 50 + c.loiterRadius * Math.sin(a), 155);
    };
    round(1);
    expect(route.at).toBe(0);
    round(1.5);
    expect(route.at).toBe(1);
  });

  it('climbs at a point until it is as high as it is to be, and only there', () => {
    const { route, begin, be } = setUp([pointAt(500, 0, { heightM: 200, do: 'climb' }), pointAt(900, 0)]);
    begin();
    be(600, 50, 150);
    expect(route.at).toBe(0);
    be(600, 110, 230, 1);
    expect(route.at).toBe(1);
  });

  it('keeps its height above the highest ground on the next stretch', () => {
    const hill = (north: number) => (north > 250 ? 200 : 38);
    const { route, begin, be } = setUp([pointAt(800, 0, { above: 'ground', heightM: 90 })], turnstone, hill);
    begin();
    be(0, 50, 138);
    expect(route.goal.height).toBe(38 + 90);
    be(100, 50, 138, 1);
    expect(route.goal.height).toBe(200 + 90);
  });

  it('points the camera from a point on', () => {
    const { route, begin, be, said } = setUp([
      pointAt(500, 0, { do: 'camera', cameraDeg: 45 }),
      pointAt(900, 0),
    ]);
    begin();
    expect(route.camera).toBe(0);
    be(600, 50, 138);
    expect(route.camera).toBe(0.5);
    expect(said.join(' ')).toMatch(/Camera 45°.*point 1 done/);
  });

  it('circles at its last point, or goes home, as is set', () => {
    for (const end of ['circle', 'return'] as const) {
      const { route, begin, be, said } = setUp(routeOf([pointAt(500, 0, { heightM: 120 })], end));
      begin();
      be(600, 50, 158);
      be(610, 50, 158);
      expect(route.wantsReturn).toBe(end === 'return');
      expect(route.goal.kind).toBe('circle');
      expect(said.at(-1)).toMatch(
        end === 'return' ? /all points done, returns home/ : /circles at the last one/,
      );
    }
  });

  it('goes on where it was left, and from the start once it is done', () => {
    const { route, begin, be, said } = setUp([
      pointAt(500, 0, { heightM: 120 }),
      pointAt(500, 800, { heightM: 150 }),
    ]);
    begin();
    be(600, 50, 138);
    begin();
    expect(said.at(-1)).toBe('Route: flies to point 2 of 2.');
    be(600, 850, 188);
    expect(route.at).toBe(2);
    begin();
    expect(said.at(-1)).toBe('Route: flies to point 1 of 2.');
  });

  it('sends a wing home to land, and brings rotors down where the point is', () => {
    const wing = setUp([pointAt(500, 0, { do: 'land' })]);
    wing.begin();
    wing.be(600, 50, 98, 1);
    expect(wing.route.wantsReturn).toBe(true);
    expect(wing.said.filter((t) => t.includes('lands at home only'))).toHaveLength(1);
    const rotor = setUp([pointAt(500, 0, { do: 'land' })], avocet);
    rotor.begin();
    rotor.be(600, 50, 98);
    expect(rotor.route.goal.sink).toBe(rotor.c.hover.sinkMps);
    rotor.be(600, 50, 38 + 5);
    expect(rotor.route.goal.sink).toBe(rotor.c.hover.land);
  });

  it('is of the same place whatever the first fix was', () => {
    const plan = routeOf([pointAt(500, 300)]);
    const near = setUp(plan);
    near.begin();
    near.be(100, 50, 138);
    const other = setUp(plan);
    other.route.begin(other.p, { originLat: torvholm.home.lat, originLon: torvholm.home.lon });
    other.be(0, 0, 138);
    expect(near.route.goal.north - 100).toBeCloseTo(other.route.goal.north, 0);
    expect(near.route.goal.east - 50).toBeCloseTo(other.route.goal.east, 0);
  });
});
