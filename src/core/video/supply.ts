import * as z from 'zod';

/** Supply of a video transmitter, and what its maker says that it bears, V. */
export const videoSupplySchema = z.object({
  feed: z.enum(['battery', 'rail']),
  leastV: z.number().min(2).max(60),
  mostV: z.number().min(2).max(60),
});
export type VideoSupply = Readonly<z.infer<typeof videoSupplySchema>>;
