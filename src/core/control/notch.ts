import { Biquad } from './biquad.ts';

/**
 * Second-order notch by the bilinear transform (Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter
 * coefficients", 1998). A centre of zero, or beyond what the rate tells of, lets everything through.
 */
export class Notch extends Biquad {
  constructor(
    centreHz: number,
    private readonly q: number,
    dt: number,
  ) {
    super(dt);
    this.tune(centreHz);
  }

  /** Moves the notch; its memory stays, so that it can follow a motor. */
  tune(centreHz: number): void {
    if (!(centreHz > 0) || centreHz >= 0.45 / this.dt) {
      this.set(1, 0, 0, 0, 0);
      return;
    }
    const w = 2 * Math.PI * centreHz * this.dt;
    const alpha = Math.sin(w) / (2 * this.q);
    const a0 = 1 + alpha;
    const b1 = (-2 * Math.cos(w)) / a0;
    this.set(1 / a0, b1, 1 / a0, b1, (1 - alpha) / a0);
  }
}
