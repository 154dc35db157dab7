import { flyAll } from '../src/cli/batch.ts';
import { parseScenario } from '../src/core/formats/scenario.ts';
import { Random } from '../src/core/math/random.ts';
import { cameHome, checkAt, checkScenario, type ReachCheck } from '../src/core/reach/checks.ts';
import { CLEARLY, type HomeMarch, type ReachCircumstances } from '../src/core/reach/homeMarch.ts';
import { homeMarch, REACH_M, reachMap } from '../src/core/reach/reachMap.ts';
import type { Values } from '../src/core/settings/catalogue.ts';
import type { Site } from '../src/core/site/site.ts';
import { flyableDemo, skerrow, torvholm } from '../src/testing/demoCraft.ts';

/**
 * How often the map of the reach is right: rehearsals flown from places that it calls good and bad, over six craft, ten
 * winds, three states of the battery, two sites and ways home of four kinds.
 */

const CRAFT = ['turnstone', 'avocet', 'dunlin', 'sandpiper', 'knot', 'ruff'] as const;
const WINDS = [1, 2, 4, 5, 6, 8, 9, 10, 12, 14];
const BATTERIES = [0.95, 0.65, 0.45];
const WAYS: readonly Values[] = [
  {},
  { 'return.climb': 'climb-on-the-way' },
  { 'return.climb': 'at-least', 'return.height': 120 },
  { 'return.above': 'ground', 'return.height': 80 },
];
/** Strata: well inside, inside near the border, outside near it, well outside. */
const STRATA: readonly ((margin: number) => boolean)[] = [
  (m) => m >= 0.15,
  (m) => m >= 0 && m < 0.15,
  (m) => m < 0 && m >= -0.3,
  (m) => m < -CLEARLY,
];
const RESERVE = 0.2;
const HEIGHT_M = 120;
/** Reasons of a judge that say the same as a limit of the map. */
const SAME: Readonly<Record<string, readonly string[]>> = {
  energy: ['power'],
  wind: ['wind'],
  ground: ['ground'],
  time: ['wind', 'setting', 'nothing'],
  fence: ['setting'],
};

interface Planned {
  readonly name: string;
  readonly craft: ReturnType<typeof flyableDemo>;
  readonly way: Values;
  readonly site: Site;
  readonly c: ReachCircumstances;
  readonly check: ReachCheck;
}

export interface ReachTruth {
  /** Shares of those that the map calls good, and bad by more than a tenth, and of the latter those with its reason. */
  readonly good: number;
  readonly bad: number;
  readonly reason: number;
  readonly flown: number;
  readonly misses: readonly string[];
}

/** A place of the stratum that is asked for; any where the map has none of it. */
function placeIn(march: HomeMarch, k: number, random: Random): ReachCheck {
  const map = reachMap(march, 400);
  const half = (map.side - 1) / 2;
  const cells = Array.from(map.margins.keys()).filter((at) => at !== half * map.side + half);
  const of = cells.filter((at) => STRATA[k % STRATA.length]!(map.margins[at]!));
  const from = of.length > 0 ? of : cells;
  const at = from[Math.floor(random.uniform() * from.length)]!;
  const jitter = () => 200 * (random.uniform() - 0.5);
  const east = ((at % map.side) - half) * map.cellM + jitter();
  const north = (half - Math.floor(at / map.side)) * map.cellM + jitter();
  return checkAt(march, Math.max(-REACH_M, Math.min(REACH_M, east)), north);
}

/** Flies so many of them on so many threads. */
export async function reachTruth(count: number, threads = 2, seed = 1): Promise<ReachTruth> {
  const sites = [torvholm, skerrow];
  const crafts = CRAFT.map(flyableDemo);
  const random = new Random(seed);
  const planned: Planned[] = [];
  const ofSite: Planned[][] = [[], []];
  for (let k = 0; k < count; k++) {
    const craft = crafts[k % CRAFT.length]!;
    const speedMps = WINDS[Math.floor(random.uniform() * WINDS.length)]!;
    const at = k % 2;
    const site = sites[at]!;
    const c: ReachCircumstances = {
      wind: { speedMps, fromDeg: Math.floor(360 * random.uniform()), gustMps: 0.2 * speedMps },
      batteryShare: BATTERIES[Math.floor(random.uniform() * BATTERIES.length)]!,
      reserveShare: RESERVE,
      heightM: HEIGHT_M,
    };
    const way = WAYS[Math.floor(random.uniform() * WAYS.length)]!;
    const values = { ...craft.values, ...way };
    const march = homeMarch({ airframe: craft.airframe, values, site, circumstances: c });
    const plan = {
      name: CRAFT[k % CRAFT.length]!,
      craft: { ...craft, values },
      way,
      site,
      c,
      check: placeIn(march, Math.floor(k / CRAFT.length), random),
    };
    planned.push(plan);
    ofSite[at]!.push(plan);
  }
  let [good, goodOf, bad, badOf, right] = [0, 0, 0, 0, 0];
  const misses: string[] = [];
  for (const [at, plans] of ofSite.entries()) {
    const ends = await flyAll(
      sites[at]!,
      plans.map(({ craft, site, c, check }, k) => {
        const scenario = parseScenario(checkScenario(check, c, site, k), site);
        if (!scenario.ok) throw new Error(scenario.why);
        return { ...craft, scenario: scenario.scenario, endsEarly: 'circling' as const };
      }),
      threads,
    );
    for (const [k, end] of ends.entries()) {
      const { name, way, c, check } = plans[k]!;
      const home = cameHome(end, c);
      const said = `${name} ${c.wind.speedMps}@${c.wind.fromDeg} ${Math.round(100 * c.batteryShare)} % ${Math.round(check.eastM)}E ${Math.round(check.northM)}N ${JSON.stringify(way)} margin ${check.margin.toFixed(2)} ${check.limit}`;
      const flew = `${end.verdict} (${end.cause}), ${Math.round(100 * end.margins.batteryShare)} % left: ${end.reason}`;
      if (check.margin >= 0) {
        goodOf++;
        if (home) good++;
        else misses.push(`called good: ${said}; ${flew}`);
      } else if (check.margin < -CLEARLY) {
        badOf++;
        if (home) misses.push(`called bad: ${said}; ${flew}`);
        else {
          bad++;
          // It was home, and the reserve was not kept.
          const why = end.verdict === 'home' ? 'power' : end.cause;
          if (SAME[check.limit]!.includes(why)) right++;
          else misses.push(`another reason: ${said}; ${flew}`);
        }
      }
    }
  }
  return {
    good: good / Math.max(1, goodOf),
    bad: bad / Math.max(1, badOf),
    reason: right / Math.max(1, bad),
    flown: planned.length,
    misses,
  };
}
