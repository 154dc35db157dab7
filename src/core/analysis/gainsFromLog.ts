import { inverse } from 'ml-matrix';
import { NormalEquations } from './normalEquations.ts';

/** A stretch of a loop that was logged: rad/s asked for and come, and the command it gave, share of full. */
export interface LoopStretch {
  readonly asked: Float64Array;
  readonly came: Float64Array;
  readonly given: Float64Array;
}

/** A gain as it was at work, and how sure it is: one standard deviation. */
export interface MeasuredGain {
  readonly value: number;
  readonly sure: number;
}

export interface MeasuredGains {
  readonly p: MeasuredGain;
  readonly i: MeasuredGain;
  readonly d: MeasuredGain;
  readonly forward: MeasuredGain;
  /** Share of what was given that they explain. */
  readonly explained: number;
  /** The gyro reached the loop so much later than the log, s. */
  readonly lateS: number;
}

/** Sums are told within windows of this, s: what they were before is not known. */
const WINDOW_S = 2;
/** D stands behind a low-pass of this, Hz, before the log is held against it. */
const SLOPE_HZ = 30;
/** The gyro of a loop is filtered: it is looked for so much later, s. */
const LATEST_S = 0.012;
/** A command at its end tells nothing of gains. */
const ENDS = 0.98;
/** Fewer windows than this tell nothing. */
const LEAST_WINDOWS = 4;
const UNKNOWNS = 4;
/** Samples of a filtered loop are not independent: so many of them count as one. */
const ALIKE_S = 0.02;

/**
 * Gains of a rate loop out of what it was asked, what came and what it gave, by least squares over windows whose means are taken out:
 * given = F asked + P (asked - came) + I sum(asked - came) - D slope(came). The gyro's lateness is that which leaves least.
 * @returns null where too little was flown, or the command hardly moved
 */
export function gainsFromLog(stretches: readonly LoopStretch[], rateHz: number): MeasuredGains | null {
  let best: (MeasuredGains & { readonly left: number }) | null = null;
  for (let late = 0; late <= Math.round(LATEST_S * rateHz); late++) {
    const found = fit(stretches, rateHz, late);
    if (found && (!best || found.left < best.left)) best = found;
  }
  if (!best) return null;
  const { left: _, ...gains } = best;
  return gains;
}

function fit(stretches: readonly LoopStretch[], rateHz: number, late: number) {
  const equations = new NormalEquations(UNKNOWNS);
  const n = Math.round(WINDOW_S * rateHz);
  const columns = Array.from({ length: UNKNOWNS + 1 }, () => new Float64Array(n));
  let [windows, square] = [0, 0];
  for (const s of stretches)
    for (let from = late + 1; from + n <= s.given.length; from += n) {
      if (!fill(columns, s, from, late, rateHz)) continue;
      windows++;
      for (const c of columns) takeMeanOut(c);
      for (let k = 0; k < n; k++) {
        for (let j = 0; j < UNKNOWNS; j++) equations.row[j] = columns[j]![k]!;
        const given = columns[UNKNOWNS]![k]!;
        equations.add(given);
        square += given * given;
      }
    }
  if (windows < LEAST_WINDOWS || square < 1e-9) return null;
  const x = equations.solve();
  if (!x) return null;
  // |y|^2 - 2 x A'y + x A'A x = |y|^2 - x A'y at the least squares.
  const normal = equations.normal;
  let explained = 0;
  for (let i = 0; i < UNKNOWNS; i++)
    for (let j = 0; j < UNKNOWNS; j++) explained += x[i]! * normal.get(i, j) * x[j]!;
  const left = Math.max(0, square - explained);
  const alike = Math.max(1, ALIKE_S * rateHz);
  const variance = (left / Math.max(1, windows * n - UNKNOWNS)) * alike;
  const spread = inverse(normal, true);
  const gain = (k: number): MeasuredGain => ({
    value: x[k]!,
    sure: Math.sqrt(Math.max(0, variance * spread.get(k, k))),
  });
  return {
    forward: gain(0),
    p: gain(1),
    i: gain(2),
    d: gain(3),
    explained: explained / square,
    lateS: late / rateHz,
    left: left / square,
  };
}

/** @returns false where the command was at its end */
function fill(
  columns: readonly Float64Array[],
  { asked, came, given }: LoopStretch,
  from: number,
  late: number,
  rateHz: number,
): boolean {
  const [f, p, i, d, y] = columns as [Float64Array, Float64Array, Float64Array, Float64Array, Float64Array];
  const k = 1 - Math.exp((-2 * Math.PI * SLOPE_HZ) / rateHz);
  let [sum, slope] = [0, 0];
  for (let at = 0; at < y.length; at++) {
    const now = from + at;
    if (Math.abs(given[now]!) > ENDS) return false;
    const rate = came[now - late]!;
    const error = asked[now]! - rate;
    sum += error / rateHz;
    slope += k * ((rate - came[now - late - 1]!) * rateHz - slope);
    f[at] = asked[now]!;
    p[at] = error;
    i[at] = sum;
    d[at] = -slope;
    y[at] = given[now]!;
  }
  return true;
}

function takeMeanOut(line: Float64Array): void {
  const mean = line.reduce((sum, x) => sum + x, 0) / line.length;
  for (let k = 0; k < line.length; k++) line[k]! -= mean;
}
