import type { ImageInfo } from '#core/formats/firmwareImage.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { type LinkClient, LinkError } from './client.ts';

/** Blocks asked for at once, so that the board never waits for the link. */
const AT_ONCE = 4;
const ERASE_POLL_MS = 60;
/** A block that the loader was too busy for, or that was damaged on the way, is said again so often. */
const BUSY_TRIES = 200;

interface FlashProgress {
  readonly doing: 'erasing' | 'writing' | 'verifying';
  /** Bytes written whole, of all. */
  readonly done: number;
  readonly of: number;
}

export interface FlashHow {
  /** Erases the settings as well, when it begins. */
  readonly wipe?: boolean;
  /** Output of the motor controller that it is for, passed on by the board's firmware; left out for the board itself. */
  readonly to?: number;
  readonly onProgress?: (p: FlashProgress) => void;
}

/**
 * Writes an image through a loader: begins or goes on where it was, writes the blocks that are missing,
 * and has the whole verified by the loader's own reading of its flash. Starts nothing.
 * @throws LinkError when the board refuses, the link closes or goes silent; what was written stays, and the same call
 *   goes on from there
 */
export async function flashImage(
  client: LinkClient,
  image: Uint8Array,
  plan: ImageInfo,
  { wipe = false, to, onProgress = () => {} }: FlashHow = {},
): Promise<void> {
  const whom = to === undefined ? {} : { to };
  await patiently(() => client.request('loader-begin', { plan, wipe, ...whom }));
  let state = await patiently(() => client.request('loader-state', whom));
  while (state.erasing > 0) {
    onProgress({ doing: 'erasing', done: state.flashBytes - state.erasing, of: state.flashBytes });
    await pause(ERASE_POLL_MS);
    state = await patiently(() => client.request('loader-state', whom));
  }
  if (!state.verified) {
    const size = state.blockBytes;
    const missing = [...state.whole.keys()].filter((k) => state.whole[k] === 0);
    let whole = state.whole.length - missing.length;
    const tell = () =>
      onProgress({ doing: 'writing', done: Math.min(whole * size, plan.size), of: plan.size });
    tell();
    // Where one block fails none goes on by itself: whoever asked is told, and asks again when all is in place.
    let failed = false;
    const work = async () => {
      for (let k = missing.shift(); k !== undefined && !failed; k = missing.shift()) {
        try {
          await writeBlock(
            client,
            k * size,
            image.slice(k * size, Math.min(plan.size, (k + 1) * size)),
            whom,
          );
        } catch (error) {
          failed = true;
          throw error;
        }
        whole++;
        if (!failed) tell();
      }
    };
    const ended = await Promise.allSettled(Array.from({ length: AT_ONCE }, work));
    const first = ended.find((e) => e.status === 'rejected');
    if (first) throw first.reason;
    onProgress({ doing: 'verifying', done: plan.size, of: plan.size });
    await patiently(() => client.request('loader-verify', whom));
  }
}

/** So often a request that nobody answered is made anew while the cable is in: of four in ten lost frames nobody has to be told. */
const ROUNDS = 6;

async function patiently<T>(ask: () => Promise<T>): Promise<T> {
  for (let round = 1; ; round++) {
    try {
      return await ask();
    } catch (error) {
      if (!(error instanceof LinkError) || error.fault !== 'silent' || round === ROUNDS) throw error;
    }
  }
}

async function writeBlock(
  client: LinkClient,
  at: number,
  bytes: Uint8Array<ArrayBuffer>,
  whom: { readonly to?: number },
): Promise<void> {
  const crc = crc32(bytes);
  for (let tries = 0; ; tries++) {
    try {
      await patiently(() => client.request('loader-block', { at, bytes, crc, ...whom }));
      return;
    } catch (error) {
      const again = error instanceof LinkError && (error.code === 'busy' || error.code === 'damaged');
      if (!again || tries >= BUSY_TRIES) throw error;
      await pause(20);
    }
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
