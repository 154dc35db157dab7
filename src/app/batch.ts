import { BatchQueue, usualBatch } from '#core/formats/batch.ts';
import { changedSince, makeProof } from '#core/proofs/proofs.ts';
import { batchBegun, batchEnded, batchFlown, batchResumed } from './store/batchSlice.ts';
import { proofTaken } from './store/craftSlice.ts';
import { selectProofWorld, toFly } from './store/selectors.ts';
import { type AppState, store } from './store/store.ts';
import { crew } from './workers/crew.ts';

/** Flies one scenario in many winds, in as many workers as the machine has to spare. */

let stop: (() => void) | null = null;

/** Whether a batch that was stopped can go on: what it rests on is as it was. */
export function canResume(state: AppState): boolean {
  const world = selectProofWorld(state);
  const { run, flights, total, proof } = state.batch;
  const stopped = run.kind === 'cancelled' || run.kind === 'failed';
  return stopped && flights.length < total && !!world && !!proof && changedSince(proof, world).length === 0;
}

/** @param goOn flies what a stopped batch did not, where that is still the same one */
export async function flyBatch(goOn = false): Promise<void> {
  const state = store.getState();
  const what = toFly(state);
  const world = selectProofWorld(state);
  if (!what || !world || state.batch.run.kind === 'flying') return;
  // One of a craft that was left flies on unseen: its words are not of this one.
  stop?.();
  const before = goOn && canResume(state) ? state.batch : null;
  const queue = new BatchQueue(state.rehearsal.scenario, usualBatch, before?.flights);
  const { total } = queue;
  const proof =
    before?.proof ?? makeProof({ kind: 'winds', home: 0, total }, world, new Date().toISOString());
  store.dispatch(before ? batchResumed() : batchBegun({ total, proof }));
  const crewed = crew(async (shop) => {
    const next = queue.next();
    if (!next) return false;
    const { index, scenario, endsEarly } = next;
    const outcome = await shop.flyToVerdict({ ...what, scenario }, endsEarly);
    if (outcome.kind === 'refused') {
      end({ kind: 'failed', why: outcome.why });
      return false;
    }
    const { seed, wind } = scenario;
    const { fromDeg, speedMps } = wind;
    const { verdict, reason, seconds } = outcome;
    queue.ended(index, verdict);
    if (store.getState().batch.run.kind === 'flying')
      store.dispatch(batchFlown({ fromDeg, speedMps, seed, verdict, reason, seconds }));
    return true;
  });
  const end = (how: Parameters<typeof batchEnded>[0]) => {
    crewed.stop();
    stop = null;
    if (store.getState().batch.run.kind === 'flying') store.dispatch(batchEnded(how));
  };
  stop = () => end({ kind: 'cancelled' });
  try {
    await crewed.done;
    const { flights, run } = store.getState().batch;
    const home = flights.filter((f) => f.verdict === 'home').length;
    if (run.kind === 'flying' && flights.length === total)
      store.dispatch(proofTaken({ ...proof, seen: { kind: 'winds', home, total } }));
    end({ kind: 'none' });
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    end({ kind: 'failed', why: `The batch stopped by a fault of ours: ${why}.` });
  }
}

export function stopBatch(): void {
  stop?.();
}
