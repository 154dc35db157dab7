import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { PositionEstimator } from '#core/estimation/position.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { compileConfig } from './config.ts';
import { HomeFlight } from './homeFlight.ts';
import { RouteFlight } from './routeFlight.ts';

const point = (k: number, todo: string, north: number, east: number, height: number, time = 0): Values => ({
  [`route.${k}.do`]: todo,
  [`route.${k}.north`]: north,
  [`route.${k}.east`]: east,
  [`route.${k}.height`]: height,
  [`route.${k}.time`]: time,
});

function setUp(change: Values, airframe = turnstone) {
  const c = compileConfig(prepared(airframe, change));
  const said: string[] = [];
  const home = new HomeFlight(c);
  home.setHome(100, 50, 38);
  const route = new RouteFlight(c, home, (text) => said.push(text));
  const p = new PositionEstimator();
  [p.north, p.east, p.height] = [100, 50, 138];
  p.velocityNorth = 16;
  const be = (north: number, east: number, height: number, seconds = 0.02) => {
    [p.north, p.east, p.height] = [north, east, height];
    for (let t = 0; t < seconds - 1e-9; t += 0.02) route.step(p, 0.02);
  };
  return { c, said, route, p, be };
}

describe('a route', () => {
  it('is laid out from home, and flown along lines from point to point', () => {
    const { route, p, be } = setUp({
      ...point(1, 'pass', 500, 0, 120),
      ...point(2, 'pass', 500, 800, 150),
    });
    route.begin(p);
    be(100, 50, 138);
    expect(route.goal).toMatchObject({ kind: 'line', north: 600, east: 50, height: 158, fromNorth: 100 });
    be(600, 50, 138);
    be(600, 60, 138);
    expect(route.at).toBe(1);
    expect(route.goal).toMatchObject({ kind: 'line', north: 600, east: 850, height: 188, fromNorth: 600 });
  });

  it('circles at a point until time and height are right', () => {
    const { c, route, p, be } = setUp({ ...point(1, 'loiter', 500, 0, 120, 30) });
    route.begin(p);
    be(600, 50 + c.loiterRadius, 100, 60);
    expect(route.goal.kind).toBe('circle');
    expect(route.at).toBe(0);
    be(600, 50 + c.loiterRadius, 155);
    expect(route.at).toBe(1);
  });

  it('circles at its last point, or goes home, as is set', () => {
    for (const end of ['loiter', 'return']) {
      const { route, p, be, said } = setUp({ ...point(1, 'pass', 500, 0, 120), 'route.end': end });
      route.begin(p);
      be(600, 50, 158);
      be(610, 50, 158);
      expect(route.wantsReturn).toBe(end === 'return');
      expect(route.goal).toMatchObject({ kind: 'circle', north: 600, east: 50 });
      expect(said.at(-1)).toBe(
        end === 'return' ? 'Route: all points done, returns home.' : 'Route: point 1 done.',
      );
    }
  });

  it('goes on where it was left, and from the start once it is done', () => {
    const { route, p, be, said } = setUp({
      ...point(1, 'pass', 500, 0, 120),
      ...point(2, 'pass', 500, 800, 150),
    });
    route.begin(p);
    be(600, 50, 138);
    route.begin(p);
    expect(said.at(-1)).toBe('Route: flies to point 2 of 2.');
    be(600, 850, 188);
    expect(route.at).toBe(2);
    route.begin(p);
    expect(said.at(-1)).toBe('Route: flies to point 1 of 2.');
  });

  it('leaves out points that are not set', () => {
    const { c } = setUp({ ...point(1, 'none', 1, 1, 50), ...point(3, 'pass', 300, 0, 80) });
    expect(c.route).toEqual([{ do: 'pass', north: 300, east: 0, height: 80, timeS: 0 }]);
  });

  it('sends a wing home to land, and brings rotors down where the point is', () => {
    const wing = setUp(point(1, 'land', 500, 0, 60));
    wing.route.begin(wing.p);
    wing.be(600, 50, 98);
    expect(wing.route.wantsReturn).toBe(true);
    expect(wing.said.at(-1)).toContain('lands at home only');
    const rotor = setUp(point(1, 'land', 500, 0, 60), avocet);
    rotor.route.begin(rotor.p);
    rotor.be(600, 50, 98);
    expect(rotor.route.goal.sink).toBe(rotor.c.hover.sinkMps);
    rotor.be(600, 50, 38 + 5);
    expect(rotor.route.goal.sink).toBe(rotor.c.hover.land);
  });
});
