import { newestStable } from '#core/formats/releases.ts';
import { LinkError } from '#link/client.ts';
import { flashImage } from '#link/flash.ts';
import type { ImageInHand } from './ImageInHand.ts';
import { type FlashParts, faultText, Notebook } from './parts.ts';

export const CONTROLLER_PRODUCT = 'Kolk';

/** Refusals that a battery out, or leave that lapsed with it, bring about. */
const CUTS: readonly string[] = ['silent', 'propellers'];

/** Shown no more often than this, ms. */
const SHOWN_EVERY_MS = 100;

/** Brings motor controllers to another firmware through the board, one after another; interrupted, it goes on where it was. */
export class ControllerFirmware {
  private readonly notebook: Notebook;

  /** @param whenDone what is done once all of them run it: they are read again */
  constructor(
    private readonly parts: FlashParts,
    private readonly image: ImageInHand,
    private readonly whenDone: () => void,
  ) {
    this.notebook = new Notebook(parts);
  }

  /** @param outputs those that still need it, in order @param version newest stable where left out */
  async bring(outputs: readonly number[], version?: string): Promise<void> {
    if (this.notebook.now.controllers.kind === 'writing') return;
    const left = [...outputs];
    let wanted = version ?? '';
    try {
      await this.image.loadReleases();
      for (; left.length > 0; left.shift()) {
        const to = left[0]!;
        const show = (share: number) =>
          this.notebook.change({
            controllers: {
              kind: 'writing',
              output: to,
              nth: outputs.length - left.length + 1,
              of: outputs.length,
              share,
            },
          });
        show(0);
        wanted = await this.bringOne(to, wanted, show);
      }
      this.notebook.change({ controllers: { kind: 'done', version: wanted, count: outputs.length } });
      this.whenDone();
    } catch (error) {
      const why = faultText(error);
      // What a cut leaves is there to go on with; what was refused has to be put right first.
      const goesOn =
        error instanceof LinkError && (error.fault !== 'refused' || CUTS.includes(error.code ?? ''));
      this.notebook.change({
        controllers: {
          kind: goesOn ? 'interrupted' : 'failed',
          output: left[0]!,
          left,
          version: wanted,
          why,
        },
      });
    }
  }

  /** @returns the version that it runs now */
  private async bringOne(to: number, version: string, show: (share: number) => void): Promise<string> {
    const link = this.parts.session.openLink();
    const { target } = await link.request('loader-state', { to });
    const { catalogue } = this.notebook.now;
    const release =
      catalogue?.releases.find((r) => r.product === CONTROLLER_PRODUCT && r.version === version) ??
      (catalogue && newestStable(catalogue, CONTROLLER_PRODUCT, target));
    const image = release?.images.find((i) => i.target === target);
    if (!release || !image)
      throw new Error(
        `There is no firmware ${version} for ${target}, which hangs on output ${to}. Nothing was erased.`,
      );
    const hex = await this.image.fetched(`${release.product} ${release.version}`, image);
    const looked = await this.parts.inspect(hex, target);
    if (!looked.ok) throw new Error(`${looked.why} Nothing was erased.`);
    let shown = 0;
    await flashImage(link, looked.bytes, looked.info, {
      to,
      onProgress: (p) => {
        const at = performance.now();
        if (at - shown < SHOWN_EVERY_MS) return;
        shown = at;
        show(p.doing === 'erasing' ? 0 : p.done / p.of);
      },
    });
    await link.request('loader-start', { to });
    return release.version;
  }
}
