import type { TrackPoint } from '../formats/rehearsalResult.ts';
import type { Scenario } from '../formats/scenario.ts';
import { DEG, wrapBearingDeg } from '../math/scalar.ts';
import { eastOf, northOf, type Place } from '../navigation/earth.ts';
import type { Site } from '../site/site.ts';
import type { FlightPlan } from './plan.ts';
import { borderDistance } from './polygon.ts';

/** How a flight kept to its route. */
export interface FlownShape {
  /** Points that the board said to have done. */
  readonly reached: number;
  /** When each was done, s since the launch. */
  readonly doneS: readonly number[];
  /** Farthest from the line between two points while it was flown, m; turns at the points are left out. */
  readonly offM: number;
}

/** So near to a point it turns, which is no fault of it, m. */
const TURNING_M = 120;

/**
 * What a flown track says of the route it was to fly: by the board's own words which points were done when, and how far it
 * was from the line to each.
 */
export function flownShape(
  plan: FlightPlan,
  track: readonly TrackPoint[],
  decisions: readonly { readonly atS: number; readonly text: string }[],
  home: Place,
): FlownShape {
  const doneS = decisions.flatMap((d) => (/^Route: point \d+ done/.test(d.text) ? [d.atS] : []));
  const flat = ({ lat, lon }: Place) => [northOf(home.lat, lat), eastOf(home.lat, home.lon, lon)] as const;
  const points = plan.points.map(flat);
  let offM = 0;
  for (const p of track) {
    if (p.mode !== 'route') continue;
    const k = doneS.filter((s) => s <= p.atS).length;
    const [to, from] = [points[k], points[k - 1]];
    const what = plan.points[k]?.do;
    // The way to the first point begins wherever the route was begun; about a circled point no line is flown.
    if (!to || !from || what === 'circle' || what === 'climb') continue;
    const [n, e] = flat(p);
    if (Math.min(Math.hypot(n - to[0], e - to[1]), Math.hypot(n - from[0], e - from[1])) < TURNING_M)
      continue;
    offM = Math.max(offM, borderDistance([...from, ...to], n, e));
  }
  return { reached: doneS.length, doneS, offM };
}

/** A rehearsal that flies a route from the launch on. @param loseLinkAt point at which the link is lost, from 1 */
export function routeScenario(
  plan: FlightPlan,
  site: Site,
  usual: Pick<Scenario, 'seed' | 'wind' | 'air'>,
  loseLinkAt: number | null,
): Scenario {
  const [first] = plan.points;
  const n = first ? northOf(site.home.lat, first.lat) : 0;
  const e = first ? eastOf(site.home.lat, site.home.lon, first.lon) : 0;
  const { seed, wind, air } = usual;
  return {
    ...{ seed, wind, home: site.home },
    ...(air ? { air } : {}),
    outbound: {
      bearingDeg: Math.round(wrapBearingDeg(Math.atan2(e, n) / DEG)),
      distanceM: Math.min(15_000, Math.max(300, Math.hypot(n, e))),
      heightM: first?.above === 'home' ? Math.min(1500, Math.max(50, first.heightM)) : 80,
      route: loseLinkAt === null ? {} : { loseLinkAt },
    },
    events: [],
    limitS: 7200,
  };
}
