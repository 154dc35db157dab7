import { Random } from '../math/random.ts';
import { clamp, DEG } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';

/** Roughness length of peat moor and short grass, m (Wieringa 1992, class "open"). */
const ROUGHNESS_M = 0.03;
const REFERENCE_M = 10;
/** Above this the profile is held: the logarithmic law is one of the surface layer. */
const LAYER_TOP_M = 300;
const LOG_REFERENCE = Math.log(REFERENCE_M / ROUGHNESS_M);

/**
 * Mean wind at a height above ground, by the logarithmic profile over open ground.
 * @param speedAt10M wind at 10 m, as forecasts give it, m/s
 */
export function windAtHeight(speedAt10M: number, aboveGroundM: number): number {
  const h = clamp(aboveGroundM, 2, LAYER_TOP_M);
  return (speedAt10M * Math.log(h / ROUGHNESS_M)) / LOG_REFERENCE;
}

export interface WindSettings {
  /** At 10 m above ground, m/s. */
  readonly speedMps: number;
  /** Where it blows from, degrees from north. */
  readonly fromDeg: number;
  /** Standard deviation of the gusts along the wind, m/s. */
  readonly gustMps: number;
}

/**
 * Mean wind and Dryden gusts. Lengths by the low-altitude form (MIL-F-8785C, 3.7.3.4); first-order shaping
 * filters on all three axes; the vertical share is the law's 0.1 W20 scaled to the given intensity.
 */
export class Wind {
  /** Wind velocity, north-east-down, m/s. */
  readonly velocity: Vec3 = new Float64Array(3);
  private readonly random: Random;
  private toNorth = 0;
  private toEast = 0;
  private meanAt10 = 0;
  private u = 0;
  private v = 0;
  private w = 0;

  constructor(
    private readonly settings: WindSettings,
    seed: number,
  ) {
    this.random = new Random(seed);
    this.turn(settings.speedMps, settings.fromDeg);
  }

  /** Another mean wind from now on: at 10 m, and where it blows from, degrees. */
  turn(speedMps: number, fromDeg: number): void {
    this.meanAt10 = speedMps;
    this.toNorth = -Math.cos(fromDeg * DEG);
    this.toEast = -Math.sin(fromDeg * DEG);
  }

  /** Advances the gusts by dt. @param airspeed m/s, sets how fast gusts are crossed. */
  step(aboveGroundM: number, airspeed: number, dt: number): void {
    const mean = windAtHeight(this.meanAt10, aboveGroundM);
    const gust = this.settings.gustMps;
    if (gust > 0) {
      const feet = clamp(aboveGroundM / 0.3048, 10, 1000);
      const common = (0.177 + 0.000823 * feet) ** 1.2;
      const lengthU = (feet / common) * 0.3048;
      const lengthW = Math.max(3, aboveGroundM);
      const speed = Math.max(5, airspeed);
      const sigmaW = gust * Math.max(0.3, 0.5 * common ** 0.4);
      this.u = this.shape(this.u, lengthU, speed, gust, dt);
      this.v = this.shape(this.v, lengthU, speed, gust, dt);
      this.w = this.shape(this.w, lengthW, speed, sigmaW, dt);
    }
    const along = mean + this.u;
    this.velocity[0] = this.toNorth * along - this.toEast * this.v;
    this.velocity[1] = this.toEast * along + this.toNorth * this.v;
    this.velocity[2] = this.w;
  }

  private shape(x: number, length: number, speed: number, sigma: number, dt: number): number {
    const decay = Math.exp((-dt * speed) / length);
    return decay * x + sigma * Math.sqrt(1 - decay * decay) * this.random.normal();
  }
}
