import type { Airframe } from '#core/airframe/airframe.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { Random } from '#core/math/random.ts';
import { wrapBearingDeg } from '#core/math/scalar.ts';
import type { Site } from '#core/site/site.ts';
import { Pfad } from '#firmware/pfad.ts';
import { isPfadVersion, runningValues } from '#firmware/releases.ts';
import type { BenchBoard } from './benchBoard.ts';
import { rehearse } from './rehearsal.ts';

/** A day out with the craft on the bench: what is on its board is flown, and the flight stands on the board's store. */

/** A day is so much unlike what was thought of it: share of the wind, degrees of its direction. */
const WIND_OFF = 0.25;
const DIRECTION_OFF_DEG = 20;

/** The day as it turns out to be: another for each flight, the same whenever that one is flown. */
export function dayOf(thought: Scenario, flight: number): Scenario {
  const random = new Random(7919 * flight + thought.seed);
  const off = () => 2 * random.uniform() - 1;
  return {
    ...thought,
    seed: thought.seed + 31 * flight,
    wind: {
      ...thought.wind,
      speedMps: thought.wind.speedMps * (1 + WIND_OFF * off()),
      fromDeg: wrapBearingDeg(thought.wind.fromDeg + DIRECTION_OFF_DEG * off()),
    },
  };
}

/**
 * Flies a board that has no power now.
 * @returns how it ended, or why it cannot be flown, as a sentence
 */
export function flyBoard(
  board: BenchBoard,
  airframe: Airframe,
  truth: BenchTruth,
  thought: Scenario,
  site: Site,
): RehearsalResult | string {
  const version = board.image.startable ? board.image.plan!.version : '';
  if (!isPfadVersion(version)) return 'There is no firmware on the board that could fly it.';
  // It is switched on for a moment, to see what it holds.
  const held = new Pfad(board.model, board.flash, board.serial, 'power on', null, version, board.planFlash);
  const before = board.log.list().at(-1)?.flight ?? 0;
  const flown = rehearse({
    ...{ airframe, board: board.model, truth, site, log: board.log },
    values: runningValues(version, held.values),
    plan: held.plans.plan,
    scenario: dayOf(thought, before + 1),
  });
  // Whoever has it above home takes over and lands; of one that came down otherwise the log ends where its power did.
  if (flown.verdict === 'home') board.log.disarmed();
  else board.log.cut();
  return flown;
}
