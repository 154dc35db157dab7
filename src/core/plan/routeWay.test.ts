import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { torvholm } from '../../testing/demoCraft.ts';
import { pointAt, routeOf, squareAt } from '../../testing/plans.ts';
import { FlightPower } from '../airframe/flightPower.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import { densityOn, SEA_LEVEL_DENSITY, STANDARD_DAY } from '../flight/atmosphere.ts';
import type { Values } from '../settings/catalogue.ts';
import { bareSite } from '../site/site.ts';
import { routeProblems } from './routeProblems.ts';
import { type RouteAsked, routeWay } from './routeWay.ts';

const flat = bareSite(torvholm.home, 2026);
const still = { speedMps: 0, fromDeg: 0, gustMps: 0 };

function asked(plan: RouteAsked['plan'], more: Partial<RouteAsked> = {}, change: Values = {}): RouteAsked {
  const airframe = more.airframe ?? turnstone;
  return {
    airframe,
    values: prepared(airframe, { 'lost.action': 'return', 'return.arrival': 'land', ...change }),
    site: flat,
    plan,
    wind: still,
    batteryShare: 1,
    reserveShare: 0.2,
    linkM: 0,
    ...more,
  };
}
const ids = (a: RouteAsked) => routeProblems(a, routeWay(a), 'metric').map((p) => p.id);

