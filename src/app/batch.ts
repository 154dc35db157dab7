import { type Remote, wrap } from 'comlink';
import { BatchQueue, usualBatch } from '#core/formats/batch.ts';
import { changedSince, makeProof } from '#core/proofs/proofs.ts';
import { batchBegun, batchEnded, batchFlown, batchResumed } from './store/batchSlice.ts';
import { proofTaken } from './store/craftSlice.ts';
import { selectProofWorld, toFly } from './store/selectors.ts';
import { type AppState, store } from './store/store.ts';
import type { WorkshopApi } from './workers/workshop.worker.ts';

/** Flies one scenario in many winds, in as many workers as the machine has to spare. */

const MOST_WORKERS = 4;
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
  const before = goOn && canResume(state) ? state.batch : null;
  const queue = new BatchQueue(state.rehearsal.scenario, usualBatch, before?.flights);
  const { total } = queue;
  const proof =
    before?.proof ?? makeProof({ kind: 'winds', home: 0, total }, world, new Date().toISOString());
  store.dispatch(before ? batchResumed() : batchBegun({ total, proof }));
  const count = Math.max(1, Math.min(MOST_WORKERS, navigator.hardwareConcurrency || 2));
  const workers = Array.from(
    { length: count },
    () => new Worker(new URL('./workers/workshop.worker.ts', import.meta.url), { type: 'module' }),
  );
  let stopped = false;
  const end = (kind: 'none' | 'cancelled') => {
    for (const w of workers) w.terminate();
    if (store.getState().batch.run.kind === 'flying') store.dispatch(batchEnded({ kind }));
    stop = null;
  };
  stop = () => {
    stopped = true;
    end('cancelled');
  };
  const work = async (shop: Remote<WorkshopApi>) => {
    for (let next = queue.next(); next && !stopped; next = queue.next()) {
      const { index, scenario, endsEarly } = next;
      const outcome = await shop.flyToVerdict({ ...what, scenario }, endsEarly);
      if (stopped) return;
      if (outcome.kind === 'refused') {
        stopped = true;
        store.dispatch(batchEnded({ kind: 'failed', why: outcome.why }));
        return;
      }
      const { seed, wind } = scenario;
      const { fromDeg, speedMps } = wind;
      const { verdict, reason, seconds } = outcome;
      queue.ended(index, verdict);
      store.dispatch(batchFlown({ fromDeg, speedMps, seed, verdict, reason, seconds }));
    }
  };
  try {
    await Promise.all(workers.map((w) => work(wrap<WorkshopApi>(w))));
    const { flights } = store.getState().batch;
    const home = flights.filter((f) => f.verdict === 'home').length;
    if (!stopped && flights.length === total)
      store.dispatch(proofTaken({ ...proof, seen: { kind: 'winds', home, total } }));
    end('none');
  } catch (error) {
    stopped = true;
    const why = error instanceof Error ? error.message : String(error);
    store.dispatch(batchEnded({ kind: 'failed', why: `The batch stopped by a fault of ours: ${why}.` }));
    end('none');
  }
}

export function stopBatch(): void {
  stop?.();
}
