import type { Airframe } from '#core/airframe/airframe.ts';
import { interned } from '#core/airframe/interned.ts';
import type { BoardModel } from '#core/board/model.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { parseScenario, type Scenario } from '#core/formats/scenario.ts';
import type { FlightPlan } from '#core/plan/plan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';

/** What is to be flown, as the store has it. */
export interface ToFly {
  readonly airframe: Airframe;
  readonly site: Site;
  /** Target of the board that the craft is for. */
  readonly target: string;
  /** What it is made of; null where nobody knows. */
  readonly board: BoardModel | null;
  readonly values: Values;
  /** How the craft is built; null to take it as its settings say. */
  readonly truth: BenchTruth | null;
  readonly scenario: Scenario;
  /** Route and fences on its board. */
  readonly plan: FlightPlan;
}

/** Everything a rehearsal needs, or the sentence that says why it cannot be flown. */
export function prepare({ airframe, site, target, board, values, truth, scenario, plan }: ToFly) {
  if (!board)
    return `The craft is for a board "${target}", which is not known here, so it cannot be flown in the bench. Choose another board at Wiring.`;
  const checked = parseScenario(scenario, site);
  if (!checked.ok) return checked.why;
  const complete = { ...pfadCatalogue.defaults(), ...values };
  const refusal = pfadCatalogue.check(complete)[0];
  if (refusal) return `The board would refuse these settings: ${refusal.why}`;
  return {
    airframe: interned(airframe),
    board,
    values: complete,
    truth: truth ?? truthFromSettings(airframe, complete),
    scenario: checked.scenario,
    site,
    plan,
  };
}
