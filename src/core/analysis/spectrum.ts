import FFT from 'fft.js';

/** Power density of a signal by frequency. */
export interface Spectrum {
  /** Between lines, Hz; the first is at 0. */
  readonly stepHz: number;
  /** One-sided, unit of the signal squared per Hz. */
  readonly density: Float64Array;
  /** Windows that were averaged. */
  readonly windows: number;
}

/**
 * Welch's averaged periodogram (1967): windows half overlapped, each without its mean, under a Hann window.
 * @param signal evenly spaced @param rateHz @param size of a window, a power of two
 * @returns null for a signal shorter than one window
 */
export function welch(signal: ArrayLike<number>, rateHz: number, size = 512): Spectrum | null {
  if (signal.length < size) return null;
  const fft = new FFT(size);
  const hann = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
  const power = hann.reduce((sum, w) => sum + w * w, 0);
  const density = new Float64Array(size / 2 + 1);
  const input = new Array<number>(size);
  const out = fft.createComplexArray();
  let windows = 0;
  for (let from = 0; from + size <= signal.length; from += size / 2) {
    let mean = 0;
    for (let i = 0; i < size; i++) mean += signal[from + i]! / size;
    for (let i = 0; i < size; i++) input[i] = hann[i]! * (signal[from + i]! - mean);
    fft.realTransform(out, input);
    for (let k = 0; k <= size / 2; k++) density[k]! += out[2 * k]! ** 2 + out[2 * k + 1]! ** 2;
    windows++;
  }
  for (let k = 0; k < density.length; k++) {
    const sides = k === 0 || k === size / 2 ? 1 : 2;
    density[k]! *= sides / (windows * power * rateHz);
  }
  return { stepHz: rateHz / size, density, windows };
}

/** Root mean square of what lies in a band, unit of the signal. */
export function rmsWithin({ density, stepHz }: Spectrum, fromHz: number, toHz: number): number {
  let sum = 0;
  const last = Math.min(density.length - 1, Math.floor(toHz / stepHz));
  for (let k = Math.max(1, Math.ceil(fromHz / stepHz)); k <= last; k++) sum += density[k]! * stepHz;
  return Math.sqrt(sum);
}

/** The floor that lines stand on: the median of the density in a band, as a root, unit per root Hz. */
export function noiseDensity({ density, stepHz }: Spectrum, fromHz: number, toHz: number): number {
  const within = [...density.subarray(Math.ceil(fromHz / stepHz), Math.floor(toHz / stepHz) + 1)].sort(
    (a, b) => a - b,
  );
  return Math.sqrt(within[within.length >> 1] ?? Number.NaN);
}

export interface Line {
  readonly hz: number;
  /** Root mean square of the line, unit of the signal. */
  readonly rms: number;
}

/** A line stands this far above the floor. */
const ABOVE = 12;

/** Lines of a spectrum, the loudest first: peaks that stand well above the median round about. */
export function linesOf(spectrum: Spectrum, most = 6, fromHz = 8): readonly Line[] {
  const { density, stepHz } = spectrum;
  const found: Line[] = [];
  for (let k = Math.max(2, Math.ceil(fromHz / stepHz)); k < density.length - 2; k++) {
    const here = density[k]!;
    if (here < density[k - 1]! || here <= density[k + 1]!) continue;
    const around = [...density.subarray(Math.max(1, k - 16), k + 17)].sort((a, b) => a - b);
    if (here < ABOVE * around[around.length >> 1]!) continue;
    // The peak lies between lines of the transform: the parabola through three logarithms finds it.
    const [a, b, c] = [density[k - 1]!, here, density[k + 1]!].map((v) => Math.log(Math.max(v, 1e-300)));
    const bend = a! - 2 * b! + c!;
    const shift = bend === 0 ? 0 : (0.5 * (a! - c!)) / bend;
    found.push({ hz: (k + shift) * stepHz, rms: rmsWithin(spectrum, (k - 2) * stepHz, (k + 2) * stepHz) });
  }
  return found.sort((a, b) => b.rms - a.rms).slice(0, most);
}
