import { inverse } from 'ml-matrix';
import { NormalEquations } from '../analysis/normalEquations.ts';

/** One moment of a flown circle. */
export interface CircleSample {
  /** Over ground, m/s. */
  readonly north: number;
  readonly east: number;
  /** Through the air as the tube says it under its scale now, true, m/s. */
  readonly airspeed: number;
}

export interface CircleFit {
  /** What the tube's speed has to be multiplied by. */
  readonly factor: number;
  /** One sigma. */
  readonly sigma: number;
  /** The wind blows to there, m/s. */
  readonly windNorth: number;
  readonly windEast: number;
  /** Rms of |v - w| - k V, m/s. */
  readonly residual: number;
  /** Share of the compass rose that was flown through, 0 to 1. */
  readonly round: number;
}

const SECTORS = 12;
const LEAST = 40;
const STEPS = 10;

/**
 * Scale of an airspeed sensor and the wind, from circles: in steady wind w the ground speeds of a craft that flies at k V through
 * the air lie on a circle about w, |v - w| = k V. Three unknowns by Gauss-Newton, from k = 1 and the mean as wind.
 */
export function airspeedFromCircles(
  samples: readonly CircleSample[],
): CircleFit | { readonly refused: string } {
  const flying = samples.filter((s) => s.airspeed > 5 && Number.isFinite(s.north + s.east));
  if (flying.length < LEAST)
    return { refused: 'Too little flight to tell. Fly two whole circles at one speed.' };
  const mean = (of: (s: CircleSample) => number) => flying.reduce((sum, s) => sum + of(s), 0) / flying.length;
  let k = 1;
  let wn = mean((s) => s.north);
  let we = mean((s) => s.east);
  const seen = new Set<number>();
  for (const s of flying) {
    const course = Math.atan2(s.east - we, s.north - wn);
    seen.add(Math.floor(((course + Math.PI) / (2 * Math.PI)) * SECTORS) % SECTORS);
  }
  const round = seen.size / SECTORS;
  if (round < 0.75)
    return {
      refused: 'The flight did not go round: wind and scale cannot be told apart. Fly two whole circles.',
    };
  let squares = 0;
  let sigma = Number.NaN;
  for (let step = 0; step < STEPS; step++) {
    const sums = new NormalEquations(3);
    squares = 0;
    for (const s of flying) {
      const n = s.north - wn;
      const e = s.east - we;
      const size = Math.hypot(n, e) || 1;
      const off = k * s.airspeed - size;
      squares += off * off;
      sums.row.set([-n / size, -e / size, -s.airspeed]);
      sums.add(off);
    }
    const change = sums.solve();
    if (!change) break;
    wn += change[0]!;
    we += change[1]!;
    k += change[2]!;
    // Neighbours in time are wrong together: a dozen samples count for one.
    sigma = Math.sqrt((squares / flying.length) * inverse(sums.normal, true).get(2, 2) * 12);
    if (Math.hypot(...change) < 1e-9) break;
  }
  const residual = Math.sqrt(squares / flying.length);
  if (residual > 2.5 || !(k > 0.6 && k < 1.6))
    return {
      refused:
        'Ground speed and airspeed do not fit one wind: it was gusty, or the craft was not flown at one height.',
    };
  return { factor: k, sigma, windNorth: wn, windEast: we, residual, round };
}
