import { describe, expect, it } from 'vitest';
import { torvholm } from '../../testing/demoCraft.ts';
import { placeAt, pointAt, routeOf } from '../../testing/plans.ts';
import type { TrackPoint } from '../formats/rehearsalResult.ts';
import { parseScenario } from '../formats/scenario.ts';
import { flownShape, routeScenario } from './routeFlown.ts';

const plan = routeOf([
  pointAt(500, 0),
  pointAt(500, 1000),
  pointAt(1500, 1000, { do: 'circle', seconds: 30 }),
]);
const at = (atS: number, north: number, east: number, mode = 'route'): TrackPoint => ({
  ...{ atS, ...placeAt(north, east), heightM: 138, groundM: 20, airspeedMps: 16, groundspeedMps: 16 },
  ...{ mode, rollDeg: 0, pitchDeg: 0, yawDeg: 0 },
});
const done = (n: number, atS: number) => ({ atS, text: `Route: point ${n} done.` });

describe('how a flight kept to its route', () => {
  it('goes by the board’s own words for points, and by the line between two for how far off', () => {
    const track = [
      at(10, 200, 80),
      at(60, 500, 300),
      at(80, 525, 500),
      at(100, 490, 700),
      at(130, 700, 1150),
    ];
    const shape = flownShape(plan, track, [done(1, 40), done(2, 120)], torvholm.home);
    expect(shape.reached).toBe(2);
    expect(shape.doneS).toEqual([40, 120]);
    // 25 m beside the line from the first point to the second; about the circle no line is flown.
    expect(shape.offM).toBeCloseTo(25, 0);
  });

  it('leaves out the way to the first point, turns, and whatever was not flown by the route', () => {
    const track = [
      at(10, 100, 400),
      at(45, 430, 20),
      at(60, 900, 500, 'return'),
      at(70, 500, 500),
      { ...at(80, 500, 600), mode: 'level' },
    ];
    expect(flownShape(plan, track, [done(1, 40)], torvholm.home).offM).toBeLessThan(1);
    expect(flownShape(plan, [], [], torvholm.home)).toEqual({ reached: 0, doneS: [], offM: 0 });
  });

  it('is flown in a scenario that a rehearsal takes, with the link kept or lost at a point', () => {
    const usual = { seed: 7, wind: { speedMps: 6, fromDeg: 230, gustMps: 1 } };
    for (const lost of [null, 2]) {
      const scenario = routeScenario(plan, torvholm, usual, lost);
      expect(parseScenario(scenario, torvholm).ok).toBe(true);
      expect(scenario.outbound.route).toEqual(lost === null ? {} : { loseLinkAt: 2 });
      expect(scenario.outbound).toMatchObject({ bearingDeg: 0, distanceM: expect.closeTo(500, 0) });
      expect(scenario.wind).toEqual(usual.wind);
    }
    // A first point above the ground, very near or very high, is still flown out to.
    for (const first of [
      pointAt(20, 0, { heightM: 5 }),
      pointAt(0, 9000, { above: 'ground', heightM: 2900 }),
    ])
      expect(parseScenario(routeScenario(routeOf([first]), torvholm, usual, null), torvholm).ok).toBe(true);
  });
});
