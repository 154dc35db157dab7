import * as z from 'zod';

/** What was last known of a craft that did not come back: by telemetry, a log, or what somebody remembers. SI, rad. */
export const lastSeenSchema = z.object({
  lat: z.number().min(-90).max(90),
  lon: z.number().min(-180).max(180),
  /** Above the sea. */
  heightM: z.number().min(-100).max(9000),
  /** How well the place is known, one sigma. */
  accuracyM: z.number().min(0.5).max(2000),
  /** Over the ground, from north by east. */
  courseRad: z.number().min(-7).max(7),
  speedMps: z.number().min(0).max(120),
  climbMps: z.number().min(-60).max(60),
  /** Where the wind comes from and how strong it is at 10 m above the ground. */
  windFromRad: z.number().min(-7).max(7),
  windMps: z.number().min(0).max(50),
  /** 0 to 1; not known where left out. */
  throttle: z.number().min(0).max(1).optional(),
  /** It had been on its way home by itself. */
  returning: z.boolean().default(false),
  /** What is left in the battery, share; not known where left out. */
  batteryShare: z.number().min(0).max(1).optional(),
});
export type LastSeen = z.infer<typeof lastSeenSchema>;

const placeSchema = z.object({ lat: z.number().min(-90).max(90), lon: z.number().min(-180).max(180) });

/** A search for a craft: what was last known, where whoever searches stands, and the squares that were looked over. */
export const searchSchema = z.object({
  seen: lastSeenSchema,
  /** Where that is known from, in a few words. */
  by: z.string().max(80),
  stands: placeSchema.optional(),
  /** By their middles. */
  searched: z
    .array(placeSchema.extend({ sideM: z.number().min(1).max(2000) }))
    .max(2000)
    .default([]),
});
export type Search = z.infer<typeof searchSchema>;
