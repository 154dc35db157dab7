import { type Remote, wrap } from 'comlink';
import type { WorkshopApi } from './workshop.worker.ts';

const MOST_WORKERS = 4;

/** Several workshops at once, for flights by the hundred; they end with the work, or when it is stopped. */
export interface Crew {
  /** Each takes one piece of work after the other until `work` says that there is no more, or until it is stopped. Rejects with a fault of ours. */
  readonly done: Promise<void>;
  stop(): void;
}

/**
 * @param work one piece in one worker; false when there is nothing left to do
 * @param most so many workers at most
 */
export function crew(
  work: (shop: Remote<WorkshopApi>) => Promise<boolean>,
  most: number = MOST_WORKERS,
): Crew {
  const count = Math.max(1, Math.min(most, navigator.hardwareConcurrency || 2));
  const workers = Array.from(
    { length: count },
    () => new Worker(new URL('./workshop.worker.ts', import.meta.url), { type: 'module' }),
  );
  let stopped = false;
  let ended = () => {};
  // What a worker that was ended still owes never comes.
  const over = new Promise<void>((resolve) => {
    ended = resolve;
  });
  const stop = () => {
    stopped = true;
    for (const w of workers) w.terminate();
    ended();
  };
  const each = async (w: Worker) => {
    const shop = wrap<WorkshopApi>(w);
    while (!stopped && (await work(shop)));
  };
  const all = Promise.all(workers.map(each)).then(stop);
  return { done: Promise.race([all, over]), stop };
}
