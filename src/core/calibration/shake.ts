import { type Line, linesOf, rmsWithin, type Spectrum, welch } from '../analysis/spectrum.ts';
import { DEG } from '../math/scalar.ts';

/** A line of the shake, and what makes it. */
interface NamedLine extends Line {
  readonly from: 'shaft' | 'blades' | 'twice-blades' | 'unknown';
}

/** How a craft shakes at one throttle. */
export interface Shake {
  /** 0 to 1, as commanded; NaN where it is not known. */
  readonly throttle: number;
  readonly spectrum: Spectrum;
  /** Above the craft's own motion, rad/s rms. */
  readonly gyroRms: number;
  readonly lines: readonly NamedLine[];
}

/** Below this lies the craft's own motion, Hz. */
const OWN_MOTION_HZ = 12;
/** A line belongs to a speed within this share. */
const NEAR = 0.06;

/**
 * Level and spectrum of the shake along the axis that shakes most.
 * @param gyro rad/s, x y z by turns, evenly spaced @param rateHz
 * @param shaftHz what the motors are taken to turn at; NaN where nobody knows: then the strongest pair of lines tells
 * @param blades of a propeller
 */
export function shakeOf(
  gyro: ArrayLike<number>,
  rateHz: number,
  {
    throttle,
    shaftHz,
    blades,
  }: { readonly throttle: number; readonly shaftHz: number; readonly blades: number },
): Shake | null {
  const n = Math.floor(gyro.length / 3);
  let worst: Spectrum | null = null;
  let most = -1;
  for (let axis = 0; axis < 3; axis++) {
    const spectrum = welch(
      Float64Array.from({ length: n }, (_, i) => gyro[3 * i + axis]!),
      rateHz,
      sizeFor(n),
    );
    if (!spectrum) return null;
    const rms = rmsWithin(spectrum, OWN_MOTION_HZ, rateHz / 2);
    if (rms > most) [worst, most] = [spectrum, rms];
  }
  const lines = linesOf(worst!, 6, OWN_MOTION_HZ);
  return { throttle, spectrum: worst!, gyroRms: most, lines: named(lines, shaftHz, blades) };
}

const sizeFor = (n: number) => 2 ** Math.max(6, Math.min(10, Math.floor(Math.log2(n / 3))));

function named(lines: readonly Line[], shaftHz: number, blades: number): NamedLine[] {
  const shaft = Number.isFinite(shaftHz) ? shaftHz : shaftFrom(lines, blades);
  return lines.map((line) => {
    const ratio = line.hz / shaft;
    const is = (times: number) => Math.abs(ratio / times - 1) < NEAR;
    const from = is(1) ? 'shaft' : is(blades) ? 'blades' : is(2 * blades) ? 'twice-blades' : 'unknown';
    return { ...line, from };
  });
}

/** The lowest line that has another at the blades' multiple of it. */
function shaftFrom(lines: readonly Line[], blades: number): number {
  const rising = [...lines].sort((a, b) => a.hz - b.hz);
  const found = rising.find((a) => rising.some((b) => Math.abs(b.hz / (blades * a.hz) - 1) < NEAR));
  return found?.hz ?? rising[0]?.hz ?? Number.NaN;
}

export type ShakeVerdict = 'good' | 'balance' | 'soft-mount' | 'filter';

/** Shake at the gyro that a stabiliser takes without harm, and that which no filter should have to take, rad/s rms. */
export const SHAKE_GOOD = 3 * DEG;
export const SHAKE_BAD = 20 * DEG;

/** What to do about the worst of several throttles: what makes it, if one thing does; else how the board is held. */
export function judgeShake(
  shakes: readonly Shake[],
): { readonly verdict: ShakeVerdict; readonly worst: Shake } | null {
  const worst = shakes.reduce<Shake | null>((w, s) => (w && w.gyroRms >= s.gyroRms ? w : s), null);
  if (!worst) return null;
  const rms = (from: NamedLine['from']) =>
    Math.hypot(0, ...worst.lines.filter((l) => l.from === from).map((l) => l.rms));
  if (worst.gyroRms < SHAKE_GOOD) return { verdict: 'good', worst };
  // Once a turn is weight that is not in the middle; at the blades' speed it is the air, which nobody can balance.
  if (rms('shaft') > 0.6 * worst.gyroRms && worst.gyroRms > 2 * SHAKE_GOOD)
    return { verdict: 'balance', worst };
  return { verdict: worst.gyroRms > SHAKE_BAD ? 'soft-mount' : 'filter', worst };
}
