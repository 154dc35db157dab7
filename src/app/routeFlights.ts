import { createSelector } from '@reduxjs/toolkit';
import { routeScenario } from '#core/plan/routeFlown.ts';
import { makeProof, printOf } from '#core/proofs/proofs.ts';
import { sitePrint } from '#core/site/siteFile.ts';
import { proofTaken } from './store/craftSlice.ts';
import { routeFlown, routeRun } from './store/routesSlice.ts';
import { selectPlan, selectProofWorld, selectValues, toFly } from './store/selectors.ts';
import { type AppState, store } from './store/store.ts';
import { type Crew, crew } from './workers/crew.ts';

/** The route flown in the bench by the board's own firmware: as it is drawn, with the link kept or lost at a point. */

let running: Crew | null = null;

/** Print of all that a flown route rests on. */
export const routePrint = createSelector(
  [
    (s: AppState) => s.craft.airframe,
    selectValues,
    (s: AppState) => s.craft.file?.bench,
    (s: AppState) => s.rehearsal.scenario.wind,
    (s: AppState) => s.rehearsal.scenario.air,
    selectPlan,
    (s: AppState) => s.craft.file?.board.target,
    (s: AppState) => s.site.current,
  ],
  (airframe, values, built, wind, air, plan, target, site) =>
    printOf([airframe, values, built, wind, air, plan, target, site && sitePrint(site)]),
);

/** @param lostAt point at which the link is lost, from 1; null to keep it */
export async function flyRoute(lostAt: number | null): Promise<void> {
  const state = store.getState();
  const what = toFly(state);
  const world = selectProofWorld(state);
  if (!what || !world || state.routes.run.kind === 'flying') return;
  running?.stop();
  store.dispatch(routeRun({ kind: 'flying' }));
  const about = routePrint(state);
  const scenario = routeScenario(what.plan, what.site, state.rehearsal.scenario, lostAt);
  const points = what.plan.points.length;
  let flown = false;
  const crewed = crew(async (shop) => {
    if (flown) return false;
    flown = true;
    const outcome = await shop.flyRoute({ ...what, scenario });
    if (store.getState().crafts.id !== state.crafts.id) return false;
    if (outcome.kind === 'refused' || outcome.verdict === 'not-flown') {
      const why = outcome.kind === 'refused' ? outcome.why : outcome.reason;
      store.dispatch(routeRun({ kind: 'failed', why }));
      return false;
    }
    const { verdict, reason, seconds, shape, clearanceM, leftShare, track } = outcome;
    const home = verdict === 'home';
    store.dispatch(
      routeFlown({
        ...{ points, reached: shape.reached, offM: shape.offM, home, verdict, reason, seconds },
        ...{ clearanceM, leftShare, lostAt, track, about },
      }),
    );
    // With the link lost on the way it proves nothing of the rest of the route.
    if (lostAt === null) {
      const seen = {
        kind: 'route' as const,
        points,
        reached: shape.reached,
        home,
        offM: shape.offM,
        leftShare,
      };
      store.dispatch(proofTaken(makeProof(seen, world, new Date().toISOString())));
    }
    return false;
  }, 1);
  running = crewed;
  try {
    await crewed.done;
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    store.dispatch(routeRun({ kind: 'failed', why: `The flight stopped by a fault of ours: ${why}.` }));
  }
  if (running === crewed) running = null;
  if (store.getState().routes.run.kind === 'flying') store.dispatch(routeRun({ kind: 'none' }));
}

export function stopRoute(): void {
  running?.stop();
}
