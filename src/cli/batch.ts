import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Later, RehearsalInput } from '#bench/rehearsal.ts';
import { BatchQueue } from '#core/formats/batch.ts';
import {
  OTHER_SEEDS,
  type OtherSeed,
  type RehearsalResult,
  type Verdict,
} from '#core/formats/rehearsalResult.ts';
import type { Site } from '#core/site/site.ts';

/** A flight to be flown: all but the site, which all have alike. */
export interface FlightJob extends Omit<RehearsalInput, 'site' | 'log'> {
  /** Fly on for so long after a verdict of home, s. */
  readonly flyOnS?: number;
}

/** How a flight ended. */
export interface FlightEnd extends Omit<RehearsalResult, 'track' | 'lostLink' | 'others'> {
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
  /** Until nothing could change its verdict any more. */
  readonly seconds: number;
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
  const { scenario, site, airframe, board, values, truth, plan } = input;
  const craft = { airframe, board, values, truth, plan };
  const queue = new BatchQueue(scenario);
  const outcomes = new Array<BatchOutcome>(queue.total);
  let done = 0;
  await flyFrom(
    site,
    () => {
      const flight = queue.next();
      if (!flight) return null;
      const { index, ...how } = flight;
      return { index, job: { ...craft, ...how } };
    },
    (index, { verdict, reason, seconds, usedWh }) => {
      queue.ended(index, verdict);
      const { wind, seed } = queue.scenarios[index]!;
      const { fromDeg, speedMps } = wind;
      outcomes[index] = { fromDeg, speedMps, seed, verdict, reason, seconds, usedWh };
      onFlown(++done, queue.total);
    },
    Math.min(workers, queue.total),
  );
  return outcomes;
}

/** The same flight with the seeds that follow its own, to tell luck from a craft that can. */
export async function otherSeeds(
  input: RehearsalInput,
  workers = availableParallelism(),
): Promise<OtherSeed[]> {
  const { scenario, site, log: _, ...craft } = input;
  const seeds = Array.from({ length: OTHER_SEEDS }, (_, i) => (scenario.seed + i + 1) >>> 0);
  const jobs = seeds.map((seed) => ({
    ...craft,
    scenario: { ...scenario, seed },
    endsEarly: 'circling' as const,
  }));
  const ends = await flyAll(site, jobs, workers);
  return ends.map(({ verdict, reason }, i) => ({ seed: seeds[i]!, verdict, reason }));
}

/** Flies many flights on worker threads; results in the order of the jobs. */
export async function flyAll(
  site: Site,
  jobs: readonly FlightJob[],
  workers = availableParallelism(),
  onFlown: (done: number, total: number) => void = () => {},
): Promise<FlightEnd[]> {
  const results = new Array<FlightEnd>(jobs.length);
  let next = 0;
  let done = 0;
  await flyFrom(
    site,
    () => (next < jobs.length ? { index: next, job: jobs[next++]! } : null),
    (index, end) => {
      results[index] = end;
      onFlown(++done, jobs.length);
    },
    Math.min(workers, jobs.length),
  );
  return results;
}

/** Flies what it is given, one flight after the other on each thread, until there is no more. */
async function flyFrom(
  site: Site,
  next: () => { readonly index: number; readonly job: FlightJob } | null,
  ended: (index: number, end: FlightEnd) => void,
  workers: number,
): Promise<void> {
  const work = () =>
    new Promise<void>((resolve, reject) => {
      const worker = new Worker(BOOT, {
        eval: true,
        workerData: { loader: LOADER, module: WORKER, site },
      });
      const send = () => {
        const flight = next();
        if (flight) worker.postMessage(flight);
        else void worker.terminate().then(() => resolve());
      };
      worker.on('message', ({ index, end }: { index: number; end: FlightEnd }) => {
        ended(index, end);
        send();
      });
      worker.on('error', reject);
      send();
    });
  const count = Math.max(1, Math.min(workers, MOST_WORKERS));
  await Promise.all(Array.from({ length: count }, work));
}
