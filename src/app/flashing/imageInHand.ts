import { transfer } from 'comlink';
import * as z from 'zod';
import {
  MAX_IMAGE_BYTES,
  type Release,
  type ReleaseImage,
  releaseCatalogueSchema,
} from '#core/formats/releases.ts';
import { openStore } from '../store/database.ts';
import { type FirmwareState, firmwareChanged } from '../store/firmwareSlice.ts';
import { store } from '../store/store.ts';
import { workshop } from '../workers/index.ts';

/** Which firmware there is, and the image that is to be written: fetched or from a file, looked at, in hand. */

export const change = (c: Partial<FirmwareState>) => void store.dispatch(firmwareChanged(c));
export const now = () => store.getState().firmware;
export const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** What is to be written; too large for the store. */
let bytes: Uint8Array | null = null;

export const imageBytes = () => bytes;

const FETCH_LIMIT_MS = 8000;

/** Asks the release service what there is, or takes what it said the last time. */
export async function loadReleases(): Promise<void> {
  if (now().catalogue && !now().cached) return;
  try {
    const answer = await fetch('/releases/catalogue.json', { signal: AbortSignal.timeout(FETCH_LIMIT_MS) });
    if (!answer.ok) throw new Error(`it answered ${answer.status}`);
    const catalogue = releaseCatalogueSchema.parse(await answer.json());
    change({ catalogue, cached: false, fault: null });
    await remember('catalogue', catalogue);
  } catch {
    const kept = releaseCatalogueSchema.safeParse(await recall('catalogue'));
    if (kept.success) change({ catalogue: kept.data, cached: true });
    else
      change({
        fault:
          'The release service does not answer, and nothing was fetched from it before. An image from a file works as well.',
      });
  }
}

export async function remember(key: string, value: unknown): Promise<void> {
  try {
    await (await openStore()).put('firmware', value, key);
  } catch {
    // Then it is fetched again the next time.
  }
}

export async function recall(key: string): Promise<unknown> {
  try {
    return await (await openStore()).get('firmware', key);
  } catch {
    return undefined;
  }
}

async function sha256(data: Uint8Array<ArrayBuffer>): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', data));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** Fetches an image, checks that it is the one of the catalogue, and takes it in hand. */
export async function chooseRelease(release: Release, image: ReleaseImage): Promise<void> {
  const name = `${release.product} ${release.version}`;
  change({ fetching: name, fault: null });
  try {
    const right = async (b: Uint8Array<ArrayBuffer>) =>
      b.length === image.size && (await sha256(b)) === image.sha256;
    const kept = await recall(image.sha256);
    let whole = kept instanceof Uint8Array ? new Uint8Array(kept) : new Uint8Array(0);
    if (!(await right(whole))) {
      const answer = await fetch(`/releases/${image.file}`, {
        signal: AbortSignal.timeout(4 * FETCH_LIMIT_MS),
      });
      if (!answer.ok) throw new Error(`${name} could not be fetched: the service answered ${answer.status}.`);
      whole = new Uint8Array(await answer.arrayBuffer());
    }
    if (!(await right(whole)))
      throw new Error(
        `What came for ${name} is not what the catalogue says: its SHA-256 differs. It was thrown away; fetch it again.`,
      );
    await remember(image.sha256, whole);
    await takeInHand(name, whole, image.target);
  } catch (error) {
    const lost = error instanceof TypeError || (error as Error).name === 'TimeoutError';
    change({
      fault: lost ? `${name} is not in this browser yet, and the service does not answer.` : faultText(error),
    });
  }
  change({ fetching: null });
}

/** Takes an image from a file in hand. Anything wrong with it is said, with its line. */
export async function chooseFile(file: File): Promise<void> {
  if (file.size > MAX_IMAGE_BYTES) {
    change({ fault: `${file.name} has more than ${MAX_IMAGE_BYTES / 1e6} MB; no board here takes so much.` });
    return;
  }
  change({ fetching: file.name, fault: null });
  const { identity } = store.getState().board;
  try {
    await takeInHand(file.name, new Uint8Array(await file.arrayBuffer()), identity?.target);
  } catch (error) {
    change({ fault: faultText(error) });
  }
  change({ fetching: null });
}

async function takeInHand(name: string, hex: Uint8Array<ArrayBuffer>, target?: string): Promise<void> {
  const copy = hex.slice();
  const looked = await workshop().inspect(transfer(copy, [copy.buffer]), target);
  if (!looked.ok) {
    const line = looked.line > 0 && !looked.why.startsWith('Line') ? `Line ${looked.line}: ` : '';
    change({ fault: `${name} cannot be used. ${line}${looked.why} Nothing was erased.` });
    return;
  }
  bytes = looked.bytes;
  const { run } = now();
  change({
    inHand: { name, info: looked.info },
    ...(run.kind === 'runs' || run.kind === 'failed' ? { run: { kind: 'idle' } } : {}),
  });
  // A tab that is closed in the middle can go on with it.
  await remember('in hand', { name, hex });
}

export function letGoOfImage(): void {
  bytes = null;
  change({ inHand: null, run: { kind: 'idle' } });
}

const inHandSchema = z.object({ name: z.string(), hex: z.instanceof(Uint8Array<ArrayBuffer>) });

/** After a reload: takes the image in hand again that was being written, where it is the one with this checksum. */
export async function recallImage(crc: number, target: string | undefined): Promise<void> {
  const kept = inHandSchema.safeParse(await recall('in hand'));
  if (kept.success) await takeInHand(kept.data.name, kept.data.hex, target);
  if (now().inHand?.info.crc !== crc) letGoOfImage();
}
