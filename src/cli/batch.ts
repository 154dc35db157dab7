import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { RehearsalInput } from '#bench/rehearsal.ts';
import { batchScenarios } from '#core/formats/batch.ts';
import type { Verdict } from '#core/formats/rehearsalResult.ts';
import type { Scenario } from '#core/formats/scenario.ts';

/** How one flight of a batch ended. */
export interface BatchOutcome {
  readonly fromDeg: number;
  readonly speedMps: number;
  readonly seed: number;
  readonly verdict: Verdict;
  readonly reason: string;
  readonly seconds: number;
  readonly closestM: number;
  readonly usedWh: number;
}

const MOST_WORKERS = 8;
/** A thread begins without the loader that reads our sources, so it is given that first. */
const BOOT = `
const { workerData } = require('node:worker_threads');
import(workerData.loader).then((m) => {
  m.register();
  return import(workerData.module);
});`;
const LOADER = import.meta.resolve('tsx/esm/api');
const WORKER = new URL('./batchWorker.ts', import.meta.url).href;

/** Flies a scenario in every wind of the usual batch, on worker threads. Results in the order of the batch. */
export async function rehearseBatch(
  input: RehearsalInput,
  workers = availableParallelism(),
  onFlown: (done: number, total: number) => void = () => {},
): Promise<BatchOutcome[]> {
  const { scenario, ...fixed } = input;
  const scenarios = batchScenarios(scenario);
  return flyAll(fixed, scenarios, workers, onFlown);
}

/** Flies many scenarios of one craft on worker threads. */
export async function flyAll(
  fixed: Omit<RehearsalInput, 'scenario'>,
  scenarios: readonly Scenario[],
  workers: number,
  onFlown: (done: number, total: number) => void = () => {},
): Promise<BatchOutcome[]> {
  const results = new Array<BatchOutcome>(scenarios.length);
  let next = 0;
  let done = 0;
  const work = () =>
    new Promise<void>((resolve, reject) => {
      const worker = new Worker(BOOT, {
        eval: true,
        workerData: { loader: LOADER, module: WORKER, fixed },
      });
      const send = () => {
        if (next >= scenarios.length) {
          void worker.terminate().then(() => resolve());
          return;
        }
        const index = next++;
        worker.postMessage({ index, scenario: scenarios[index] });
      };
      worker.on(
        'message',
        ({ index, ...rest }: { index: number } & Omit<BatchOutcome, 'fromDeg' | 'speedMps' | 'seed'>) => {
          const s = scenarios[index]!;
          results[index] = { fromDeg: s.wind.fromDeg, speedMps: s.wind.speedMps, seed: s.seed, ...rest };
          onFlown(++done, scenarios.length);
          send();
        },
      );
      worker.on('error', reject);
      send();
    });
  const count = Math.max(1, Math.min(workers, MOST_WORKERS, scenarios.length));
  await Promise.all(Array.from({ length: count }, work));
  return results;
}
