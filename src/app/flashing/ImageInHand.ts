import * as z from 'zod';
import {
  MAX_IMAGE_BYTES,
  type Release,
  type ReleaseImage,
  releaseCatalogueSchema,
} from '#core/formats/releases.ts';
import { parsed } from '#core/parsed.ts';
import type { FirmwareState } from '../store/firmwareSlice.ts';
import { type FlashParts, faultText, Notebook } from './parts.ts';

const FETCH_LIMIT_MS = 8000;

/** Which firmware there is, and the image that is to be written: fetched or from a file, looked at, in hand. */
export class ImageInHand {
  /** What is to be written; too large for the store. */
  private whole: Uint8Array | null = null;
  private readonly notebook: Notebook;

  constructor(private readonly parts: FlashParts) {
    this.notebook = new Notebook(parts);
  }

  get bytes(): Uint8Array | null {
    return this.whole;
  }

  private get now(): FirmwareState {
    return this.notebook.now;
  }

  private change(c: Partial<FirmwareState>): void {
    this.notebook.change(c);
  }

  /** Asks the release service what there is, or takes what it said the last time. */
  async loadReleases(): Promise<void> {
    if (this.now.catalogue && !this.now.cached) return;
    try {
      const answer = await this.parts.fetch('catalogue.json', FETCH_LIMIT_MS);
      if (!answer.ok) throw new Error(`it answered ${answer.status}`);
      const catalogue = releaseCatalogueSchema.parse(await answer.json());
      this.change({ catalogue, cached: false, fault: null });
      await this.notebook.remember('catalogue', catalogue);
    } catch {
      const kept = parsed(releaseCatalogueSchema, await this.notebook.recall('catalogue'));
      if (kept.success) this.change({ catalogue: kept.data, cached: true });
      else
        this.change({
          fault:
            'The release service does not answer, and nothing was fetched from it before. An image from a file works as well.',
        });
    }
  }

  /** Fetches an image, checks that it is the one of the catalogue, and takes it in hand. */
  async chooseRelease(release: Release, image: ReleaseImage): Promise<void> {
    const name = `${release.product} ${release.version}`;
    this.change({ fetching: name, fault: null });
    try {
      await this.take(name, await this.fetched(name, image), image.target);
    } catch (error) {
      this.change({ fault: faultText(error) });
    }
    this.change({ fetching: null });
  }

  /**
   * An image as the catalogue has it, kept from before or fetched.
   * @throws Error with a sentence where it cannot be had, or is another than the catalogue says
   */
  async fetched(name: string, image: ReleaseImage): Promise<Uint8Array<ArrayBuffer>> {
    const right = async (b: Uint8Array<ArrayBuffer>) =>
      b.length === image.size && (await sha256(b)) === image.sha256;
    const kept = await this.notebook.recall(image.sha256);
    let whole = kept instanceof Uint8Array ? new Uint8Array(kept) : new Uint8Array(0);
    if (!(await right(whole))) {
      const answer = await this.asked(name, image.file);
      if (!answer.ok) throw new Error(`${name} could not be fetched: the service answered ${answer.status}.`);
      whole = new Uint8Array(await answer.arrayBuffer());
    }
    if (!(await right(whole)))
      throw new Error(
        `What came for ${name} is not what the catalogue says: its SHA-256 differs. It was thrown away; fetch it again.`,
      );
    await this.notebook.remember(image.sha256, whole);
    return whole;
  }

  private async asked(name: string, file: string): Promise<Response> {
    try {
      return await this.parts.fetch(file, 4 * FETCH_LIMIT_MS);
    } catch {
      throw new Error(`${name} is not in this browser yet, and the service does not answer.`);
    }
  }

  /** Takes an image from a file in hand. Anything wrong with it is said, with its line. */
  async chooseFile(file: Pick<File, 'name' | 'size' | 'arrayBuffer'>): Promise<void> {
    if (file.size > MAX_IMAGE_BYTES) {
      this.change({
        fault: `${file.name} has more than ${MAX_IMAGE_BYTES / 1e6} MB; no board here takes so much.`,
      });
      return;
    }
    this.change({ fetching: file.name, fault: null });
    const { identity } = this.parts.store.getState().board;
    try {
      await this.take(file.name, new Uint8Array(await file.arrayBuffer()), identity?.target);
    } catch (error) {
      this.change({ fault: faultText(error) });
    }
    this.change({ fetching: null });
  }

  private async take(name: string, hex: Uint8Array<ArrayBuffer>, target?: string): Promise<void> {
    const looked = await this.parts.inspect(hex.slice(), target);
    if (!looked.ok) {
      const line = looked.line > 0 && !looked.why.startsWith('Line') ? `Line ${looked.line}: ` : '';
      this.change({ fault: `${name} cannot be used. ${line}${looked.why} Nothing was erased.` });
      return;
    }
    this.whole = looked.bytes;
    const { run } = this.now;
    this.change({
      inHand: { name, info: looked.info },
      ...(run.kind === 'runs' || run.kind === 'failed' ? { run: { kind: 'idle' } } : {}),
    });
    // A tab that is closed in the middle can go on with it.
    await this.notebook.remember('in hand', { name, hex });
  }

  letGo(): void {
    this.whole = null;
    this.change({ inHand: null, run: { kind: 'idle' } });
  }

  /** After a reload: takes the image in hand again that was being written, where it is the one with this checksum. */
  async recall(crc: number, target: string | undefined): Promise<void> {
    const kept = parsed(inHandSchema, await this.notebook.recall('in hand'));
    if (kept.success) await this.take(kept.data.name, kept.data.hex, target);
    if (this.now.inHand?.info.crc !== crc) this.letGo();
  }
}

const inHandSchema = z.object({ name: z.string(), hex: z.instanceof(Uint8Array<ArrayBuffer>) });

async function sha256(data: Uint8Array<ArrayBuffer>): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', data));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}
