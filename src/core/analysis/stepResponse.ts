import FFT from 'fft.js';

/** A stretch of a log without a gap, evenly spaced: what was asked for and what came, in one unit. */
export interface Stretch {
  readonly asked: Float64Array;
  readonly came: Float64Array;
}

/** What a step of one would have given, by a log. */
export interface LoggedStep {
  /** s between two of its points; the first is at the step. */
  readonly stepS: number;
  readonly mean: Float64Array;
  /** Standard error of each point, by leaving parts of the log out. */
  readonly spread: Float64Array;
  /** Windows with something to learn from, of all. */
  readonly windows: number;
  readonly looked: number;
  /** Up to this frequency what came has to do with what was asked, Hz: nothing quicker is resolved. */
  readonly upToHz: number;
}

export type StepFromLog =
  | { readonly ok: true; readonly step: LoggedStep }
  | { readonly ok: false; readonly why: string };

/** A window lasts at least so long, s, and so much of its answer is told. */
const WINDOW_S = 5;
const TOLD_S = 0.8;
/** Of the largest power: what is added to it, so that frequencies nobody asked for do not blow up. */
const REGULAR = 1e-4;
/** What came has to do with what was asked where this share of its power follows from it. */
const COHERENT = 0.5;
/** Fewer windows say nothing of how sure they are. */
const LEAST_WINDOWS = 6;
const PARTS = 8;

/** Sums over windows of |asked|^2, |came|^2 and conj(asked) came, by frequency. */
interface Sums {
  readonly asked: Float64Array;
  readonly came: Float64Array;
  readonly re: Float64Array;
  readonly im: Float64Array;
}

/**
 * The answer to a step out of a flight's own moves: cross power over power of what was asked, averaged over windows and regularised
 * (Bendat and Piersol 2010, 6.1), turned back into time and summed up.
 * @param rateHz of the samples
 * @param least what was asked has to move by this much (root mean square) for a window to count
 */
export function stepFromLog(stretches: readonly Stretch[], rateHz: number, least: number): StepFromLog {
  const size = 2 ** Math.ceil(Math.log2(WINDOW_S * rateHz));
  const fft = new FFT(size);
  const hann = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
  const parts: Sums[] = [];
  let [windows, looked] = [0, 0];
  const [one, other] = [fft.createComplexArray(), fft.createComplexArray()];
  for (const { asked, came } of stretches)
    for (let from = 0; from + size <= asked.length; from += size / 4) {
      looked++;
      const a = tapered(asked, from, hann);
      if (a.rms < least) continue;
      fft.realTransform(one, a.tapered);
      fft.realTransform(other, tapered(came, from, hann).tapered);
      const part = Math.floor(windows++ / 4) % PARTS;
      parts[part] ??= emptySums(size / 2 + 1);
      addTo(parts[part], one, other);
    }
  if (looked === 0)
    return {
      ok: false,
      why: `no stretch of it lasts ${(size / rateHz).toFixed(1)} s without a gap`,
    };
  if (windows < LEAST_WINDOWS)
    return {
      ok: false,
      why: `only ${windows} of ${looked} windows asked for enough: nothing can be learnt from sticks that rest. Fly ten sharp moves about this axis`,
    };
  const all = total(parts);
  const last = coherentUpTo(all);
  if (last < 3)
    return { ok: false, why: 'what came has nothing to do with what was asked, at any frequency' };
  const told = Math.min(size / 2, Math.round(TOLD_S * rateHz)) + 1;
  const mean = stepOf(all, last, fft, told);
  const spread = new Float64Array(told);
  const left = parts.map((p) => stepOf(without(all, p), last, fft, told));
  for (let k = 0; k < told; k++) {
    const middle = left.reduce((sum, s) => sum + s[k]!, 0) / left.length;
    const squares = left.reduce((sum, s) => sum + (s[k]! - middle) ** 2, 0);
    // The jackknife's variance (Efron 1982, 3.1).
    spread[k] = Math.sqrt(((left.length - 1) / left.length) * squares);
  }
  return {
    ok: true,
    step: { stepS: 1 / rateHz, mean, spread, windows, looked, upToHz: (last * rateHz) / size },
  };
}

