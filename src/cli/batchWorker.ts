import { parentPort, workerData } from 'node:worker_threads';
import { type RehearsalInput, rehearse } from '#bench/rehearsal.ts';
import type { Scenario } from '#core/formats/scenario.ts';

/** Flies the scenarios it is sent, one after the other. */
const { fixed } = workerData as { fixed: Omit<RehearsalInput, 'scenario'> };

parentPort!.on('message', ({ index, scenario }: { index: number; scenario: Scenario }) => {
  const { verdict, reason, seconds, closestM, usedWh } = rehearse({ ...fixed, scenario });
  parentPort!.postMessage({ index, verdict, reason, seconds, closestM, usedWh });
});
