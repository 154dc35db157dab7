import * as z from 'zod';
import type { BenchBoard, KeptBoard, ShelfBoard } from '#bench/benchBoard.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { imageInfoSchema } from '#core/wire/messages.ts';
import { rows } from '../store/database.ts';

/** The bench's boards in the browser's store, so that they hold what is on them over a reload as real ones would. */

const bytes = z.instanceof(Uint8Array<ArrayBuffer>);
const keptSchema = z.object({
  pages: z.tuple([bytes, bytes]),
  image: z.object({
    bytes,
    plan: imageInfoSchema.nullable(),
    whole: bytes,
    toErase: z.number().int().min(0),
    verified: z.boolean(),
  }),
});

/** A board as it was last time, or as it comes. @param values settings on it where it is taken for the first time */
export async function loadBoard(
  make: typeof BenchBoard,
  from: ShelfBoard,
  values: () => Values | Promise<Values>,
): Promise<BenchBoard> {
  try {
    const parsed = keptSchema.safeParse(await rows.get('bench', from.serial));
    if (parsed.success) return make.kept(from, parsed.data);
  } catch {
    // Nothing is kept in this browser: the banner about storage says so.
  }
  return make.fresh(from, await values());
}

export async function keepBoard(serial: string, board: KeptBoard): Promise<void> {
  try {
    await rows.write([{ in: 'bench', put: board, key: serial }]);
  } catch {
    // The board holds it in this tab; the banner about storage is shown for the craft.
  }
}

/** Which board lies on the bench; null when that was never said. */
export async function onBench(): Promise<string | null> {
  try {
    const serial: unknown = await rows.get('bench', 'on the bench');
    return typeof serial === 'string' ? serial : null;
  } catch {
    return null;
  }
}

export async function putOnBench(serial: string): Promise<void> {
  try {
    await rows.write([{ in: 'bench', put: serial, key: 'on the bench' }]);
  } catch {
    // As above.
  }
}