/** Without its mean and tapered; and how much it moved before that. */
function tapered(signal: Float64Array, from: number, hann: Float64Array) {
  const size = hann.length;
  let mean = 0;
  for (let i = 0; i < size; i++) mean += signal[from + i]! / size;
  let square = 0;
  const out = new Array<number>(size);
  for (let i = 0; i < size; i++) {
    const off = signal[from + i]! - mean;
    square += (off * off) / size;
    out[i] = hann[i]! * off;
  }
  return { tapered: out, rms: Math.sqrt(square) };
}

const emptySums = (n: number): Sums => ({
  asked: new Float64Array(n),
  came: new Float64Array(n),
  re: new Float64Array(n),
  im: new Float64Array(n),
});

function addTo(sums: Sums, a: readonly number[], c: readonly number[]): void {
  for (let k = 0; k < sums.asked.length; k++) {
    const [ar, ai, cr, ci] = [a[2 * k]!, a[2 * k + 1]!, c[2 * k]!, c[2 * k + 1]!];
    sums.asked[k]! += ar * ar + ai * ai;
    sums.came[k]! += cr * cr + ci * ci;
    sums.re[k]! += ar * cr + ai * ci;
    sums.im[k]! += ar * ci - ai * cr;
  }
}

const keys = ['asked', 'came', 're', 'im'] as const;

function total(parts: readonly Sums[]): Sums {
  const sums = emptySums(parts[0]!.asked.length);
  for (const p of parts)
    for (const key of keys) for (let k = 0; k < sums[key].length; k++) sums[key][k]! += p[key][k]!;
  return sums;
}

function without(all: Sums, part: Sums): Sums {
  const sums = emptySums(all.asked.length);
  for (const key of keys)
    for (let k = 0; k < sums[key].length; k++) sums[key][k] = all[key][k]! - part[key][k]!;
  return sums;
}

/** The last line up to which, but for single ones, what came follows from what was asked. */
function coherentUpTo({ asked, came, re, im }: Sums): number {
  let [last, misses] = [0, 0];
  for (let k = 1; k < asked.length && misses < 4; k++) {
    const share = (re[k]! ** 2 + im[k]! ** 2) / Math.max(asked[k]! * came[k]!, 1e-300);
    if (share >= COHERENT) [last, misses] = [k, 0];
    else misses++;
  }
  return last;
}

/** Transfer by frequency, faded out beyond what is coherent, back into time and summed up. */
function stepOf({ asked, re, im }: Sums, last: number, fft: FFT, told: number): Float64Array {
  const size = 2 * (asked.length - 1);
  const most = asked.reduce((m, x) => Math.max(m, x), 0);
  const spectrum = fft.createComplexArray();
  for (let k = 0; k < asked.length; k++) {
    // The mean was taken off: what stays of a step is told by the slowest line.
    const from = Math.max(1, k);
    const under = asked[from]! + REGULAR * most;
    const fade =
      k <= last ? 1 : k < 1.5 * last ? 0.5 + 0.5 * Math.cos((Math.PI * (k - last)) / (0.5 * last)) : 0;
    spectrum[2 * k] = (fade * re[from]!) / under;
    spectrum[2 * k + 1] = k === 0 ? 0 : (fade * im[from]!) / under;
  }
  fft.completeSpectrum(spectrum);
  const blow = fft.createComplexArray();
  fft.inverseTransform(blow, spectrum);
  const step = new Float64Array(told);
  // What a band without an end smears to before the step belongs to it.
  let sum = 0;
  for (let k = size - Math.floor(size / 16); k < size; k++) sum += blow[2 * k]!;
  for (let k = 0; k < told; k++) {
    sum += blow[2 * k]!;
    step[k] = sum;
  }
  return step;
}
