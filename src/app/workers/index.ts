import { type Remote, wrap } from 'comlink';
import { store } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import type { BenchApi, BenchState } from './bench.worker.ts';
import type { WorkshopApi } from './workshop.worker.ts';

export type { BenchControls } from '#bench/benchWorld.ts';
export type { Support } from '#bench/handling.ts';
export type { BenchState };

/** A worker's fault that nobody waited for is told: what it did is gone, what is kept is not. */
function told(worker: Worker, what: string): Worker {
  worker.addEventListener('error', (e) => {
    e.preventDefault();
    const workerFault = `A fault of ours stopped ${what} (${e.message || 'it could not be loaded'}). Your craft is kept; reload the page to go on with it.`;
    store.dispatch(uiChanged({ workerFault }));
  });
  return worker;
}

/** The simulated bench. */
export const bench: Remote<BenchApi> = wrap(
  told(new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }), 'the bench'),
);

let started: Remote<WorkshopApi> | null = null;

/** Rehearsals and other heavy work; its worker starts with the first use. */
export function workshop(): Remote<WorkshopApi> {
  started ??= wrap<WorkshopApi>(
    told(
      new Worker(new URL('./workshop.worker.ts', import.meta.url), { type: 'module' }),
      'the workshop, which flies and computes',
    ),
  );
  return started;
}
