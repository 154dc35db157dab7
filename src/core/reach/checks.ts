import type { Margins, Verdict } from '../formats/rehearsalResult.ts';
import type { Scenario } from '../formats/scenario.ts';
import type { Random } from '../math/random.ts';
import { DEG } from '../math/scalar.ts';
import type { Site } from '../site/site.ts';
import { CLEARLY, type HomeMarch, type Limit, type ReachCircumstances } from './homeMarch.ts';
import { borderRings, REACH_M, type ReachMap } from './reachMap.ts';

/** A place to be flown from, and what the map says of it. */
export interface ReachCheck {
  readonly eastM: number;
  readonly northM: number;
  readonly margin: number;
  readonly limit: Limit;
  /** Above home where it begins, m. */
  readonly heightM: number;
}

/** The link is lost this long after a rehearsal begins, s. */
const LOST_AT_S = 12;
/** So far inside the border and outside of it pairs are laid, m; outside at most so far. */
const BESIDE_M = 250;
const OUTSIDE_MOST_M = 3000;
const NEAREST_M = 200;

/** What the march says of one place. */
export function checkAt(march: HomeMarch, eastM: number, northM: number): ReachCheck {
  const way: Parameters<HomeMarch['from']>[2] = [];
  const margin = march.from(northM, eastM, way);
  return { eastM, northM, margin, limit: march.limit, heightM: way[0]!.heightM };
}

/** Pairs of places along the border, one inside and one outside, evenly along it; places all over where there is none. */
export function pairsAlong(map: ReachMap, march: HomeMarch, pairs: number, random: Random): ReachCheck[] {
  const edge = REACH_M - 1;
  const along = borderRings(map)
    .flat()
    .filter(([e, n]) => Math.abs(e) < edge && Math.abs(n) < edge && Math.hypot(e, n) > NEAREST_M + BESIDE_M);
  const out: ReachCheck[] = [];
  if (along.length === 0) {
    for (let k = 0; k < 2 * pairs; k++) {
      const bearing = 2 * Math.PI * random.uniform();
      const distance = NEAREST_M + (edge - NEAREST_M) * Math.sqrt(random.uniform());
      out.push(checkAt(march, distance * Math.sin(bearing), distance * Math.cos(bearing)));
    }
    return out;
  }
  for (let k = 0; k < pairs; k++) {
    const [e, n] = along[Math.floor(((k + random.uniform()) / pairs) * along.length)]!;
    const r = Math.hypot(e, n);
    const beside = (by: number) => checkAt(march, e * (1 + by / r), n * (1 + by / r));
    out.push(beside(-BESIDE_M));
    // Outside so far that the map calls it bad, not only no longer good.
    let outside = beside(BESIDE_M);
    for (let by = 2 * BESIDE_M; outside.margin >= -CLEARLY && by <= OUTSIDE_MOST_M; by += BESIDE_M)
      outside = beside(by);
    out.push(outside);
  }
  return out;
}

/** The flight that shows whether it comes home from there. */
export function checkScenario(
  check: ReachCheck,
  c: ReachCircumstances,
  site: Site,
  seed: number,
  limitS = 4000,
): Scenario {
  const bearingDeg = (Math.atan2(check.eastM, check.northM) / DEG + 360) % 360;
  return {
    seed,
    home: site.home,
    wind: c.wind,
    outbound: {
      bearingDeg,
      distanceM: Math.max(100, Math.hypot(check.eastM, check.northM)),
      heightM: Math.min(1500, Math.max(20, check.heightM)),
      begins: 'there',
    },
    batteryShare: c.batteryShare,
    events: [{ atS: LOST_AT_S, do: 'link-lost' }],
    limitS,
  };
}

/** Whether a flight came home as the map means it: to its end, with the reserve kept. */
export const cameHome = (
  flown: { readonly verdict: Verdict; readonly margins: Pick<Margins, 'batteryShare'> },
  c: ReachCircumstances,
): boolean => flown.verdict === 'home' && flown.margins.batteryShare >= c.reserveShare;
