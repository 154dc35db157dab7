import { describe, expect, it } from 'vitest';
import { avocet, sandpiper, turnstone } from '#core/airframe/library.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { flownShape, routeScenario } from '#core/plan/routeFlown.ts';
import { routeWay } from '#core/plan/routeWay.ts';
import { surveyOf } from '#core/plan/survey.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { placeAt, pointAt, routeOf, squareAt } from '../testing/plans.ts';
import { rehearse } from './rehearsal.ts';

const wind = { speedMps: 4, fromDeg: 230, gustMps: 0.8 };
const survey = surveyOf(
  {
    corners: [placeAt(150, 300), placeAt(200, 900), placeAt(600, 850), placeAt(550, 280)],
    spacingM: 100,
    beyondM: 60,
    point: { heightM: 70, above: 'ground', speedMps: 0, cameraDeg: 60 },
  },
  torvholm.home,
).points;
const switched = { 'mode.route.channel': 9, 'mode.route.from': 1700, 'mode.route.to': 2200 };

function fly(
  airframe: typeof turnstone,
  plan: ReturnType<typeof routeOf>,
  loseLinkAt: number | null = null,
  change: Values = {},
) {
  const values = prepared(airframe, { ...switched, ...change });
  const scenario = routeScenario(plan, torvholm, { seed: 3, wind }, loseLinkAt);
  const input = { airframe, board: fellF7Model, values, site: torvholm, plan, scenario };
  const flown = rehearse({ ...input, truth: truthFromSettings(airframe, values) });
  return { values, flown, shape: flownShape(plan, flown.track, flown.decisions, torvholm.home) };
}

describe('a route that is flown', () => {
  it.each([
    ['Turnstone', turnstone],
    ['Sandpiper', sandpiper],
    ['Avocet', avocet],
  ] as const)(
    'takes %s the time and the charge that it takes in thought, near its lines, and home',
    (_, airframe) => {
      const plan = routeOf([
        ...survey,
        pointAt(700, 400, { heightM: 90, do: 'circle', seconds: 20, turns: 1 }),
      ]);
      const { values, flown, shape } = fly(airframe, plan);
      const way = routeWay({
        ...{ airframe, values, site: torvholm, plan, wind },
        ...{ batteryShare: 1, reserveShare: 0.2, linkM: 0 },
      });
      expect(flown.verdict).toBe('home');
      expect(shape.reached).toBe(plan.points.length);
      expect(shape.offM).toBeLessThan(60);
      // In thought it ends with two circles above home, or on the ground, as the judge has it.
      expect(Math.abs(flown.seconds / way.seconds - 1)).toBeLessThan(0.07);
      expect(Math.abs(flown.margins.batteryShare - way.leftShare)).toBeLessThan(0.04);
    },
  );

  it('is left where the link is lost, and turned back from at a fence', () => {
    const plan = routeOf(survey);
    const lost = fly(turnstone, plan, 3);
    expect(lost.shape.reached).toBe(3);
    expect(lost.flown.verdict).toBe('home');
    expect(lost.flown.lostLink.map((l) => l.state)).toContain('acting');
    const fenced = fly(turnstone, { ...plan, fences: [squareAt(400, 750, 120)] });
    expect(fenced.shape.reached).toBeLessThan(plan.points.length);
    expect(fenced.flown.decisions.map((d) => d.text).join(' ')).toMatch(/inside The square.*Returns home/);
  });

  it('that asks for no way home is given it by the pilot, and without a switch nothing begins', () => {
    const circles = fly(turnstone, routeOf([pointAt(500, 0, { heightM: 100 })], 'circle'));
    expect(circles.flown.verdict).toBe('home');
    const none = fly(turnstone, routeOf(survey), null, { 'mode.route.channel': 0 });
    expect(none.flown).toMatchObject({ verdict: 'not-flown', settings: ['mode.route.channel'] });
    expect(none.flown.reason).toMatch(/No switch asks for Route/);
    expect(fly(turnstone, routeOf([])).flown.reason).toMatch(/no route on the board/);
  });
});
