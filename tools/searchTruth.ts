import { flyLoss } from '../src/bench/lossFlown.ts';
import { groundAbout } from '../src/core/flight/terrain.ts';
import { fallingCraft } from '../src/core/search/fallingCraft.ts';
import { flyEndings, likelihoodOf, searchedBefore } from '../src/core/search/likelihood.ts';
import { type DemoName, flyableDemo, skerrow, torvholm } from '../src/testing/demoCraft.ts';

/** Where losses that were flown in the bench lie on the map of their search: share of the searched area before each, from the likeliest on. */

const CRAFT: readonly DemoName[] = ['turnstone', 'dunlin', 'sandpiper', 'knot', 'avocet', 'ruff'];
const FLIGHTS = 6000;

export interface SearchTruth {
  readonly losses: number;
  /** Share of them that lie in the first fifth. */
  readonly firstFifth: number;
  readonly rows: readonly {
    readonly craft: DemoName;
    readonly cause: string;
    readonly action: string;
    readonly before: number;
    readonly awayM: number;
    readonly areaHa: number;
    readonly seconds: number;
  }[];
}

/** @param losses how many. @param seed another one gives other losses */
export function searchTruth(losses: number, seed = 1): SearchTruth {
  const rows: SearchTruth['rows'][number][] = [];
  for (let k = 0; rows.length < losses; k++) {
    const name = CRAFT[k % CRAFT.length]!;
    const site = k % 3 === 2 ? skerrow : torvholm;
    const craft = flyableDemo(name);
    const loss = flyLoss(craft, site, seed * 10_000 + k);
    if (!loss) continue;
    const world = {
      craft: fallingCraft(craft.airframe, loss.values),
      seen: loss.seen,
      ground: groundAbout(site.terrain, site.home),
      home: site.home,
    };
    const map = likelihoodOf(flyEndings(world, FLIGHTS, k + 1), world);
    rows.push({
      craft: name,
      cause: loss.cause,
      action: String(loss.values['lost.action']),
      before: searchedBefore(map, loss.north, loss.east),
      awayM: Math.hypot(loss.north, loss.east),
      areaHa: (map.order.length * map.cellM ** 2) / 10_000,
      seconds: loss.seconds,
    });
  }
  return { losses, firstFifth: rows.filter((r) => r.before <= 0.2).length / losses, rows };
}

if (process.argv[1]?.endsWith('searchTruth.ts')) {
  const start = performance.now();
  const truth = searchTruth(Number(process.argv[2] ?? 60), Number(process.argv[3] ?? 1));
  for (const r of truth.rows)
    process.stdout.write(
      `${r.craft.padEnd(10)} ${r.cause.padEnd(8)} ${r.action.padEnd(8)} ${r.before.toFixed(3)} ${r.awayM.toFixed(0).padStart(6)} m of ${r.areaHa.toFixed(0)} ha, ${r.seconds.toFixed(0)} s\n`,
    );
  process.stdout.write(
    `${(100 * truth.firstFifth).toFixed(1)} % in the first fifth, ${((performance.now() - start) / 1000).toFixed(0)} s\n`,
  );
}
