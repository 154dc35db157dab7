import { Random } from '../math/random.ts';
import { clamp, DEG } from '../math/scalar.ts';
import type { Vec3 } from '../math/vector.ts';

/** Roughness length of peat moor and short grass, m (Wieringa 1992, class "open"). */
const ROUGHNESS_M = 0.03;
const REFERENCE_M = 10;
/** Up to here the logarithmic law of the surface layer holds. */
const LAYER_TOP_M = 300;
/** Above it the power law that engineers use for the rest of the boundary layer (Davenport 1960, open country)... */
const POWER = 1 / 7;
/** ...up to the height of the gradient wind, from where it blows evenly. */
const GRADIENT_M = 1000;
const LOG_REFERENCE = Math.log(REFERENCE_M / ROUGHNESS_M);
const LOG_TOP = Math.log(LAYER_TOP_M / ROUGHNESS_M) / LOG_REFERENCE;

/**
 * Mean wind at a height above ground: by the logarithmic profile over open ground up to 300 m, by the power law on to
 * 1000 m, held from there.
 * @param speedAt10M wind at 10 m, as forecasts give it, m/s
 */
export function windAtHeight(speedAt10M: number, aboveGroundM: number): number {
  const h = clamp(aboveGroundM, 2, GRADIENT_M);
  if (h <= LAYER_TOP_M) return (speedAt10M * Math.log(h / ROUGHNESS_M)) / LOG_REFERENCE;
  return speedAt10M * LOG_TOP * (h / LAYER_TOP_M) ** POWER;
}

export interface WindSettings {
  /** At 10 m above ground, m/s. */
  readonly speedMps: number;
  /** Where it blows from, degrees from north. */
  readonly fromDeg: number;
  /** Standard deviation of the gusts along the wind, m/s. */
  readonly gustMps: number;
}

const FEET = 0.3048;
/** Low-altitude law below, medium and high altitude above, straight between (MIL-F-8785C, 3.7.2 and 3.7.3). */
const LOW_TOP_FT = 1000;
const MEDIUM_FROM_FT = 2000;
const MEDIUM_LENGTH_FT = 1750;
/** The law is not used nearer to the ground, ft. */
const LOWEST_FT = 10;

/** Lengths of the gusts, m, and their strength across over that along the wind. */
export interface GustLaw {
  along: number;
  upright: number;
  uprightShare: number;
}

/** Dryden gusts at a height above ground (MIL-F-8785C, 3.7.3.4 up to 1000 ft, 3.7.2.3 from 2000 ft). Fills `out`. */
export function gustLaw(out: GustLaw, aboveGroundM: number): GustLaw {
  const feet = aboveGroundM / FEET;
  const low = clamp(feet, LOWEST_FT, LOW_TOP_FT);
  const common = 0.177 + 0.000823 * low;
  out.along = (low / common ** 1.2) * FEET;
  out.upright = low * FEET;
  out.uprightShare = common ** 0.4;
  const higher = clamp((feet - LOW_TOP_FT) / (MEDIUM_FROM_FT - LOW_TOP_FT), 0, 1);
  if (higher > 0) {
    const medium = MEDIUM_LENGTH_FT * FEET;
    out.along += higher * (medium - out.along);
    out.upright += higher * (medium - out.upright);
    out.uprightShare += higher * (1 - out.uprightShare);
  }
  return out;
}

/**
 * Share of the gusts' variance that is a slow wander of strength and direction, below the law's own band, and how
 * slowly it goes, s. The law's part is lessened by as much.
 */
const WANDER = 0.1;
const WANDER_S = 200;
const LAW_PART = Math.sqrt(1 - WANDER);
const WANDER_PART = Math.sqrt(WANDER);
/** The law's lengths change slowly: they are worked out anew this often. */
const LAW_STEPS = 16;

/** One axis of Dryden gusts with unit variance, driven by white noise. */
class Gust {
  value = 0;
  private first = 0;
  private second = 0;

  constructor(
    private readonly random: Random,
    /** Across and upright the law has two poles and a zero, along one pole. */
    private readonly across: boolean,
  ) {}

  /** @param turned way through the air over the length of the gusts, this step */
  step(turned: number): void {
    const decay = Math.exp(-turned);
    const before = this.first;
    this.first = decay * before + Math.sqrt(1 - decay * decay) * this.random.normal();
    if (!this.across) {
      this.value = this.first;
      return;
    }
    // (1 + sqrt(3) s/a)/(1 + s/a)^2 = sqrt(3)/(1 + s/a) + (1 - sqrt(3))/(1 + s/a)^2, whose variance is twice that of one pole.
    this.second = decay * this.second + 0.5 * turned * (decay * before + this.first);
    this.value = (SQRT3 * this.first + (1 - SQRT3) * this.second) / Math.SQRT2;
  }
}

const SQRT3 = Math.sqrt(3);

/**
 * Mean wind, Dryden gusts and a slow wander of strength and direction. Gusts are crossed at the airspeed, or at the
 * speed of the wind that carries them past a craft that stands.
 */
export class Wind {
  /** Wind velocity, north-east-down, m/s. */
  readonly velocity: Vec3 = new Float64Array(3);
  private readonly random: Random;
  private readonly u: Gust;
  private readonly v: Gust;
  private readonly w: Gust;
  private readonly law: GustLaw = { along: 100, upright: 50, uprightShare: 0.5 };
  private toNorth = 0;
  private toEast = 0;
  private meanAt10 = 0;
  private stronger = 0;
  private aside = 0;
  private tick = 0;

  constructor(
    private readonly settings: WindSettings,
    seed: number,
  ) {
    this.random = new Random(seed);
    this.u = new Gust(this.random, false);
    this.v = new Gust(this.random, true);
    this.w = new Gust(this.random, true);
    this.stronger = this.random.normal();
    this.aside = this.random.normal();
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
    let along = mean;
    let across = 0;
    let down = 0;
    if (gust > 0) {
      if (this.tick++ % LAW_STEPS === 0) gustLaw(this.law, aboveGroundM);
      const { law, u, v, w } = this;
      const way = Math.max(airspeed, mean, 2) * dt;
      u.step(way / law.along);
      v.step(way / law.along);
      w.step(way / law.upright);
      const k = dt / WANDER_S;
      const push = Math.sqrt(2 * k);
      this.stronger += push * this.random.normal() - k * this.stronger;
      this.aside += push * this.random.normal() - k * this.aside;
      along += gust * (LAW_PART * u.value + WANDER_PART * this.stronger);
      across = gust * (LAW_PART * v.value + WANDER_PART * this.aside);
      down = gust * law.uprightShare * w.value;
    }
    this.velocity[0] = this.toNorth * along - this.toEast * across;
    this.velocity[1] = this.toEast * along + this.toNorth * across;
    this.velocity[2] = down;
  }
}
