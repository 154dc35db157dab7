import * as z from 'zod';
import { failCellSchema } from '#core/fails/failCell.ts';
import { rehearsalResultSchema, verdicts } from '#core/formats/rehearsalResult.ts';
import { parsed } from '#core/parsed.ts';
import { proofSchema } from '#core/proofs/proofs.ts';
import type { AppState } from '../store/store.ts';

/** The flown flights of a craft, kept beside it: they are many times its size and change seldom. */

const keptSchema = z.object({
  result: rehearsalResultSchema.nullable().catch(null),
  beside: z
    .array(z.object({ id: z.number().int(), name: z.string().max(80), result: rehearsalResultSchema }))
    .max(10)
    .catch([]),
  batch: z
    .object({
      flights: z
        .array(
          z.object({
            fromDeg: z.number(),
            speedMps: z.number(),
            seed: z.number(),
            verdict: z.enum(verdicts),
            reason: z.string(),
            seconds: z.number(),
          }),
        )
        .max(5000),
      total: z.number().int().min(0),
      proof: proofSchema.nullable(),
    })
    .nullable()
    .catch(null),
  /** Left out by what was kept before there were any. */
  fails: z.array(failCellSchema).max(200).catch([]),
});
export type KeptFlights = z.infer<typeof keptSchema>;

/** What is kept of them; null where nothing is, or nothing that can be read. */
export function readFlights(raw: unknown): KeptFlights | null {
  return raw === undefined ? null : (parsed(keptSchema, raw).data ?? null);
}

/** Flights as they are now. */
export function flightsOf({ rehearsal, batch, fails }: AppState): unknown {
  const { flights, total, proof } = batch;
  return {
    result: rehearsal.result,
    beside: rehearsal.kept,
    batch: { flights, total, proof },
    fails: Object.values(fails.cells),
  };
}
