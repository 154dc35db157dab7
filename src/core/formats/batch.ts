import type { Verdict } from './rehearsalResult.ts';
import type { Scenario } from './scenario.ts';

/** One place of a batch: where the wind comes from, how strong it is, which gusts. */
export interface BatchPlan {
  readonly directionsDeg: readonly number[];
  readonly strengthsMps: readonly number[];
  readonly seeds: readonly number[];
}

export const usualBatch: BatchPlan = {
  directionsDeg: Array.from({ length: 16 }, (_, i) => i * 22.5),
  strengthsMps: [2, 5, 8, 10, 12],
  seeds: [1, 2, 3],
};

/**
 * How early a flight may be called home where nothing can change that any more: when it circles there, or on its level
 * way there, which is only for settings that have closed their circles in a stronger wind from the same side.
 */
export type EndsEarly = 'circling' | 'homeward';

export interface BatchFlight {
  /** Place in the order direction, strength, seed. */
  readonly index: number;
  readonly scenario: Scenario;
  readonly endsEarly: EndsEarly;
}

/** A flight of a batch by its place and end. */
export interface FlownBefore {
  readonly fromDeg: number;
  readonly speedMps: number;
  readonly seed: number;
  readonly verdict: Verdict;
}

/** The scenarios of a batch: one scenario in every wind, in the order direction, strength, seed. */
export function batchScenarios(base: Scenario, plan: BatchPlan = usualBatch): Scenario[] {
  return plan.directionsDeg.flatMap((fromDeg) =>
    plan.strengthsMps.flatMap((speedMps) =>
      plan.seeds.map((seed) => ({
        ...base,
        seed,
        wind: { speedMps, fromDeg, gustMps: Math.min(10, 0.2 * speedMps) },
      })),
    ),
  );
}

/**
 * Hands out the flights of a batch, the strongest winds first: where all of those came home from a side, weaker winds
 * from there need not be watched to their circles. The verdicts do not depend on the order in which flights end.
 */
export class BatchQueue {
  readonly scenarios: readonly Scenario[];
  private readonly waiting: number[];
  private readonly verdicts: (Verdict | undefined)[];

  /** @param flown verdicts of flights of the same batch that were flown before it was stopped */
  constructor(base: Scenario, plan: BatchPlan = usualBatch, flown: readonly FlownBefore[] = []) {
    this.scenarios = batchScenarios(base, plan);
    this.verdicts = new Array(this.scenarios.length);
    const strength = (i: number) => this.scenarios[i]!.wind.speedMps;
    for (const f of flown) {
      const index = this.scenarios.findIndex(
        (s) => s.wind.fromDeg === f.fromDeg && s.wind.speedMps === f.speedMps && s.seed === f.seed,
      );
      if (index >= 0) this.verdicts[index] = f.verdict;
    }
    this.waiting = this.scenarios
      .map((_, i) => i)
      .filter((i) => this.verdicts[i] === undefined)
      .sort((a, b) => strength(b) - strength(a) || a - b);
  }

  get total(): number {
    return this.scenarios.length;
  }

  /** The next to be flown; null when all have been handed out. */
  next(): BatchFlight | null {
    const index = this.waiting.shift();
    if (index === undefined) return null;
    const scenario = this.scenarios[index]!;
    return { index, scenario, endsEarly: this.circledIn(scenario.wind) ? 'homeward' : 'circling' };
  }

  ended(index: number, verdict: Verdict): void {
    this.verdicts[index] = verdict;
  }

  /** All that the next stronger wind from the same side brought came home. */
  private circledIn({ fromDeg, speedMps }: Scenario['wind']): boolean {
    const stronger = this.scenarios.flatMap(({ wind }, i) =>
      wind.fromDeg === fromDeg && wind.speedMps > speedMps
        ? [{ at: wind.speedMps, verdict: this.verdicts[i] }]
        : [],
    );
    const least = Math.min(...stronger.map((s) => s.at));
    return stronger.length > 0 && stronger.every((s) => s.at !== least || s.verdict === 'home');
  }
}