describe('a route flown in thought', () => {
  it('in still air takes its length over its speed, and the charge of level flight for so long', () => {
    const plan = routeOf([pointAt(3000, 0, { heightM: 40 }), pointAt(3000, 4000, { heightM: 40 })], 'circle');
    const a = asked(plan, {}, { 'nav.speed': 16 });
    const way = routeWay(a);
    const rho = densityOn(STANDARD_DAY, torvholm.home.heightM + 100);
    const speed = 16 * Math.sqrt(SEA_LEVEL_DENSITY / rho);
    expect(way.lengthM).toBeCloseTo(7000, -2);
    expect(way.seconds / (7000 / speed)).toBeCloseTo(1, 1);
    const watts = new FlightPower(turnstone, { rho, maxDuty: 1 }).watts({
      speedMps: speed,
      climbMps: 0,
      load: 1,
    });
    const { capacityMah, cells } = turnstone.battery;
    // Between a full cell and a half-empty one.
    const most = (watts * way.seconds) / (cells * 3.6 * capacityMah * 3.6);
    const least = (watts * way.seconds) / (cells * 4.25 * capacityMah * 3.6);
    expect(1 - way.leftShare).toBeGreaterThan(least);
    expect(1 - way.leftShare).toBeLessThan(most);
  });

  it('is slower into the wind and faster with it, and crabs across it', () => {
    const north = routeOf([pointAt(4000, 0)], 'circle');
    const seconds = (fromDeg: number) =>
      routeWay(asked(north, { wind: { speedMps: 6, fromDeg, gustMps: 0 } })).arrivals[0]!.seconds;
    const calm = routeWay(asked(north)).arrivals[0]!.seconds;
    expect(seconds(0)).toBeGreaterThan(1.3 * calm);
    expect(seconds(180)).toBeLessThan(0.85 * calm);
    expect(seconds(90)).toBeGreaterThan(calm);
    expect(seconds(90)).toBeLessThan(seconds(0));
  });

  it('climbs no faster than it can, and says at which point that is too little', () => {
    const plan = routeOf([pointAt(300, 0, { heightM: 400 }), pointAt(2000, 0, { heightM: 400 })]);
    const way = routeWay(asked(plan));
    expect(way.arrivals[0]!.heightM).toBeLessThan(300);
    expect(ids(asked(plan))).toContain('route-climb');
    const climbs = routeOf([
      pointAt(300, 0, { heightM: 400, do: 'climb' }),
      pointAt(2000, 0, { heightM: 400 }),
    ]);
    expect(ids(asked(climbs))).not.toContain('route-climb');
    expect(routeWay(asked(climbs)).arrivals[1]!.heightM).toBeCloseTo(400, 0);
  });

  it('stays where it is told to, for a time or for turns, whichever takes longer', () => {
    const at = (seconds: number, turns: number) =>
      routeWay(asked(routeOf([pointAt(500, 0, { heightM: 45, do: 'circle', seconds, turns })], 'circle')))
        .seconds;
    expect(at(300, 0) - at(0, 0)).toBeCloseTo(300, -1);
    const { 'loiter.radius': radius } = prepared(turnstone) as { 'loiter.radius': number };
    expect(at(0, 10) - at(0, 0)).toBeGreaterThan((10 * 2 * Math.PI * radius) / 30);
  });

  it('knows the ground, and what counts heights from it', () => {
    const [hill] = torvholm.places;
    const over = { ...pointAt(0, 0), lat: hill!.lat, lon: hill!.lon };
    const low = asked(routeOf([{ ...over, heightM: 150 }]), { site: torvholm });
    expect(ids(low)).toContain('route-ground');
    const follows = asked(routeOf([{ ...over, heightM: 120, above: 'ground' }]), { site: torvholm });
    expect(ids(follows)).not.toContain('route-ground');
    const last = routeWay(follows).arrivals[0]!;
    expect(last.heightM).toBeGreaterThan(400);
  });

  it('is not heard behind the hill, nor beyond the reach of the link', () => {
    const [hill] = torvholm.places;
    const behind = { ...pointAt(0, 0), lat: hill!.lat + 0.012, lon: hill!.lon - 0.03, heightM: 120 };
    expect(ids(asked(routeOf([behind]), { site: torvholm }))).toContain('route-unheard');
    expect(ids(asked(routeOf([pointAt(3000, 0)]), { linkM: 2000 }))).toContain('route-unheard');
    expect(ids(asked(routeOf([pointAt(3000, 0)]), { linkM: 4000 }))).not.toContain('route-unheard');
  });

  it('marks where the way home ends, with what is short there', () => {
    const far = asked(routeOf([pointAt(14_000, 0), pointAt(14_000, 14_000)]));
    const way = routeWay(far);
    expect(way.noReturn).not.toBeNull();
    expect(way.noReturn!.limit).toBe('energy');
    expect(ids(far)).toContain('route-no-return');
    // Before it, it would have come home from everywhere.
    const before = way.moments.filter((m) => m.seconds < way.noReturn!.seconds && !Number.isNaN(m.margin));
    expect(before.length).toBeGreaterThan(5);
    expect(before.every((m) => m.margin >= 0)).toBe(true);
    expect(ids(asked(routeOf([pointAt(1000, 0)])))).toEqual([]);
  });

  it('breaks fences on its way, and by its way home', () => {
    const across = squareAt(1500, 0, 200);
    expect(ids(asked(routeOf([pointAt(3000, 0)], 'circle', [across])))).toContain('route-fence');
    // Round the area, and straight home through it.
    const round = routeOf([pointAt(1500, 800), pointAt(3000, 0)], 'circle', [across]);
    const found = ids(asked(round));
    expect(found).not.toContain('route-fence');
    expect(found).toContain('return-fence');
    expect(ids(asked(routeOf([pointAt(3000, 0)]), {}, { 'fence.radius': 2000 }))).toContain('route-fence');
  });

  it('ends where the battery does, or where the wind stops it', () => {
    expect(
      ids(asked(routeOf(Array.from({ length: 12 }, (_, i) => pointAt(i % 2 ? 14_000 : 500, 0))))),
    ).toContain('route-empty');
    const storm = asked(routeOf([pointAt(3000, 0)]), { wind: { speedMps: 25, fromDeg: 0, gustMps: 0 } });
    expect(routeWay(storm).stuck).toEqual({ to: 0, why: 'wind' });
    expect(ids(storm)).toContain('route-stuck');
    const sagging = asked(routeOf([pointAt(5000, 0)]), { batteryShare: 0.35 });
    expect(ids(sagging)).toContain('route-reserve');
  });

  it('of rotors goes over ground at its speed, as far as it may lean', () => {
    const plan = routeOf([pointAt(1000, 0, { speedMps: 8, heightM: 40 })], 'circle');
    const way = routeWay(asked(plan, { airframe: avocet }));
    expect(way.arrivals[0]!.seconds).toBeCloseTo(125, -1);
    const wind = { speedMps: 7, fromDeg: 0, gustMps: 0 };
    const leans = (tilt: number) => routeWay(asked(plan, { airframe: avocet, wind }, { 'hover.tilt': tilt }));
    // Leaning far it keeps its speed over ground; leaning little it is held up.
    expect(leans(35).arrivals[0]!.seconds).toBeCloseTo(125, -1);
    const little = leans(12);
    expect(little.stuck?.why ?? little.arrivals[0]!.seconds).not.toBeCloseTo(125, -1);
    expect(leans(5).stuck).toEqual({ to: 0, why: 'wind' });
  });
});
