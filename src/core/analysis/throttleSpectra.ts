import FFT from 'fft.js';
import type { Spectrum } from './spectrum.ts';

/** Spectra of a signal by the throttle at which it was taken. */
export interface ThrottleSpectra {
  readonly stepHz: number;
  /** One a band of throttle, from none to full; null where it was hardly ever flown. */
  readonly bands: readonly (Spectrum | null)[];
}

/** A stretch of a log without a gap, evenly spaced. */
export interface ThrottleStretch {
  readonly signal: Float64Array;
  /** 0 to 1, beside each sample. */
  readonly throttle: Float64Array;
}

/** Fewer windows than this tell nothing of a band. */
const LEAST_WINDOWS = 3;

/** The middle of a band of throttle, 0 to 1. */
export const middleOf = (band: number, bands: number): number => (band + 0.5) / bands;

/**
 * Welch's averaged periodogram (1967) in bands of throttle: each window, half overlapped, without its mean and under a Hann window,
 * counts for the band of its mean throttle.
 * @param rateHz of the samples @param bands how many @param size of a window, a power of two
 */
export function throttleSpectra(
  stretches: readonly ThrottleStretch[],
  rateHz: number,
  bands: number,
  size = 256,
): ThrottleSpectra {
  const fft = new FFT(size);
  const hann = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
  const power = hann.reduce((sum, w) => sum + w * w, 0);
  const sums = Array.from({ length: bands }, () => ({ density: new Float64Array(size / 2 + 1), windows: 0 }));
  const input = new Array<number>(size);
  const out = fft.createComplexArray();
  for (const { signal, throttle } of stretches)
    for (let from = 0; from + size <= signal.length; from += size / 2) {
      let [mean, lever] = [0, 0];
      for (let i = 0; i < size; i++) {
        mean += signal[from + i]! / size;
        lever += throttle[from + i]! / size;
      }
      if (!Number.isFinite(mean + lever)) continue;
      const band = sums[Math.min(bands - 1, Math.max(0, Math.floor(lever * bands)))]!;
      for (let i = 0; i < size; i++) input[i] = hann[i]! * (signal[from + i]! - mean);
      fft.realTransform(out, input);
      for (let k = 0; k <= size / 2; k++) band.density[k]! += out[2 * k]! ** 2 + out[2 * k + 1]! ** 2;
      band.windows++;
    }
  const stepHz = rateHz / size;
  return {
    stepHz,
    bands: sums.map(({ density, windows }) => {
      if (windows < LEAST_WINDOWS) return null;
      for (let k = 0; k < density.length; k++)
        density[k]! *= (k === 0 || k === size / 2 ? 1 : 2) / (windows * power * rateHz);
      return { stepHz, density, windows };
    }),
  };
}
