import * as z from 'zod';

/** The catalogue of a release service: which firmware there is, for which boards, and what is known about it. */

export const RELEASES_FORMAT = 'wanderweg-releases';
export const MAX_IMAGE_BYTES = 12_000_000;

const text = (most: number) => z.string().min(1).max(most);

const releaseImageSchema = z.object({
  /** Board it is built for. */
  target: text(24),
  /** Name of the HEX file beside the catalogue. */
  file: z.string().regex(/^[a-z0-9][a-z0-9.-]{0,80}\.hex$/),
  /** Bytes of the file. */
  size: z.number().int().min(1).max(MAX_IMAGE_BYTES),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
});
export type ReleaseImage = z.infer<typeof releaseImageSchema>;

const releaseSchema = z.object({
  product: text(16),
  version: text(16),
  channel: z.enum(['stable', 'candidate']),
  date: z.iso.date(),
  notes: z.array(text(400)).max(30),
  /** What is known not to work. */
  limits: z.array(text(400)).max(30),
  images: z.array(releaseImageSchema).max(40),
  /** Firmware of other parts that it was tested with. */
  parts: z
    .array(z.object({ product: text(30), atLeast: text(20), testedTo: text(20), why: text(300) }))
    .max(30),
});
export type Release = z.infer<typeof releaseSchema>;

export const releaseCatalogueSchema = z.object({
  format: z.literal(RELEASES_FORMAT),
  version: z.literal(1),
  releases: z.array(releaseSchema).max(200),
});
export type ReleaseCatalogue = z.infer<typeof releaseCatalogueSchema>;

/** A release as a board may have it. */
export interface Offer {
  readonly release: Release;
  /** Null where there is none for this board. */
  readonly image: ReleaseImage | null;
}

/** What there is of a product for a board or a part, newest first. @param target name that firmware is built for */
export function offersFor(catalogue: ReleaseCatalogue, product: string, target: string): Offer[] {
  return catalogue.releases
    .filter((r) => r.product === product)
    .sort((a, b) => b.date.localeCompare(a.date))
    .map((release) => ({ release, image: release.images.find((i) => i.target === target) ?? null }));
}

/** The newest stable release of a product with an image for a board or a part. */
export function newestStable(
  catalogue: ReleaseCatalogue,
  product: string,
  target: string,
): Release | undefined {
  return offersFor(catalogue, product, target).find((o) => o.image && o.release.channel === 'stable')
    ?.release;
}

export type PartVerdict = 'fits' | 'too-old' | 'untested' | 'unknown';

/** Whether a part's firmware goes with a release, and why not. @param release undefined where nothing is known */
export function partVerdict(
  release: Release | undefined,
  product: string,
  version: string,
): { readonly verdict: PartVerdict; readonly why: string } {
  const need = release?.parts.find((p) => p.product === product);
  if (!release || !need)
    return { verdict: 'unknown', why: 'Nothing is known of it together with this firmware.' };
  const name = `${release.product} ${release.version}`;
  if (compareVersions(version, need.atLeast) < 0)
    return { verdict: 'too-old', why: `${name} needs ${product} ${need.atLeast} or later. ${need.why}` };
  if (compareVersions(version, need.testedTo) > 0)
    return { verdict: 'untested', why: `${name} was tested up to ${product} ${need.testedTo}.` };
  return { verdict: 'fits', why: '' };
}

/** Versions by their numbers, part by part: 4.10 is later than 4.9. @returns below, at or above 0 */
export function compareVersions(a: string, b: string): number {
  const [x, y] = [a, b].map((v) => v.split(/[.-]/).map((p) => Number.parseInt(p, 10) || 0));
  for (let i = 0; i < Math.max(x!.length, y!.length); i++) {
    const d = (x![i] ?? 0) - (y![i] ?? 0);
    if (d !== 0) return d;
  }
  return 0;
}
