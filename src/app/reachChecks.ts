import { makeProof, printOf } from '#core/proofs/proofs.ts';
import { cameHome, checkScenario } from '#core/reach/checks.ts';
import { CLEARLY } from '#core/reach/homeMarch.ts';
import type { ReachInput } from '#core/reach/reachMap.ts';
import { proofTaken } from './store/craftSlice.ts';
import { checkFlown, checksBegun, checksEnded, type FlownCheck } from './store/reachSlice.ts';
import { selectProofWorld, toFly } from './store/selectors.ts';
import { store } from './store/store.ts';
import { crew } from './workers/crew.ts';
import { workshop } from './workers/index.ts';

/** Rehearses from pairs of places along the border of the reach, one inside and one outside, to see whether it is right. */

export const PAIRS = 12;
let stop: (() => void) | null = null;

/** @param asked the reach as it is drawn. @param share of the square that it comes home from */
export async function flyChecks(asked: ReachInput, share: number): Promise<void> {
  const state = store.getState();
  const what = toFly(state);
  const world = selectProofWorld(state);
  if (!what || !world || state.reach.run.kind === 'flying') return;
  // One of a craft that was left flies on unseen: its words are not of this one.
  stop?.();
  const { circumstances: c } = asked;
  const seen = { kind: 'reach' as const, right: 0, flown: 2 * PAIRS, share, batteryShare: c.batteryShare };
  const proof = makeProof(seen, world, new Date().toISOString());
  const about = printOf([asked.airframe, c]);
  store.dispatch(checksBegun({ total: 2 * PAIRS, proof, about }));
  const waiting = await workshop().reachPairs(asked, PAIRS, state.rehearsal.scenario.seed);
  let at = 0;
  const crewed = crew(async (shop) => {
    const check = waiting[at++];
    if (!check) return false;
    const scenario = checkScenario(check, c, what.site, at);
    const outcome = await shop.flyToVerdict({ ...what, airframe: asked.airframe, scenario }, 'circling');
    if (outcome.kind === 'refused') {
      end({ kind: 'failed', why: outcome.why });
      return false;
    }
    const { verdict, reason, batteryShare } = outcome;
    if (verdict === 'not-flown') {
      end({ kind: 'failed', why: `${reason} So nothing was flown: the map is of the craft once it flies.` });
      return false;
    }
    const home = cameHome({ verdict, margins: { batteryShare } }, c);
    if (store.getState().reach.run.kind === 'flying')
      store.dispatch(checkFlown({ ...check, home, verdict, reason, batteryShare }));
    return true;
  });
  const end = (how: Parameters<typeof checksEnded>[0]) => {
    crewed.stop();
    stop = null;
    if (store.getState().reach.run.kind === 'flying') store.dispatch(checksEnded(how));
  };
  stop = () => end({ kind: 'none' });
  try {
    await crewed.done;
    const { checks, run } = store.getState().reach;
    const right = checks.filter(agrees).length;
    // With another mass than the craft's own it proves nothing of the craft.
    const own = asked.airframe === what.airframe;
    if (run.kind === 'flying' && own && checks.length === waiting.length)
      store.dispatch(proofTaken({ ...proof, seen: { ...seen, right, flown: checks.length } }));
    end({ kind: 'none' });
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    end({ kind: 'failed', why: `The flights stopped by a fault of ours: ${why}.` });
  }
}

export function stopChecks(): void {
  stop?.();
}

/**
 * The flight ended as the map says. Just beyond the border it says nothing, and beyond a fence only that it is one: coming home
 * from there is no fault.
 */
export const agrees = (f: Pick<FlownCheck, 'margin' | 'limit' | 'home'>): boolean =>
  f.margin >= 0 ? f.home : f.margin >= -CLEARLY || f.limit === 'fence' || !f.home;
