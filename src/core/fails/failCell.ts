import * as z from 'zod';
import { verdicts } from '../formats/rehearsalResult.ts';
import { faultIds, phaseIds } from './ids.ts';

/** A setting's value, as edits have them. */
const editsSchema = z.record(z.string().max(60), z.union([z.number(), z.boolean(), z.string().max(60)]));

/** How a pair of fault and phase ended, what the board did, and what would have saved it. */
export const failCellSchema = z.strictObject({
  fault: z.enum(faultIds),
  phase: z.enum(phaseIds),
  /** Print of all that its flight rests on. */
  print: z.string().max(16),
  verdict: z.enum(verdicts),
  reason: z.string().max(600),
  seconds: z.number(),
  /** What the board decided from the fault on, by seconds of the flight. */
  decisions: z.array(z.object({ atS: z.number(), text: z.string().max(300) })).max(60),
  /** A change that was flown and came home. */
  saved: z.object({ label: z.string().max(200), edits: editsSchema }).optional(),
});
export type FailCell = z.infer<typeof failCellSchema>;

/** Name of a pair. */
export const pairOf = (c: Pick<FailCell, 'fault' | 'phase'>): string => `${c.fault}/${c.phase}`;
