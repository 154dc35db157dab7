import * as z from 'zod';
import { boardModelSchema } from './model.ts';

/** What a board says about itself. What answers on its buses it says in its self-test. */
export const boardDescriptionSchema = z.object({
  board: z.string().max(60),
  revision: z.string().max(20),
  /** Firmware builds for it. */
  target: z.string().max(24),
  pads: z
    .array(
      z.object({
        output: z.number().int().min(1).max(32),
        pad: z.string().max(12),
        timer: z.number().int().min(1).max(16),
      }),
    )
    .max(32),
  ports: z
    .array(
      z.object({
        name: z.string().max(20),
        /** The link comes over it: it cannot be given another use. */
        link: z.boolean(),
      }),
    )
    .max(16),
  /** All that it is made of: where its pads lie, what its timers and ports can, buses, rails. */
  layout: boardModelSchema.optional(),
});
export type BoardDescription = z.infer<typeof boardDescriptionSchema>;
