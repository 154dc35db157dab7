import * as z from 'zod';

const scoreSchema = z.object({
  flights: z.number(),
  /** Percent. */
  verdictRight: z.number(),
  reasonRight: z.number(),
  falseHome: z.number(),
  /** Flown on for ten minutes after home, and lost then. */
  flownOn: z.number(),
  lost: z.number(),
});

/** What the last whole audit found (`npm run audit -- --write`), shipped with the application and shown by it. */
export const auditSchema = z.object({
  cases: scoreSchema,
  flights: scoreSchema,
  random: z.object({ flights: z.number(), invalid: z.number() }),
  returns: z.array(
    z.object({
      name: z.string(),
      flights: z.number(),
      /** Percent. */
      home: z.number(),
      flownOn: z.number(),
      lost: z.number(),
    }),
  ),
  checks: z.array(
    z.object({
      name: z.string(),
      source: z.string(),
      independent: z.number(),
      ours: z.number(),
      unit: z.string(),
      error: z.number(),
      bound: z.number(),
      holds: z.boolean(),
    }),
  ),
});
