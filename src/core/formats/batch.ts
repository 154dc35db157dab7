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
