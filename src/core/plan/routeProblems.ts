import type { Severity } from '../findings/rule.ts';
import { limitNames } from '../reach/place.ts';
import { settingsOf } from '../settings/typed.ts';
import { formatDuration, formatQuantity, type UnitSystem } from '../units/units.ts';
import { brokenWords } from './fences.ts';
import type { RouteAsked, RouteMoment, RouteWay } from './routeWay.ts';

/** What flying a route in thought may show. */
export const routeProblemIds = [
  'route-stuck',
  'route-ground',
  'route-fence',
  'route-empty',
  'route-reserve',
  'route-climb',
  'route-unheard',
  'route-no-return',
  'return-fence',
] as const;

/** What stands in the way of a route as it would be flown, and where. */
export interface RouteProblem {
  readonly id: (typeof routeProblemIds)[number];
  readonly severity: Severity;
  readonly title: string;
  readonly why: string;
  /** Settings that it is about. */
  readonly keys: readonly string[];
  /** From home, m; null for the whole. */
  readonly at: { readonly northM: number; readonly eastM: number } | null;
}

/** Room over the ground that a route keeps, m: gusts and the board's own height are off by metres. */
const ROUTE_ROOM_M = 30;
/** Lower than asked for by more than this when a point is passed, it was not reached, m. */
const SHORT_M = 20;

/** Everything that a march along a route shows to be wrong. @param units for the sentences */
export function routeProblems(asked: RouteAsked, way: RouteWay, units: UnitSystem): RouteProblem[] {
  const out: RouteProblem[] = [];
  const { plan, site, values } = asked;
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  const put = (
    id: RouteProblem['id'],
    severity: Severity,
    title: string,
    why: string,
    at: RouteMoment | null,
    keys: readonly string[] = [],
  ) => out.push({ id, severity, title, why, keys, at: at && { northM: at.northM, eastM: at.eastM } });
  const percent = (share: number) => `${Math.round(100 * Math.max(0, share))} %`;
  const last = way.moments.at(-1)!;
  const flown = way.moments.slice(1);

  if (way.stuck)
    put(
      'route-stuck',
      'blocks',
      `The route does not get to point ${way.stuck.to + 1}`,
      way.stuck.why === 'wind'
        ? `On the way there the wind leaves it less than walking pace over ground. Fly faster, lower, or on a day with less wind.`
        : 'It cannot fly as the route asks there: its drive does not give that speed or that climb.',
      last,
      ['nav.speed'],
    );
  const lowest = flown.reduce(
    (a, b) => (b.heightM - b.groundM < a.heightM - a.groundM ? b : a),
    flown[0] ?? last,
  );
  const room = lowest.heightM - lowest.groundM;
  if (site.terrain.known && flown.length > 0 && room < ROUTE_ROOM_M)
    put(
      'route-ground',
      'blocks',
      room < 0
        ? `The route runs into the ground before point ${lowest.to + 1}`
        : `The route comes within ${m(room)} of the ground`,
      room < 0
        ? `There it would be ${m(-room)} too low. Raise point ${lowest.to + 1}, climb at the point before, or count its height from the ground.`
        : `Before point ${lowest.to + 1}; ${m(ROUTE_ROOM_M)} is the least that gusts and the height of the board leave safe.`,
      lowest,
    );
  const broken = flown.find((x) => x.broken >= 0);
  if (broken)
    put(
      'route-fence',
      'blocks',
      `The route breaks a fence before point ${broken.to + 1}`,
      `There it is ${brokenWords(plan.fences[broken.broken]!)}. ${atTheFence(asked)}`,
      broken,
      ['fence.action'],
    );
  const radius = settingsOf(values).number('fence.radius');
  const top = settingsOf(values).number('fence.top');
  const beyond = flown.find(
    (x) => (radius > 0 && Math.hypot(x.northM, x.eastM) > radius) || (top > 0 && x.heightM > top),
  );
  if (beyond && !broken)
    put(
      'route-fence',
      'blocks',
      `The route leaves the circle about home before point ${beyond.to + 1}`,
      `The fence about home ends at ${radius > 0 ? m(radius) : 'no distance'} and ${top > 0 ? m(top) : 'no height'}. ${atTheFence(asked)}`,
      beyond,
      ['fence.radius', 'fence.top'],
    );
  const empty = flown.find((x) => x.share <= 0);
  if (empty)
    put(
      'route-empty',
      'blocks',
      `The battery is empty before point ${empty.to + 1}`,
      `That is after ${formatDuration(empty.seconds)} and ${m(empty.wayM)}. Make the route shorter, or slower where that takes less.`,
      empty,
    );
  else if (!way.stuck && plan.end === 'return' && !(way.leftShare >= asked.reserveShare))
    put(
      'route-reserve',
      way.leftShare > 0 ? 'caution' : 'blocks',
      'The route leaves too little for its end',
      Number.isFinite(way.leftShare) && way.leftShare > 0
        ? `${percent(way.leftShare)} of the battery would be left above home; ${percent(asked.reserveShare)} is wanted.`
        : 'After the last point it would not get home.',
      last,
    );
  const short = way.arrivals.findIndex((a) => Math.abs(a.askedM - a.heightM) > SHORT_M);
  if (short >= 0) {
    const a = way.arrivals[short]!;
    if (plan.points[short]!.do !== 'circle' && plan.points[short]!.do !== 'climb')
      put(
        'route-climb',
        'caution',
        `Point ${short + 1} is passed ${m(Math.abs(a.askedM - a.heightM))} too ${a.askedM > a.heightM ? 'low' : 'high'}`,
        `On the way there it ${a.askedM > a.heightM ? 'climbs' : 'sinks'} no faster. Have it climb at that point, or lay the point farther off.`,
        null,
        ['nav.climb', 'nav.sink'],
      );
  }
  const unheard = flown.find((x) => !x.heard);
  if (unheard && settingsOf(values).choice('lost.action') !== 'nothing') {
    const far = Math.hypot(unheard.northM, unheard.eastM, unheard.heightM);
    put(
      'route-unheard',
      'caution',
      `The transmitter is not heard before point ${unheard.to + 1}`,
      asked.linkM > 0 && far > asked.linkM
        ? `There it is ${m(far)} away, and the link reaches ${m(asked.linkM)}. The link would be lost and the route left.`
        : 'There the ground stands between it and home. The link would be lost and the route left.',
      unheard,
      ['lost.action'],
    );
  }
  const { noReturn, overFence } = way;
  if (overFence)
    put(
      'return-fence',
      'caution',
      `The way home from before point ${overFence.to + 1} breaks a fence`,
      'Flown straight home from there it crosses one. The board flies home all the same when the link is lost: move the route, or the fence.',
      overFence,
      ['fence.action'],
    );
  if (noReturn)
    put(
      'route-no-return',
      'caution',
      `From before point ${noReturn.to + 1} on it does not come home when the link is lost`,
      `That is ${m(Math.hypot(noReturn.northM, noReturn.eastM))} out, after ${formatDuration(noReturn.seconds)} with ${percent(noReturn.share)} of the battery left. What is short there: ${limitNames[noReturn.limit!].name}. See what mends it at How far it comes home from.`,
      noReturn,
      ['return.height', 'return.climb', 'return.speed'],
    );
  return out;
}

function atTheFence({ values }: RouteAsked): string {
  switch (settingsOf(values).choice('fence.action')) {
    case 'return':
      return 'The board would leave the route and return home.';
    case 'loiter':
      return 'The board would leave the route and circle there.';
    default:
      return 'The board would say so and fly on.';
  }
}
