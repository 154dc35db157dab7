import { fitLine } from '../analysis/line.ts';

/** What a barometer says while the craft stands still, as heights. */
export interface BaroRest {
  readonly seconds: number;
  /** Of single samples about their slow course, m. */
  readonly noiseM: number;
  /** m per minute. */
  readonly driftMPerMin: number;
  /** From the lowest to the highest of second means, m. */
  readonly wanderM: number;
  readonly verdict: 'good' | 'noisy' | 'drifts';
}

export const BARO_LEAST_S = 10;
/** A chip of this class has 0.1 to 0.3 m; a craft that keeps height by it wants no more than a metre of drift a minute. */
const BARO_NOISE_GOOD_M = 0.4;
const BARO_DRIFT_GOOD_M = 1.5;

/** @param heights m, evenly spaced @param rateHz */
export function baroAtRest(
  heights: readonly number[],
  rateHz: number,
): BaroRest | { readonly refused: string } {
  const seconds = heights.length / rateHz;
  if (seconds < BARO_LEAST_S)
    return { refused: `Leave it for ${BARO_LEAST_S} s; drift does not show sooner.` };
  if (heights.every((h) => h === heights[0]))
    return {
      refused:
        'It says one and the same number all the while: the chip hangs. Take the power away and give it back.',
    };
  const means = secondMeans(heights, rateHz);
  const noise = Math.sqrt(
    heights.reduce(
      (sum, h, i) => sum + (h - means[Math.min(means.length - 1, Math.floor(i / rateHz))]!) ** 2,
      0,
    ) / heights.length,
  );
  const line = fitLine(
    means.map((_, i) => i / 60),
    means,
  );
  const drift = line?.slope ?? 0;
  const wanderM = Math.max(...means) - Math.min(...means);
  const verdict =
    noise > BARO_NOISE_GOOD_M
      ? 'noisy'
      : Math.abs(drift) > BARO_DRIFT_GOOD_M && wanderM > 0.5
        ? 'drifts'
        : 'good';
  return { seconds, noiseM: noise, driftMPerMin: drift, wanderM, verdict };
}

function secondMeans(values: readonly number[], rateHz: number): number[] {
  const per = Math.max(1, Math.round(rateHz));
  return Array.from({ length: Math.floor(values.length / per) }, (_, s) => {
    const part = values.slice(s * per, (s + 1) * per);
    return part.reduce((sum, v) => sum + v, 0) / part.length;
  });
}

/** Height that a disturbance pretends, and whether a shield is wanted. */
export interface Disturbed {
  /** m, with its sign. */
  readonly shiftM: number;
  /** What it would be at cruise, m, growing with the square of speed; NaN without a known speed. */
  readonly atCruiseM: number;
  readonly verdict: 'shielded' | 'shield-it';
}

/** More than this at cruise and a craft that keeps its height flies into something, m. */
const SLIPSTREAM_GOOD_M = 3;

/**
 * Mean height before and during a fan, a breath or a lamp.
 * @param before @param during heights, m @param speed of the fan's air, m/s; NaN where it is not known @param cruise m/s
 */
export function disturbedBy(
  before: readonly number[],
  during: readonly number[],
  { speed, cruise }: { readonly speed: number; readonly cruise: number },
): Disturbed | { readonly refused: string } {
  if (before.length < 25 || during.length < 25)
    return { refused: 'Too few samples: hold it for two seconds at least.' };
  const median = (v: readonly number[]) => [...v].sort((a, b) => a - b)[v.length >> 1]!;
  const shiftM = median(during) - median(before);
  const atCruiseM = Number.isFinite(speed) ? shiftM * (cruise / speed) ** 2 : Number.NaN;
  const size = Math.abs(Number.isFinite(atCruiseM) ? atCruiseM : shiftM);
  return { shiftM, atCruiseM, verdict: size > SLIPSTREAM_GOOD_M ? 'shield-it' : 'shielded' };
}

/** What a rangefinder says standing and lifted by a measured height, m. */
export function rangeFromLift(
  standingM: number,
  liftedM: number,
  liftM: number,
): { readonly scale: number; readonly offset: number } | { readonly refused: string } {
  if (!(liftM >= 0.3)) return { refused: 'Lift it by 0.3 m at least: its noise is a few centimetres.' };
  if (!(liftedM > standingM + 0.1))
    return { refused: 'The distance did not grow. Does it look at the floor, and is nothing before it?' };
  const scale = liftM / (liftedM - standingM);
  if (!(scale > 0.8 && scale < 1.25))
    return {
      refused: `It would have to be scaled by ${scale.toFixed(2)}. Measure the lift again, and lift it straight up.`,
    };
  return { scale, offset: scale * standingM };
}

/** Ground that turns by less than this says nothing of the scale, rad/s rms. */
const ROCKED = 0.15;

/**
 * What a flow sensor's rates have to be multiplied by, from a craft that is rocked in one place: the ground then turns just as the
 * gyro does.
 * @param flow @param gyro rad/s about the same axis of the craft, at the same moments
 */
export function flowScaleFrom(
  flow: readonly number[],
  gyro: readonly number[],
): { readonly scale: number; readonly sigma: number } | { readonly refused: string } {
  const rms = Math.sqrt(gyro.reduce((sum, w) => sum + w * w, 0) / Math.max(1, gyro.length));
  if (gyro.length < 50 || rms < ROCKED)
    return { refused: 'Rock it from side to side for some seconds, a hand’s breadth each way.' };
  const line = fitLine(flow, gyro);
  if (!line || line.explains < 0.7)
    return {
      refused:
        'The ground does not turn as the craft does: it was carried along as well, or the sensor is turned in its mount.',
    };
  if (!(line.slope > 0.7 && line.slope < 1.4))
    return {
      refused: `It would have to be scaled by ${line.slope.toFixed(2)}. Its lens is another than it believes.`,
    };
  return { scale: line.slope, sigma: line.slopeSigma };
}

/** What the tube says under its cover, and the most that a breath made of it, Pa. */
export interface TubeSeen {
  readonly zeroPa: number;
  readonly peakPa: number;
  readonly verdict: 'whole' | 'weak' | 'blocked';
}

/** A breath into the tube makes some hundred pascals; a tube that leaks keeps a part of it. */
const BREATH_PA = 200;
const BLOCKED_PA = 30;

export function tubeSeen(zeroPa: number, peakPa: number): TubeSeen {
  const more = peakPa - zeroPa;
  return { zeroPa, peakPa, verdict: more >= BREATH_PA ? 'whole' : more >= BLOCKED_PA ? 'weak' : 'blocked' };
}
