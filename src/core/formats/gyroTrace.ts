import { DEG } from '../math/scalar.ts';

/** One step of a converter of 16 bits over 2000 °/s to either side, rad/s: what a gyro tells is a whole number of them. */
export const GYRO_STEP = (2000 / 32_768) * DEG;
/** So many samples of three axes are packed together. */
export const GYRO_BLOCK = 200;
/** A difference takes three bytes at most: 17 bits and the sign, seven to a byte. */
const MOST_BYTES = 3;
const AXES = 3;
const TOP = 32_767;

/**
 * Packs a gyro without loss: the first sample of a block as it is, each further one as the difference to the last, axis by axis. Signs
 * go to the lowest bit, and seven bits to a byte, the low ones first, with the eighth where more follow (as Protocol Buffers' varints).
 */
export class GyroPacker {
  /** Bytes of what is packed so far. */
  readonly bytes = new Uint8Array(GYRO_BLOCK * AXES * MOST_BYTES);
  length = 0;
  samples = 0;
  private readonly last = new Int32Array(AXES);

  /** @param gyro rad/s, three axes */
  push(gyro: Float64Array): void {
    for (let i = 0; i < AXES; i++) {
      const now = Math.max(-TOP, Math.min(TOP, Math.round(gyro[i]! / GYRO_STEP)));
      const by = now - this.last[i]!;
      this.last[i] = now;
      let left = by < 0 ? -2 * by - 1 : 2 * by;
      while (left > 127) {
        this.bytes[this.length++] = (left & 127) | 128;
        left >>= 7;
      }
      this.bytes[this.length++] = left;
    }
    this.samples++;
  }

  get full(): boolean {
    return this.samples === GYRO_BLOCK;
  }

  clear(): void {
    this.length = 0;
    this.samples = 0;
    this.last.fill(0);
  }
}

/** What was packed: three axes, rad/s; null for bytes that are none. */
export function unpackGyro(bytes: Uint8Array): readonly Float64Array[] | null {
  const all: number[][] = [[], [], []];
  const last = [0, 0, 0];
  let [axis, at] = [0, 0];
  while (at < bytes.length) {
    let [value, shift, more] = [0, 0, true];
    while (more) {
      if (at >= bytes.length || shift > 14) return null;
      const byte = bytes[at++]!;
      value |= (byte & 127) << shift;
      shift += 7;
      more = byte > 127;
    }
    last[axis]! += value & 1 ? -(value + 1) / 2 : value / 2;
    all[axis]!.push(last[axis]! * GYRO_STEP);
    axis = (axis + 1) % AXES;
  }
  return axis === 0 && all[0]!.length <= GYRO_BLOCK ? all.map((a) => Float64Array.from(a)) : null;
}
