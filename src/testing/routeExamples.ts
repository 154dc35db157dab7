import { turnstone } from '#core/airframe/library.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import { routeProblems } from '#core/plan/routeProblems.ts';
import { type RouteAsked, routeWay } from '#core/plan/routeWay.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoValues, torvholm } from './demoCraft.ts';
import { example, type FindingExample } from './findingExample.ts';
import { pointAt, routeOf, squareAt } from './plans.ts';

const good = demoValues('turnstone');
const routed = { ...good, 'mode.route.channel': 9 };
/** A plan that was flown in thought, in a breeze that is no matter unless another is given. */
function flownRoute(
  what: string,
  id: string,
  plan: FlightPlan,
  more: Partial<RouteAsked> = {},
  change: Values = {},
): FindingExample {
  const values = { ...routed, ...change };
  const wind = { speedMps: 2, fromDeg: 230, gustMps: 0.4 };
  const asked: RouteAsked = {
    ...{ airframe: turnstone, values, site: torvholm, plan, wind },
    ...{ batteryShare: 1, reserveShare: 0.2, linkM: 0 },
    ...more,
  };
  const problems = routeProblems(asked, routeWay(asked), 'metric');
  return example(what, id, turnstone, values, { plan, routeProblems: problems });
}
const shore = routeOf([pointAt(200, 1500), pointAt(-200, 2500)]);
const across = squareAt(200, 900, 150);
const [aldrygg] = torvholm.places;
const overHill = { ...pointAt(0, 0), lat: aldrygg!.lat, lon: aldrygg!.lon };
const behindHill = pointAt(0, 0, { heightM: 120 });
const hidden = { ...behindHill, lat: aldrygg!.lat + 0.012, lon: aldrygg!.lon - 0.03 };

/** What routes and fences raise. */
export const routeExamples: readonly FindingExample[] = [
  example('a route is drawn and no switch begins it', 'route-no-switch', turnstone, good, { plan: shore }),
  example('a wing is to land at a point', 'route-lands-wing', turnstone, routed, {
    plan: routeOf([pointAt(200, 1500, { do: 'land' })]),
  }),
  example('a point is flown to as slowly as it stalls', 'route-slow', turnstone, routed, {
    plan: routeOf([pointAt(200, 1500, { speedMps: 8 })]),
  }),
  example('heights are above a ground that nobody knows', 'route-ground-unknown', turnstone, routed, {
    plan: routeOf([pointAt(200, 1500, { above: 'ground' })]),
    ground: undefined,
  }),
  example('home lies in an area to be kept out of', 'fence-home', turnstone, good, {
    plan: routeOf([], 'return', [squareAt(0, 0, 200)]),
  }),
  example('the board has another route', 'plan-not-on-board', turnstone, routed, {
    plan: shore,
    boardPlan: routeOf([pointAt(0, 300)]),
  }),
  flownRoute('the wind stops it on its way', 'route-stuck', shore, {
    wind: { speedMps: 26, fromDeg: 90, gustMps: 0 },
  }),
  flownRoute('the route goes through a hill', 'route-ground', routeOf([{ ...overHill, heightM: 150 }])),
  flownRoute('an area to be kept out of lies on the way', 'route-fence', { ...shore, fences: [across] }),
  flownRoute(
    'the route is longer than the battery lasts',
    'route-empty',
    routeOf(Array.from({ length: 12 }, (_, i) => pointAt(0, i % 2 ? 14_000 : 500, { heightM: 420 }))),
  ),
  flownRoute('too little is left at its end', 'route-reserve', shore, { batteryShare: 0.35 }),
  flownRoute(
    'a point is too high for the way to it',
    'route-climb',
    routeOf([pointAt(200, 500, { heightM: 420 })]),
  ),
  flownRoute('the hill stands before the transmitter', 'route-unheard', routeOf([hidden])),
  flownRoute(
    'the battery does not last for the way home from there',
    'route-no-return',
    routeOf([pointAt(-200, 14_000, { heightM: 300 }), pointAt(-14_000, 14_000, { heightM: 300 })]),
  ),
  flownRoute('straight home leads through an area', 'return-fence', {
    ...routeOf([pointAt(1000, 900), pointAt(200, 2000)]),
    fences: [squareAt(150, 1300, 150)],
  }),
];
