import { type Complex, complex, over, plus, polar } from '../math/complex.ts';
import { Biquad } from './biquad.ts';

/** One-pole low-pass, k = dt/(dt + 1/(2 pi f_c)). A cut-off of zero lets everything through. */
export class LowPass {
  value = 0;
  private readonly k: number;

  constructor(
    cutoffHz: number,
    private readonly dt: number,
  ) {
    this.k = cutoffHz > 0 ? dt / (dt + 1 / (2 * Math.PI * cutoffHz)) : 1;
  }

  step(input: number): number {
    this.value += this.k * (input - this.value);
    return this.value;
  }

  /** What it makes of a steady swing: k/(1 - (1 - k) z^-1), z = exp(j 2 pi f dt). @param hz below half the rate */
  at(hz: number): Complex {
    const back = polar(1, -2 * Math.PI * hz * this.dt);
    return over(complex(this.k), plus(complex(1), complex((this.k - 1) * back.re, (this.k - 1) * back.im)));
  }

  reset(value = 0): void {
    this.value = value;
  }
}

/** Butterworth's damping: no frequency stands out. */
const BUTTERWORTH_Q = Math.SQRT1_2;

/**
 * Second-order low-pass by the bilinear transform (Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter coefficients", 1998).
 * A cut-off of zero, or beyond what the rate tells of, lets everything through.
 */
export class LowPass2 extends Biquad {
  constructor(cutoffHz: number, dt: number) {
    super(dt);
    if (!(cutoffHz > 0) || cutoffHz >= 0.45 / dt) return;
    const w = 2 * Math.PI * cutoffHz * dt;
    const alpha = Math.sin(w) / (2 * BUTTERWORTH_Q);
    const a0 = 1 + alpha;
    const b0 = (1 - Math.cos(w)) / 2 / a0;
    this.set(b0, 2 * b0, b0, (-2 * Math.cos(w)) / a0, (1 - alpha) / a0);
  }
}
