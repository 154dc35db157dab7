import { fitLine } from '../analysis/line.ts';
import { noiseDensity, welch } from '../analysis/spectrum.ts';
import { DEG } from '../math/scalar.ts';
import type { Triple } from '../math/triple.ts';

/** What a gyro says while nothing moves. */
export interface GyroRest {
  readonly seconds: number;
  readonly samples: number;
  /** Mean, rad/s, board axes. */
  readonly bias: Triple;
  /** Largest of three axes, rad/s per root Hz. */
  readonly density: number;
  /** How the bias wanders, the largest of three axes, rad/s per minute, and one sigma of that. */
  readonly drift: number;
  readonly driftSigma: number;
  readonly verdict: 'good' | 'noisy' | 'warming' | 'biased';
}

export type RestRefusal = { readonly refused: string };

/** Less than this says nothing of drift, s. */
const REST_LEAST_S = 8;
/** At rest a gyro wanders by no more; what does is moved, rad/s. */
const MOVED = 0.03;
/** Chips of this class have 0.004 to 0.012 degrees per second and root Hz; three times that is a fault or a shake. */
const DENSITY_GOOD = 0.015 * DEG;
/** Bias and drift above these are told, rad/s and rad/s per minute. */
const BIAS_GOOD = 1 * DEG;
const DRIFT_GOOD = 0.12 * DEG;

/**
 * Bias, noise and drift of a gyro at rest.
 * @param samples rad/s, x y z by turns, evenly spaced @param rateHz
 */
export function gyroAtRest(samples: ArrayLike<number>, rateHz: number): GyroRest | RestRefusal {
  const n = Math.floor(samples.length / 3);
  const seconds = n / rateHz;
  if (seconds < REST_LEAST_S)
    return {
      refused: `${seconds.toFixed(0)} s are too few to tell noise from drift; leave it for ${REST_LEAST_S} s.`,
    };
  const blocks = Math.max(8, Math.floor(seconds * 2));
  const per = Math.floor(n / blocks);
  const bias: [number, number, number] = [0, 0, 0];
  let density = 0;
  let drift = 0;
  let driftSigma = 0;
  for (let axis = 0; axis < 3; axis++) {
    const signal = Float64Array.from({ length: n }, (_, i) => samples[3 * i + axis]!);
    bias[axis] = signal.reduce((sum, v) => sum + v, 0) / n;
    const means = Array.from({ length: blocks }, (_, b) => {
      let sum = 0;
      for (let i = b * per; i < (b + 1) * per; i++) sum += signal[i]!;
      return sum / per;
    });
    if (signal.every((v) => v === signal[0]))
      return {
        refused:
          'It says one and the same number all the while: the chip hangs. Take the power away, give it back, and begin again.',
      };
    if (Math.max(...means) - Math.min(...means) > MOVED)
      return { refused: 'It was moved meanwhile. Leave it on the table, hands off, and begin again.' };
    const line = fitLine(
      means.map((_, b) => (b * per) / rateHz / 60),
      means,
    );
    if (line && Math.abs(line.slope) > drift) {
      drift = Math.abs(line.slope);
      driftSigma = line.slopeSigma;
    }
    const spectrum = welch(signal, rateHz, Math.min(512, 2 ** Math.floor(Math.log2(n / 4))));
    if (spectrum) density = Math.max(density, noiseDensity(spectrum, 0.1 * rateHz, 0.45 * rateHz));
  }
  const warming = drift > DRIFT_GOOD && drift > 3 * driftSigma;
  const verdict =
    density > DENSITY_GOOD
      ? 'noisy'
      : Math.hypot(...bias) > BIAS_GOOD
        ? 'biased'
        : warming
          ? 'warming'
          : 'good';
  return { seconds, samples: n, bias, density, drift, driftSigma, verdict };
}
