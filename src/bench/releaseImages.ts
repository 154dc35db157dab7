import { writeImage } from '#core/formats/firmwareImage.ts';
import { Random } from '#core/math/random.ts';
import type { PfadVersion } from '#firmware/versions.ts';

/** Bytes of each version as it is released. */
const releaseBytes: Readonly<Record<PfadVersion, number>> = {
  '2.8': 196_608,
  '3.0': 237_568,
  '3.1': 252_928,
  '3.2': 258_048,
  '3.2-rc1': 262_144,
};

/**
 * The image of a version for a board as Intel HEX. The stand-in runs what the descriptor names; the bytes around it
 * stand for machine code, the same each time.
 */
export function releaseImage(
  target: string,
  version: PfadVersion,
  bytes: number = releaseBytes[version],
): string {
  return imageOf('Pfad', target, version, bytes);
}

/** Bytes of a motor controller's firmware. */
const CONTROLLER_BYTES = 40_960;

/** The image of a version of a motor controller's firmware, as `releaseImage`. */
export function controllerImage(target: string, version: string, bytes = CONTROLLER_BYTES): string {
  return imageOf('Kolk', target, version, bytes);
}

function imageOf(product: string, target: string, version: string, bytes: number): string {
  const seed = [...`${target} ${version}`].reduce((s, c) => (s * 31 + c.charCodeAt(0)) >>> 0, 7);
  const random = new Random(seed);
  const code = Uint8Array.from({ length: bytes }, () => Math.floor(256 * random.uniform()));
  return writeImage(code, { product, target, version });
}
