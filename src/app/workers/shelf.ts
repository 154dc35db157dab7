import * as z from 'zod';
import type { BenchBoard, KeptBoard, ShelfBoard } from '#bench/benchBoard.ts';
import { parsed } from '#core/parsed.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { imageInfoSchema } from '#core/wire/messages.ts';
import { rows } from '../store/database.ts';

/** The bench's boards in the browser's store, so that they hold what is on them over a reload as real ones would. */

const bytes = z.instanceof(Uint8Array<ArrayBuffer>);
const keptSchema = z.object({
  pages: z.tuple([bytes, bytes]),
  planPages: z.tuple([bytes, bytes]).optional(),
  image: z.object({
    bytes,
    plan: imageInfoSchema.nullable(),
    whole: bytes,
    toErase: z.number().int().min(0),
    verified: z.boolean(),
  }),
  log: z
    .object({
      ring: bytes,
      head: z.number().int().min(0),
      number: z.number().int().min(0),
      flights: z.array(
        z.object({
          flight: z.number().int(),
          startedS: z.number(),
          from: z.number().int(),
          length: z.number().int(),
          whole: z.boolean(),
        }),
      ),
    })
    .optional(),
});

/** A board belongs to the bench of one craft. */
const keyOf = (craft: string, what: string) => `${craft}/${what}`;
const LAID = 'on the bench';

/**
 * A board as it was last time, or as it comes.
 * @param craft the row of the craft whose bench it is. @param values on it where it is taken for the first time
 */
export async function loadBoard(
  make: typeof BenchBoard,
  craft: string,
  from: ShelfBoard,
  values: () => Values | Promise<Values>,
): Promise<BenchBoard> {
  try {
    const result = parsed(keptSchema, await rows.get('bench', keyOf(craft, from.serial)));
    if (result.success) return make.kept(from, result.data);
  } catch {
    // Nothing is kept in this browser: the banner about storage says so.
  }
  return make.fresh(from, await values());
}

export async function keepBoard(craft: string, serial: string, board: KeptBoard): Promise<void> {
  try {
    await rows.write([{ in: 'bench', put: board, key: keyOf(craft, serial) }]);
  } catch {
    // The board holds it in this tab; the banner about storage is shown for the craft.
  }
}

/** Which board lies on the bench; null when that was never said. */
export async function onBench(craft: string): Promise<string | null> {
  try {
    const serial: unknown = await rows.get('bench', keyOf(craft, LAID));
    return typeof serial === 'string' ? serial : null;
  } catch {
    return null;
  }
}

export async function putOnBench(craft: string, serial: string): Promise<void> {
  try {
    await rows.write([{ in: 'bench', put: serial, key: keyOf(craft, LAID) }]);
  } catch {
    // As above.
  }
}
