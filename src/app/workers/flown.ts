import { MOST_FLOWN_BYTES, type OpenedFlown, openFlown } from '#core/flown/openFlown.ts';
import type { Place } from '#core/navigation/earth.ts';

/** Opens a file of a flight. @param about what a log's metres are counted from where it does not say so */
export async function openFlownFile(file: File, about: Place): Promise<OpenedFlown> {
  if (file.size > MOST_FLOWN_BYTES)
    return {
      ok: false,
      why: `${file.name} has ${(file.size / 1e6).toFixed(0)} MB; at most ${MOST_FLOWN_BYTES / 1e6} MB are read. Nothing was taken.`,
    };
  return openFlown(new Uint8Array(await file.arrayBuffer()), file.name, about);
}
