import { flyAll } from '../src/cli/batch.ts';
import { parseScenario, type ScenarioEvent } from '../src/core/formats/scenario.ts';
import { Random } from '../src/core/math/random.ts';
import { flyableDemo, torvholm } from '../src/testing/demoCraft.ts';

/**
 * How well a board reckons what the way home takes: a pilot flies out and on, in a wind that nobody forecast and that
 * changes on the way, until the board turns back by itself; what is left above home is to be what was to be left.
 */

const CRAFT = ['turnstone', 'dunlin', 'sandpiper', 'knot', 'ruff'] as const;
const RESERVE = 0.2;
/** Of the capacity. */
const WITHIN = 0.05;
const FAR_M = 14_000;

export interface EnergyTruth {
  /** Share of those that came home with the reserve kept, within a twentieth of the capacity. */
  readonly kept: number;
  /** What is left above home in the middle of them, share: much more than the reserve would be turned back too early. */
  readonly medianLeft: number;
  readonly misses: readonly string[];
}

export async function energyTruth(count: number, threads = 2, seed = 5): Promise<EnergyTruth> {
  const random = new Random(seed);
  const plans = Array.from({ length: count }, (_, k) => {
    const name = CRAFT[k % CRAFT.length]!;
    const craft = flyableDemo(name);
    const rotors = name === 'ruff';
    const speedMps = Math.round(10 * (rotors ? 5 : 8) * random.uniform()) / 10;
    const fromDeg = Math.floor(360 * random.uniform());
    const turn: ScenarioEvent = {
      atS: Math.round(40 + 160 * random.uniform()),
      do: 'wind',
      speedMps: Math.max(0, speedMps + 4 * (random.uniform() - 0.5)),
      fromDeg: (fromDeg + 360 + 80 * (random.uniform() - 0.5)) % 360,
    };
    const scenario = parseScenario(
      {
        seed: k,
        home: torvholm.home,
        wind: { speedMps, fromDeg, gustMps: 0.15 * speedMps },
        outbound: {
          bearingDeg: Math.floor(360 * random.uniform()),
          distanceM: FAR_M,
          heightM: 450,
        },
        events: [turn],
        limitS: 7000,
      },
      torvholm,
    );
    if (!scenario.ok) throw new Error(scenario.why);
    const values = {
      ...craft.values,
      'battery.watch': 'home',
      'battery.lowAction': 'return',
      'battery.reserve': RESERVE,
      'return.arrival': 'circle',
    };
    return {
      name,
      job: {
        ...craft,
        values,
        scenario: scenario.scenario,
        endsEarly: 'circling' as const,
      },
    };
  });
  const ends = await flyAll(
    torvholm,
    plans.map((p) => p.job),
    threads,
  );
  const misses: string[] = [];
  const lefts: number[] = [];
  let kept = 0;
  for (const [k, end] of ends.entries()) {
    const left = end.margins.arrivalShare;
    if (left !== undefined) lefts.push(left);
    if (left !== undefined && left >= RESERVE - WITHIN) kept++;
    else {
      const { wind, outbound } = plans[k]!.job.scenario;
      misses.push(
        `${plans[k]!.name} ${wind.speedMps}@${wind.fromDeg} out on ${outbound.bearingDeg}°: ${left === undefined ? 'never above home' : `${Math.round(100 * left)} % left above home`}; ${end.verdict}: ${end.reason} ${end.decisions.map((d) => `${Math.round(d.atS)} ${d.text}`).join(' ')}`,
      );
    }
  }
  lefts.sort((a, b) => a - b);
  return { kept: kept / count, medianLeft: lefts[Math.floor(lefts.length / 2)] ?? 0, misses };
}
