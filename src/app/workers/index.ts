import { type Remote, wrap } from 'comlink';
import type { BenchApi, BenchState } from './bench.worker.ts';
import type { WorkshopApi } from './workshop.worker.ts';

export type { BenchControls } from '#bench/benchWorld.ts';
export type { Support } from '#bench/handling.ts';
export type { BenchState };

/** The simulated bench. */
export const bench: Remote<BenchApi> = wrap(
  new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }),
);

let started: Remote<WorkshopApi> | null = null;

/** Rehearsals and other heavy work; its worker starts with the first use. */
export function workshop(): Remote<WorkshopApi> {
  started ??= wrap<WorkshopApi>(
    new Worker(new URL('./workshop.worker.ts', import.meta.url), { type: 'module' }),
  );
  return started;
}
