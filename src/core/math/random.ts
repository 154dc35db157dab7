/**
 * Seeded random numbers: the 32-bit "splitmix" finaliser over a counter (Steele, Lea, Flood 2014), so one
 * seed gives one sequence on every machine.
 */
export class Random {
  private state: number;
  private spare = 0;
  private hasSpare = false;

  constructor(seed: number) {
    this.state = (seed ^ 0x9e3779b9) | 0;
  }

  /** Uniform in [0, 1). */
  uniform(): number {
    this.state = (this.state + 0x9e3779b9) | 0;
    let z = this.state;
    z = Math.imul(z ^ (z >>> 16), 0x85ebca6b);
    z = Math.imul(z ^ (z >>> 13), 0xc2b2ae35);
    return ((z ^ (z >>> 16)) >>> 0) / 4294967296;
  }

  /** Standard normal, by the polar method (Marsaglia and Bray 1964). */
  normal(): number {
    if (this.hasSpare) {
      this.hasSpare = false;
      return this.spare;
    }
    for (;;) {
      const u = 2 * this.uniform() - 1;
      const v = 2 * this.uniform() - 1;
      const s = u * u + v * v;
      if (s > 0 && s < 1) {
        const k = Math.sqrt((-2 * Math.log(s)) / s);
        this.spare = v * k;
        this.hasSpare = true;
        return u * k;
      }
    }
  }
}

const TABLE = 8192;
const SIX = 6;
let table: Float64Array | null = null;

/** Standard normals, shuffled once and drawn by a counter: noise for a thousand samples a second. */
export class Noise {
  /** The table; `six` tells where to read in it. */
  readonly normals: Float64Array;
  private state: number;

  constructor(seed: number) {
    if (!table) {
      const random = new Random(0x5eed);
      table = Float64Array.from({ length: TABLE + SIX }, () => random.normal());
    }
    this.normals = table;
    this.state = (seed * 2654435761) | 0;
  }

  next(): number {
    this.state = (Math.imul(this.state, 1664525) + 1013904223) | 0;
    return this.normals[this.state >>> 19]!;
  }

  /** Six at once, for three axes of two sensors: the place of the first in `normals`. */
  six(): number {
    this.state = (Math.imul(this.state, 1664525) + 1013904223) | 0;
    return this.state >>> 19;
  }
}
