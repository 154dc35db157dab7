import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Later, RehearsalInput } from '#bench/rehearsal.ts';
import type { Terrain } from '#core/flight/terrain.ts';
import { batchScenarios } from '#core/formats/batch.ts';
import {
  OTHER_SEEDS,
  type OtherSeed,
  type RehearsalResult,
  type Verdict,
} from '#core/formats/rehearsalResult.ts';

/** A flight to be flown: all but the ground, which all have alike. */
export interface FlightJob extends Omit<RehearsalInput, 'terrain' | 'log'> {
  /** Fly on for so long after a verdict of home, s. */
  readonly flyOnS?: number;
}

/** How a flight ended. */
export interface FlightEnd
  extends Pick<
    RehearsalResult,
    'verdict' | 'reason' | 'cause' | 'settings' | 'seconds' | 'endDistanceM' | 'closestM' | 'usedWh' | 'near'
  > {
  /** What became of it afterwards, where it was flown on. */
  readonly later?: Later;
}

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
  const { scenario, terrain, airframe, board, values, truth } = input;
  const craft = { airframe, board, values, truth };
  const jobs = batchScenarios(scenario).map((s) => ({ ...craft, scenario: s, soon: true }));
  const ends = await flyAll(terrain, jobs, workers, onFlown);
  return ends.map(({ verdict, reason, seconds, closestM, usedWh }, i) => {
    const { wind, seed } = jobs[i]!.scenario;
    const { fromDeg, speedMps } = wind;
    return { fromDeg, speedMps, seed, verdict, reason, seconds, closestM, usedWh };
  });
}

/** The same flight with the seeds that follow its own, to tell luck from a craft that can. */
export async function otherSeeds(
  input: RehearsalInput,
  workers = availableParallelism(),
): Promise<OtherSeed[]> {
  const { scenario, terrain, airframe, board, values, truth } = input;
  const seeds = Array.from({ length: OTHER_SEEDS }, (_, i) => (scenario.seed + i + 1) >>> 0);
  const jobs = seeds.map((seed) => ({
    airframe,
    board,
    values,
    truth,
    scenario: { ...scenario, seed },
    soon: true,
  }));
  const ends = await flyAll(terrain, jobs, workers);
  return ends.map(({ verdict, reason }, i) => ({ seed: seeds[i]!, verdict, reason }));
}

/** Flies many flights on worker threads; results in the order of the jobs. */
export async function flyAll(
  terrain: Terrain,
  jobs: readonly FlightJob[],
  workers = availableParallelism(),
  onFlown: (done: number, total: number) => void = () => {},
): Promise<FlightEnd[]> {
  const results = new Array<FlightEnd>(jobs.length);
  let next = 0;
  let done = 0;
  const work = () =>
    new Promise<void>((resolve, reject) => {
      const worker = new Worker(BOOT, {
        eval: true,
        workerData: { loader: LOADER, module: WORKER, terrain },
      });
      const send = () => {
        if (next >= jobs.length) {
          void worker.terminate().then(() => resolve());
          return;
        }
        const index = next++;
        worker.postMessage({ index, job: jobs[index] });
      };
      worker.on('message', ({ index, end }: { index: number; end: FlightEnd }) => {
        results[index] = end;
        onFlown(++done, jobs.length);
        send();
      });
      worker.on('error', reject);
      send();
    });
  const count = Math.max(1, Math.min(workers, MOST_WORKERS, jobs.length));
  await Promise.all(Array.from({ length: count }, work));
  return results;
}
