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
  // The track of each of hundreds of flights is not sent.
  const { track: _, lostLink: __, ...end } = rehearsal.result!;
  const later = flyOnS > 0 && end.verdict === 'home' ? { later: rehearsal.flyOn(flyOnS) } : {};
  const told: FlightEnd = { ...end, ...later };
  parentPort!.postMessage({ index, end: told });
});
