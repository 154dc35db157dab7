import * as z from 'zod';

/** In what a number written elsewhere counts what is wrong, and what it gives. */
const errorUnits = ['rad/s', 'deg/s', 'share'] as const;
const outputUnits = ['share', 'percent', 'us', 'deg', 'counts'] as const;
/** How sums and slopes count time: by the second, by the step of their loop, or as a time beside P. */
const timeUnits = ['seconds', 'steps', 'time'] as const;
const filterUnits = ['hz', 'seconds', 'share'] as const;
const angleUnits = ['rate', 'time'] as const;

/** What the numbers of another scale mean. */
export const conventionSchema = z.strictObject({
  name: z.string().trim().min(1).max(40),
  error: z.enum(errorUnits),
  /** Where errors are shares of a full stick: what that asks for, deg/s. */
  fullStickDps: z.number().min(10).max(2000),
  output: z.enum(outputUnits),
  /** So much of the output is a full command. */
  fullOutput: z.number().positive().max(1e7),
  /** What is written is multiplied by this before it is used. */
  per: z.number().positive().max(1e6),
  sums: z.enum(timeUnits),
  slopes: z.enum(timeUnits),
  /** Steps of its loop, 1/s. */
  loopHz: z.number().min(10).max(32_000),
  /** Speed at which its gains hold, m/s; null where they know nothing of speed: then at that of its cruise. */
  speedMps: z.number().positive().max(100).nullable(),
  /** Its D looks at the error, so that a sudden stick kicks. */
  slopeOfError: z.boolean(),
  angle: z.enum(angleUnits),
  filter: z.enum(filterUnits),
});
export type Convention = Readonly<z.infer<typeof conventionSchema>>;
