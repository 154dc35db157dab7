import { parentPort, workerData } from 'node:worker_threads';
import { Rehearsal } from '#bench/rehearsal.ts';
import { interned } from '#core/airframe/interned.ts';
import type { Site } from '#core/site/site.ts';
import type { FlightEnd, FlightJob } from './batch.ts';

/** Flies the flights it is sent, one after the other. */
const { site } = workerData as { site: Site };

parentPort!.on('message', ({ index, job }: { index: number; job: FlightJob }) => {
  const { flyOnS = 0, ...input } = job;
  const rehearsal = new Rehearsal({ ...input, airframe: interned(input.airframe), site });
  while (!rehearsal.advance(10_000));
  const {
    verdict,
    reason,
    cause,
    settings,
    seconds,
    endDistanceM,
    closestM,
    usedWh,
    near,
    margins,
    decisions,
  } = rehearsal.result!;
  const later = flyOnS > 0 && verdict === 'home' ? { later: rehearsal.flyOn(flyOnS) } : {};
  const end: FlightEnd = {
    verdict,
    reason,
    cause,
    settings,
    seconds,
    endDistanceM,
    closestM,
    usedWh,
    near,
    margins,
    decisions,
    ...later,
  };
  parentPort!.postMessage({ index, end });
});
