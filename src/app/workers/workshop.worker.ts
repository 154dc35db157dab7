import { expose } from 'comlink';
import { Rehearsal } from '#bench/rehearsal.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { parseAsciiGrid } from '#core/formats/asciiGrid.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import { parseScenario, type Scenario } from '#core/formats/scenario.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { type StartingValue, startingValues } from '#core/settings/startingValues.ts';
import torvholmText from '#demo/terrain/torvholm.asc?raw';
import { pfadCatalogue } from '#firmware/catalogue.ts';

/** Heavy work off the main thread: rehearsals and starting values. */

const terrain = parseAsciiGrid(torvholmText);
const SLICE_STEPS = 20_000;

export type FlightOutcome =
  | { readonly kind: 'flown'; readonly result: RehearsalResult }
  | { readonly kind: 'cancelled'; readonly seconds: number }
  | { readonly kind: 'refused'; readonly why: string };

let cancelled = false;

const api = {
  startingValues(airframe: Airframe): StartingValue[] {
    return startingValues(airframe).filter((s) => pfadCatalogue.checkValue(s.key, s.value) === null);
  },

  cancel(): void {
    cancelled = true;
  },

  /** Flies a rehearsal in slices, so that it can be stopped. */
  async fly(
    airframe: Airframe,
    values: Values,
    truth: BenchTruth | null,
    scenario: Scenario,
    onProgress: (seconds: number, rate: number) => void,
  ): Promise<FlightOutcome> {
    cancelled = false;
    const checked = parseScenario(scenario, terrain);
    if (!checked.ok) return { kind: 'refused', why: checked.why };
    const complete = { ...pfadCatalogue.defaults(), ...values };
    const refusal = pfadCatalogue.check(complete)[0];
    if (refusal) return { kind: 'refused', why: `The board would refuse these settings: ${refusal.why}` };
    const rehearsal = new Rehearsal({
      airframe,
      values: complete,
      truth: truth ?? truthFromSettings(airframe, complete),
      scenario: checked.scenario,
      terrain,
    });
    const start = performance.now();
    while (!rehearsal.advance(SLICE_STEPS)) {
      if (cancelled) return { kind: 'cancelled', seconds: rehearsal.seconds };
      onProgress(rehearsal.seconds, (1000 * rehearsal.seconds) / (performance.now() - start));
      await new Promise((resolve) => setTimeout(resolve, 0));
    }
    return { kind: 'flown', result: rehearsal.result! };
  },
};

export type WorkshopApi = typeof api;
expose(api);
